import type { ReactNode } from 'react'
import { Link } from 'react-router'
import type { Schemas } from '../../api/client'
import { answer, client } from '../../api/client'
import { at, useEdit, useJob, useJobNumber, useStation } from '../../api/job'
import { Button } from '../../ui/basics'
import { AsUsual } from './AsUsual'
import { MeasureButton } from './Measure'
import type { Fact } from './walk'
import { actSays, closedSays, worthSays } from './worth'

type Act = Schemas['NextAct']

/** What settling each thing would decide; undefined while the catalogue is looked through. */
export function useWorth() {
  return useStation('survey worth', (n) =>
    answer(client.GET('/api/jobs/{number}/survey/worth', { params: { path: { number: n } } })),
  ).data
}

/** What to do next, the act that decides most for its minutes first; its questions fold under it. */
export function NextActs({ data, onSlot }: { data: Schemas['SurveyView']; onSlot: (slot: string) => void }) {
  const facts = new Map(
    [...data.map.slots.flatMap((s) => s.facts), ...data.map.board, ...data.map.starts].map((f) => [f.attribute, f]),
  )
  const acts = useStation('survey acts', (n) =>
    answer(client.GET('/api/jobs/{number}/survey/acts', { params: { path: { number: n } } })),
  ).data
  const edit = useEdit()
  const said = (at(useJob().view?.job, '/survey/closed_acts') ?? {}) as Readonly<Record<string, string>>
  const open = acts?.filter((a) => !a.closed) ?? []
  const closed = acts?.filter((a) => a.closed) ?? []
  const questions = (act: Act) =>
    act.asks?.map((w) => (
      <Asked key={w.attribute} worth={w} alone={act.asks.length === 1} fact={facts.get(w.attribute)} onSlot={onSlot} />
    ))
  return (
    <section className="card p-3" aria-label="What to do next">
      <h2 className="mb-1">What to do next</h2>
      {!acts && <p className="text-ink-2 text-[13px]">Looking through the catalogue for what it waits for.</p>}
      {acts && !acts.length && (
        <p className="text-ink-2 text-[13px]">Nothing of this machine stands between the catalogue and a verdict.</p>
      )}
      <ol className="space-y-2 text-[13px]">
        {open.map((act, i) => (
          <li key={act.id} className={i ? 'border-hair border-t pt-2' : ''}>
            <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
              <span className={i ? 'font-semibold' : 'text-[15px] font-semibold'}>{act.name}</span>
              <span className="text-ink-2">{actSays(act)}</span>
            </div>
            <div className="mt-1 flex flex-wrap items-center gap-2">
              <Begin act={act.id} data={data} lead={!i} />
              {act.id !== 'seller' &&
                WHY_NOT.map(([label, why]) => (
                  <Button key={why} kind="quiet" onClick={() => edit(`/survey/closed_acts/${act.id}`, why)}>
                    {label}
                  </Button>
                ))}
            </div>
            {!!act.asks?.length && (
              <details className="mt-1" open={!i && act.asks.length < 4}>
                <summary className="cursor-pointer">{closedSays(act.asks.length)}</summary>
                <ol>{questions(act)}</ol>
              </details>
            )}
          </li>
        ))}
      </ol>
      {closed.map((act) => (
        <p key={`${act.id} ${act.closed}`} className="text-ink-2 mt-2 text-[13px]">
          {act.name}: {act.closed}.{' '}
          {said[act.id] !== undefined && (
            <button
              type="button"
              className="underline"
              onClick={() => edit(`/survey/closed_acts/${act.id}`, null, { op: 'remove' })}
              aria-label={`Take back: ${act.name}`}
            >
              take back
            </button>
          )}
          {!!act.asks?.length && (
            <span className="text-held block">
              Nothing else answers: {act.asks.map((w) => w.label).join(', ')}. What waits for that stays open.
            </span>
          )}
        </p>
      ))}
      <div className="mt-2">
        <AsUsual usual={data.usual} word={data.as_usual} />
      </div>
    </section>
  )
}

/** Why an act is not done, on its button and as it is kept. */
const WHY_NOT = [
  ['not possible here', 'not possible here'],
  ['told nothing', 'looked, and not told'],
] as const

/** Where an act is begun. */
function Begin({ act, data, lead }: { act: Act['id']; data: Schemas['SurveyView']; lead: boolean }): ReactNode {
  const number = useJobNumber()
  const go = (id: string) => () => document.getElementById(id)?.scrollIntoView({ block: 'center' })
  const button = (label: string, to: string) => (
    <Button kind={lead ? 'main' : undefined} onClick={go(to)}>
      {label}
    </Button>
  )
  switch (act) {
    case 'reading':
      return (
        <>
          {button('Drop the bundle', 'reading')}
          <a className="underline" href="/api/gather.sh">
            gather.sh
          </a>
          {data.simulated && (
            <a className="underline" href={`/api/jobs/${number}/simulated/survey?busy=true`}>
              the simulated laptop’s
            </a>
          )}
        </>
      )
    case 'cover':
      return (
        <Link className="underline" to="walk">
          Walk through it, the caliper’s places in one pass
        </Link>
      )
    case 'papers':
    case 'processor':
      return button('Paste the page', 'makers-words')
    case 'firmware':
    case 'labels':
      return button('Type what it shows', 'typed')
    case 'trial':
    case 'customer':
      return (
        <Link className="underline" to="../intake">
          Enter it at Intake
        </Link>
      )
    case 'seller':
      return (
        <Link className="underline" to="../fit">
          See which parts at Fit
        </Link>
      )
  }
}

type Question = { worth: Schemas['Worth']; alone: boolean; fact?: Fact; onSlot: (slot: string) => void }

/** One question of an act; what it decides is said of several, of one alone the act says it. */
function Asked({ worth: w, alone, fact, onSlot }: Question) {
  const [place = '', slot = ''] = w.attribute.split('.')
  return (
    <li className="border-hair flex items-start gap-2 border-t py-1">
      <span className="min-w-0 flex-1">
        <span className="font-semibold">{w.label}</span>{' '}
        <span className="text-ink-2">
          {!alone && `${worthSays(w)}. `}
          {w.how}
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
