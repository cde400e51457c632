import { useState } from 'react'
import { answer, client, type Schemas } from '../../api/client'
import { at, useEdit, useJob, useStation } from '../../api/job'
import { Button, ErrorNote } from '../../ui/basics'
import { inHouse, money } from '../../words'
import { fixed } from '../../figures'

type Detail = Schemas['PlanDetail']

/** What the plan of best value rests on: what another school costs, what was left out, how firm it is, and the wishes.
 * It is asked for when it is opened: it is many plans. */
export function Beside() {
  const [open, setOpen] = useState(false)
  return (
    <details className="card" onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="cursor-pointer px-3 py-2 font-medium">
        What best value rests on: schools with their price, what was left out, how firm it is
      </summary>
      {open && <Opened />}
    </details>
  )
}

function Opened() {
  const { data, error } = useStation('plan-detail', (number) =>
    answer(client.GET('/api/jobs/{number}/plan/detail', { params: { path: { number } } })),
  )
  if (!data)
    return error ? <ErrorNote error={error} /> : <p className="text-ink-2 px-3 pb-3">Planning it the other ways too…</p>
  return (
    <div className="space-y-3 px-3 pb-3">
      <SchoolPrices schools={data.schools} />
      <LeftOutList left={data.left_out} />
      <Firm detail={data} />
      <Wishes wishes={data.wishes} />
    </div>
  )
}

const SCHOOLS: Record<string, string> = {
  memory: 'Memory',
  grade: 'Grade',
  drive: 'Drives',
  spinning: 'Spinning',
  makes: 'Makes',
  limits: 'Limits',
}

function SchoolPrices({ schools }: { schools: Detail['schools'] }) {
  const names = [...new Set(schools.map((s) => s.school))]
  return (
    <section>
      <h2 className="mb-1">What another way would cost</h2>
      <table className="w-full">
        <tbody>
          {names.map((name) => (
            <tr key={name} className="border-hair border-t align-top">
              <th className="w-20 py-1 text-left font-medium">{SCHOOLS[name] ?? name}</th>
              <td className="py-1">
                {schools
                  .filter((s) => s.school === name)
                  .map((s) => (
                    <span key={s.choice} className={`mr-4 inline-block ${s.own ? 'font-semibold' : 'text-ink-2'}`}>
                      {s.own ? `${s.label} (this job)` : inHouse(s.says)}
                    </span>
                  ))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

function LeftOutList({ left }: { left: Detail['left_out'] }) {
  const { view } = useJob()
  const edit = useEdit()
  const wishes = (at(view?.job, '/plan/wishes') ?? []) as readonly string[]
  return (
    <section>
      <h2 className="mb-1">Left out, and why</h2>
      {!left.length && <p className="text-ink-2">Nothing that would gain by itself was left out.</p>}
      {left.map((x) => (
        <div key={x.part} className="border-hair flex items-baseline justify-between gap-3 border-t py-1">
          <span>
            {x.slot_name}: {x.part_name}, <span className="num">{money(x.price_minor)}</span>, alone{' '}
            <span className="num">+ {fixed(x.alone, 1)}</span>
            <span className="text-ink-2 block text-[12.5px]">
              {inHouse(x.reason)}
              {x.enters_minor !== null &&
                x.enters_minor !== undefined &&
                `; it would enter at ${money(x.enters_minor)}`}
            </span>
          </span>
          <Button
            kind="quiet"
            onClick={() =>
              edit('/plan/wishes', wishes.includes(x.part) ? wishes.filter((w) => w !== x.part) : [...wishes, x.part])
            }
          >
            {wishes.includes(x.part) ? 'no longer watched' : 'watch its price'}
          </Button>
        </div>
      ))}
    </section>
  )
}

function Firm({ detail }: { detail: Detail }) {
  const bounded = detail.weights.filter((w) => w.below !== null || w.above !== null)
  return (
    <section>
      <h2 className="mb-1">How firm it is</h2>
      {detail.firmness.map((f) => (
        <p key={f.slot}>
          {f.part_name} stays{' '}
          {f.falls_above_minor === null || f.falls_above_minor === undefined
            ? 'at any price.'
            : `up to ${money(f.falls_above_minor)}; it asks ${money(f.price_minor)}.`}
        </p>
      ))}
      {bounded.map((w) => (
        <p key={w.need}>
          {w.label}, weight {w.weight}: the plan is another {w.below !== null ? `below ${w.below}` : ''}
          {w.below !== null && w.above !== null ? ' and ' : ''}
          {w.above !== null ? `above ${w.above}` : ''}.
        </p>
      ))}
      {!bounded.length && <p className="text-ink-2">No weight of a need alone changes it.</p>}
    </section>
  )
}

function Wishes({ wishes }: { wishes: Detail['wishes'] }) {
  if (!wishes.length) return null
  return (
    <section>
      <h2 className="mb-1">Watched</h2>
      {wishes.map((w) => (
        <p key={w.part}>
          {w.part_name}, now {money(w.price_minor)}: {inHouse(w.reason)}.
        </p>
      ))}
    </section>
  )
}
