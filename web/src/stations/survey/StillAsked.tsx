import type { Schemas } from '../../api/client'
import { money } from '../../words'
import { AsUsual } from './AsUsual'
import { MeasureButton } from './Measure'

/** What is still asked, once, by what settling it would decide; with what would settle it. */
export function StillAsked({ data, onSlot }: { data: Schemas['SurveyView']; onSlot: (slot: string) => void }) {
  const facts = new Map(
    [...data.map.slots.flatMap((s) => s.facts), ...data.map.board, ...data.map.starts].map((f) => [f.attribute, f]),
  )
  const asked = data.worth.filter((w) => !w.attribute.startsWith('part.'))
  return (
    <section className="card p-3" aria-label="Still asked">
      <h2 className="mb-1">Still asked</h2>
      {!asked.length && (
        <p className="text-ink-2 text-[13px]">Nothing of this machine stands between the catalogue and a verdict.</p>
      )}
      <ol className="text-[13px]">
        {asked.map((w) => {
          const fact = facts.get(w.attribute)
          const [place = '', slot = ''] = w.attribute.split('.')
          const prices = w.from_minor == null ? '' : `, ${money(w.from_minor)} to ${money(w.to_minor)}`
          return (
            <li key={w.attribute} className="border-hair flex items-start gap-2 border-t py-1">
              <span className="min-w-0 flex-1">
                <span className="font-semibold">{w.label}</span>{' '}
                <span className="text-ink-2">
                  decides {w.parts} {w.parts === 1 ? 'part' : 'parts'}
                  {prices}. {w.how} {w.minutes} min.
                </span>
              </span>
              {fact && <MeasureButton fact={fact} />}
              {place === 'fitted' && (
                <button type="button" className="underline" onClick={() => onSlot(slot)}>
                  say what is in it
                </button>
              )}
            </li>
          )
        })}
      </ol>
      <AsUsual usual={data.usual} word={data.as_usual} />
    </section>
  )
}
