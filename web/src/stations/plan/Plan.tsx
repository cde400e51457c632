import { useNavigate } from 'react-router'
import { answer, client, type Schemas } from '../../api/client'
import { at, useAct, useJob, useStation } from '../../api/job'
import { Button, ErrorNote, Heading, Note, Tip } from '../../ui/basics'
import { CheckField, NumberField } from '../../ui/fields'
import { GoOn } from '../../shell/GoOn'
import { minutes, money } from '../../words'
import { Ladder } from './Ladder'
import { Needs } from './Needs'

type Point = Schemas['PlanPoint']
type Card = {
  stance: string
  name: string
  plan: Point
  says: string
  unmet: readonly string[]
  against?: readonly string[]
}
const NAMES: Record<string, string> = {
  just_enough: 'Just enough',
  best_value: 'Best value',
  room_for_years: 'Room for years',
  fill_it: 'Fill it',
  own: 'Your build from Fit',
  nothing: 'Buy nothing',
}

export function Plan() {
  const { view } = useJob()
  const { data, error } = useStation('plan', (number) =>
    answer(client.GET('/api/jobs/{number}/plan', { params: { path: { number } } })),
  )
  const choose = useAct<{ stance: string; index?: number }>((number, body) =>
    answer(
      client.POST('/api/jobs/{number}/plan', {
        params: { path: { number } },
        body: { index: null, ...body },
      }),
    ),
  )
  if (!data) return <ErrorNote error={error} />
  const { answer: plan, own } = data
  const chosen = at(view?.job, '/plan/chosen') as Schemas['Snapshot'] | null | undefined
  const budget = at(view?.job, '/intake/budget_minor') as number | null
  const cards: Card[] = plan.stances.map((s) => ({
    ...s,
    name: NAMES[s.stance] ?? s.stance,
    unmet: s.unmet ?? [],
  }))
  if (own)
    cards.push({
      stance: 'own',
      name: NAMES.own!,
      plan: own.plan,
      says: 'Chosen by hand, part by part.',
      unmet: [],
      against: own.against,
    })
  const years = at(view?.job, '/intake/years')
  return (
    <>
      <Heading title="Where the next euro does most">
        Each tread is one upgrade: as wide as it costs, as tall as the need it meets. Steepest first.
      </Heading>
      <ErrorNote error={error ?? choose.error} />
      {plan.binds.map((b) => (
        <Note key={b} kind="held_back">
          {b}
        </Note>
      ))}
      <Ladder treads={plan.ladder} budget={budget} start={plan.frontier[0]} />
      <div className={`mt-3 grid grid-cols-2 gap-3 ${own ? 'min-[1180px]:grid-cols-5' : 'min-[1180px]:grid-cols-4'}`}>
        {cards.map((c) => (
          <PlanCard
            key={c.stance}
            card={{ ...c, name: c.stance === 'room_for_years' ? `Room for ${years} years` : c.name }}
            chosen={chosen?.stance === c.stance}
            busy={choose.isPending}
            onChoose={() => choose.mutate({ stance: c.stance })}
          />
        ))}
      </div>
      <div className="mt-3 grid grid-cols-[1fr_280px] gap-4">
        <div className="space-y-3">
          <Chosen chosen={chosen} />
          {!!plan.waiting.length && (
            <section>
              <h2 className="mb-1.5">Better plans that wait for a measurement</h2>
              {plan.waiting.map((w) => (
                <Note key={w.attribute} kind="measure_first">
                  {parts(w.plan)} for {money(w.plan.cost_minor)}, + {w.gain.toFixed(1)} points over best value. {w.how}
                </Note>
              ))}
            </section>
          )}
          <Frontier points={plan.frontier} onChoose={(index) => choose.mutate({ stance: 'frontier', index })} />
        </div>
        <div className="space-y-3">
          <section className="card p-3">
            <h2 className="mb-1">Needs, and who set them</h2>
            <Needs needs={data.needs} />
          </section>
          <section className="card grid grid-cols-2 gap-2 p-3">
            <NumberField path="/intake/budget_minor" label="Budget" hint="€" scale={100} />
            <NumberField path="/plan/threshold" label="Stop below" hint="points a €" required />
            <NumberField path="/plan/rate_minor_per_hour" label="Bench" hint="€ an hour" scale={100} required />
            <div className="col-span-2 space-y-1">
              <CheckField path="/plan/allow_emptying" label="A slot may be emptied" />
              <CheckField path="/plan/allow_loss" label="A need may end below today" />
            </div>
          </section>
          <div className="flex items-center justify-between gap-2">
            <Button onClick={() => choose.mutate({ stance: 'nothing' })}>Buy nothing</Button>
            <GoOn to="prepare" label="Take this plan to Prepare" disabled={!chosen} />
          </div>
          {!chosen && <p className="text-ink-2 text-[12.5px]">Choose a plan first.</p>}
        </div>
      </div>
    </>
  )
}

