import { Tag } from '../ui/basics'
import { withUnit, type Fact } from '../machine/Facts'

/** Every attribute with all its claims side by side: who says what, and which of it counts. */
export function Claims({ facts }: { facts: readonly Fact[] }) {
  return (
    <table className="w-full">
      <tbody>
        {facts.map((f) => (
          <tr
            key={f.attribute}
            className={`border-hair border-t align-top first:border-t-0 ${f.conflict ? 'bg-gold-soft' : ''}`}
          >
            <td className="text-ink-2 w-40 py-1 pr-2">{f.label}</td>
            <td className={`num w-28 py-1 pr-2 ${f.known ? 'font-semibold' : 'text-measure'}`}>
              {f.known ? withUnit(f.value, f.unit) : f.conflict ? 'disagree' : 'unknown'}
            </td>
            <td className="py-1">
              {f.claims.map((c, i) => (
                <span key={i} className="mr-3 inline-block text-[12.5px]">
                  <span className="num">{withUnit(c.value, f.unit)}</span> <Tag>{c.source}</Tag>{' '}
                  <span className="text-ink-2">{c.note}</span>
                </span>
              ))}
              {!f.claims.length && <span className="text-ink-2 text-[12.5px]">{f.measure}</span>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
