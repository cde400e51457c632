import type { Schemas } from '../api/client'
import { Tag } from '../ui/basics'

/** Before it is bought: what is soldered is chosen at the factory, the rest can wait. */
export function Advice({ advice }: { advice: readonly Schemas['PurchaseAdvice'][] }) {
  return (
    <table className="w-full">
      <tbody>
        {advice.map((a) => (
          <tr key={a.what + a.says} className="border-hair border-t align-top first:border-t-0">
            <td className="py-1 pr-2 font-medium whitespace-nowrap">{a.what}</td>
            <td className="py-1 pr-2">
              <Tag>{a.now ? 'choose now' : 'can wait'}</Tag>
            </td>
            <td className="py-1">{a.says}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