const parts = (p: Point) => p.changes.map((c) => `${c.slot_name}: ${c.part_name}`).join('; ') || 'Nothing'

function Chosen({ chosen }: { chosen: Schemas['Snapshot'] | null | undefined }) {
  const go = useNavigate()
  if (!chosen) return null
  return (
    <Note kind="seats">
      Chosen: {NAMES[chosen.stance] ?? 'a point of the frontier'}, {money(chosen.plan.cost_minor)}. {parts(chosen.plan)}
      . Kept with its prices and claims of {chosen.chosen_at.slice(0, 10)}, rules {chosen.rules_version}.{' '}
      <button type="button" className="underline" onClick={() => void go('../fit')}>
        See it at Fit
      </button>
    </Note>
  )
}

function PlanCard({
  card: c,
  chosen,
  busy,
  onChoose,
}: {
  card: Card
  chosen: boolean
  busy: boolean
  onChoose: () => void
}) {
  return (
    <section
      data-row
      tabIndex={-1}
      className={`card flex flex-col p-3 ${chosen ? 'border-t-gold bg-gold-soft border-t-3' : ''}`}
    >
      <div className="text-[16px] font-semibold">{c.name}</div>
      <div className="flex items-baseline justify-between">
        <Tip text={sumOf(c.plan)}>
          <button type="button" className="num cursor-help text-[15px] font-semibold">
            {money(c.plan.cost_minor)}
          </button>
        </Tip>
        <Tip text={needsOf(c.plan)}>
          <button type="button" className="num text-ink-2 cursor-help">
            + {c.plan.benefit.toFixed(1)}
          </button>
        </Tip>
      </div>
      <ul className="my-2">
        {c.plan.changes.map((x) => (
          <li key={x.slot} className="border-hair border-t border-dotted py-1 text-[13px]">
            {x.slot_name} → {x.part_name}
            {x.boot && x.takes_out === '' ? ', starts from it' : ''}
            {!!x.accessories?.length && <span className="text-ink-2"> with {x.accessories.join(', ')}</span>}
          </li>
        ))}
        {!c.plan.changes.length && <li className="border-hair border-t border-dotted py-1">Nothing is bought</li>}
      </ul>
      <p className="text-ink-2 text-[12.5px]">{c.says}</p>
      {c.unmet.map((u) => (
        <p key={u} className="text-held text-[12.5px]">
          {u}
        </p>
      ))}
      {c.against?.map((a) => (
        <p key={a} className="text-refused text-[12.5px]">
          {a}
        </p>
      ))}
      <Button data-cell className="mt-auto self-start" disabled={busy || !!c.against?.length} onClick={onChoose}>
        {chosen ? 'Choose it again' : 'Choose'}
      </Button>
    </section>
  )
}

const sumOf = (p: Point) =>
  [
    `parts ${money(p.parts_minor)}`,
    p.accessories_minor ? `+ accessories ${money(p.accessories_minor)}` : '',
    `+ bench ${minutes(p.bench_seconds)} ${money(p.labour_minor)}`,
    p.credit_minor ? `− credit ${money(p.credit_minor)}` : '',
    `= ${money(p.cost_minor)}`,
  ]
    .filter(Boolean)
    .join('\n')

const needsOf = (p: Point) =>
  p.needs
    .map(
      (n) =>
        `${n.label}: ${n.today} → ${n.after} ${n.unit}, met ${pct(n.met_today)} → ${pct(n.met_after)}, × ${n.weight} = ${n.points.toFixed(1)}`,
    )
    .join('\n')
const pct = (x: number) => `${Math.round(100 * x)} %`

function Frontier({ points, onChoose }: { points: readonly Point[]; onChoose: (index: number) => void }) {
  return (
    <details className="card">
      <summary className="cursor-pointer px-3 py-2">
        The whole frontier: {points.length} builds, none of which another beats in both cost and benefit
      </summary>
      <table className="w-full">
        <tbody>
          {points.map((p, i) => (
            <tr key={i} className="border-hair border-t">
              <td className="num px-3 py-1 text-right whitespace-nowrap">{money(p.cost_minor)}</td>
              <td className="num px-2 py-1 text-right">+ {p.benefit.toFixed(2)}</td>
              <td className="px-2 py-1 text-[12.5px]">{parts(p)}</td>
              <td className="px-2 py-1">
                <Button kind="quiet" onClick={() => onChoose(i)}>
                  choose
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  )
}
