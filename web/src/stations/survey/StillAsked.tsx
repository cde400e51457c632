import type { Schemas } from '../../api/client'
import { answer, client } from '../../api/client'
import { useStation } from '../../api/job'
import { AsUsual } from './AsUsual'
import { MeasureButton } from './Measure'
import type { Fact } from './walk'
import { SHOWN, worthSays } from './worth'

/** What settling each thing would decide; undefined while the catalogue is looked through. */
export function useWorth() {
  return useStation('survey worth', (n) =>
    answer(client.GET('/api/jobs/{number}/survey/worth', { params: { path: { number: n } } })),
  ).data
}

/** What is still asked, once, by what settling it would decide; with what would settle it. */
export function StillAsked({ data, onSlot }: { data: Schemas['SurveyView']; onSlot: (slot: string) => void }) {
  const facts = new Map(
    [...data.map.slots.flatMap((s) => s.facts), ...data.map.board, ...data.map.starts].map((f) => [f.attribute, f]),
  )
  const worth = useWorth()
  const asked = worth?.filter((w) => !w.attribute.startsWith('part.')) ?? []
  return (
    <section className="card p-3" aria-label="Still asked">
      <h2 className="mb-1">Still asked</h2>
      {!worth && <p className="text-ink-2 text-[13px]">Looking through the catalogue for what it waits for.</p>}
      {worth && !asked.length && (
        <p className="text-ink-2 text-[13px]">Nothing of this machine stands between the catalogue and a verdict.</p>
      )}
      <ol className="text-[13px]">
        {asked.slice(0, SHOWN).map((w) => (
          <Asked key={w.attribute} worth={w} fact={facts.get(w.attribute)} onSlot={onSlot} />
        ))}
      </ol>
      {asked.length > SHOWN && (
        <details className="border-hair border-t text-[13px]">
          <summary className="cursor-pointer py-2">and {asked.length - SHOWN} more</summary>
          <ol>
            {asked.slice(SHOWN).map((w) => (
              <Asked key={w.attribute} worth={w} fact={facts.get(w.attribute)} onSlot={onSlot} />
            ))}
          </ol>
        </details>
      )}
      <AsUsual usual={data.usual} word={data.as_usual} />
    </section>
  )
}

function Asked({ worth: w, fact, onSlot }: { worth: Schemas['Worth']; fact?: Fact; onSlot: (slot: string) => void }) {
  const [place = '', slot = ''] = w.attribute.split('.')
  return (
    <li className="border-hair flex items-start gap-2 border-t py-1">
      <span className="min-w-0 flex-1">
        <span className="font-semibold">{w.label}</span>{' '}
        <span className="text-ink-2">
          {worthSays(w)}. {w.how} {w.minutes} min.
        </span>
      </span>
      {fact && <MeasureButton fact={fact} />}
      {place === 'firmware' && <span className="text-ink-2">typed below, or read</span>}
      {place === 'fitted' && (
        <button type="button" className="underline" onClick={() => onSlot(slot)}>
          say what is in it
        </button>
      )}
    </li>
  )
}
