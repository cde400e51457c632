import type { Schemas } from '../api/client'
import { Tag, Tip } from '../ui/basics'

export type Fact = Schemas['FactView']

/** A value with its unit; 'none' and words have none. */
export const withUnit = (value: string, unit: string) => (value === 'none' ? value : `${value} ${unit}`.trim())

/** Facts with how each is known; every claim behind one on hover or focus. */
export function Facts({ facts, action }: { facts: readonly Fact[]; action?: (fact: Fact) => React.ReactNode }) {
  return (
    <table className="w-full">
      <tbody>
        {facts.map((f) => (
          <tr key={f.attribute} className="border-hair border-t align-top first:border-t-0">
            <td className="text-ink-2 py-1 pr-2">{f.label}</td>
            <td className={`num py-1 pr-2 ${f.known ? '' : 'text-measure'}`}>
              {f.known ? withUnit(f.value, f.unit) : f.value || 'unknown'}
              {f.conflict && <span className="text-refused block text-[11.5px]">claims disagree</span>}
            </td>
            <td className="py-1">
              <Tip text={f.steps.join('\n') || f.measure || 'no claim'}>
                <button type="button" className="cursor-help">
                  <Tag>{f.why}</Tag>
                </button>
              </Tip>
            </td>
            {action && <td className="py-1 text-right">{action(f)}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  )
}
