import { Button } from '../../ui/basics'
import { asList, claims, text, type Draft, type Json } from './draft'

const HOLDS = [
  ['anything', 'holds anything'],
  ['sata', 'holds a SATA drive'],
  ['pcie', 'holds a PCIe drive'],
  ['fills_bay', 'holds what fills the bay'],
] as const
const EFFECTS = [
  ['', 'nobody knows what happens'],
  ['none', 'nothing happens'],
  ['off', 'it is off'],
  ['filled', 'its room is filled'],
  ['x1', 'its lanes fall to ×1'],
  ['x2', 'its lanes fall to ×2'],
] as const

/** What a part in one slot does to another: shared lanes, shared room. */
export function Exclusions({ draft, onChange }: { draft: Draft; onChange: (draft: Draft) => void }) {
  const all = asList(draft['exclusions'])
  const put = (exclusions: Json[]) => onChange({ ...draft, exclusions })
  if (draft.slots.length < 2) return null
  const slots = draft.slots.map((s) => [text(s['id']), text(s['name'])] as const)
  return (
    <section className="card space-y-2 p-3">
      <h2>What shuts out what</h2>
      {all.map((x, i) => {
        const set = (change: Json) => put(all.map((e, n) => (n === i ? { ...e, ...change } : e)))
        const select = (name: string, label: string, options: readonly (readonly [string, string])[]) => (
          <select aria-label={label} value={text(x[name])} onChange={(e) => set({ [name]: e.target.value })}>
            {options.map(([id, words]) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
          </select>
        )
        return (
          <div key={i} className="flex flex-wrap items-center gap-1.5">
            When {select('when', 'The slot that is filled', slots)} {select('holds', 'With what', HOLDS)}, of{' '}
            {select('on', 'The slot that suffers', slots)}
            <select
              aria-label="What happens to it"
              value={text(claims(x['effect'])[0]?.value)}
              onChange={(e) => set({ effect: e.target.value ? [{ value: e.target.value, source: 'documented' }] : [] })}
            >
              {EFFECTS.map(([id, words]) => (
                <option key={id} value={id}>
                  {words}
                </option>
              ))}
            </select>
            <Button kind="quiet" aria-label="Remove this" onClick={() => put(all.filter((_, n) => n !== i))}>
              ×
            </Button>
          </div>
        )
      })}
      <Button
        kind="quiet"
        onClick={() => put([...all, { when: slots[0]![0], holds: 'anything', on: slots[1]![0], effect: [] }])}
      >
        one slot shuts out another
      </Button>
    </section>
  )
}
