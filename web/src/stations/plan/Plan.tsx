import { useIsFetching, useMutation, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../../api/client'
import { at, useAct, useEdit, useJob, useJobNumber, useStation } from '../../api/job'
import { GoOn } from '../../shell/GoOn'
import { Button, ErrorNote, Heading, Note } from '../../ui/basics'
import { NumberField, TextField } from '../../ui/fields'
import { inHouse, money, sign } from '../../words'
import { Chosen } from './Chosen'
import { TasksBeside } from './TasksBeside'
import { Ladder } from './Ladder'
import { Needs } from './Needs'
import { Beside } from './PlanDetail'
import { Opened, ToTheOwner, PlanTable, SideBySide, signed } from './PlanTable'
import { inOneLine, planRows, sameBuild, stanceName } from './rows'
import { Terms } from './Terms'
import { Waiting } from './Waiting'
import { figureOf, FigureText } from '../../ui/figure'

export function Plan() {
  const { view } = useJob()
  const number = useJobNumber()
  const ask = (certain: boolean) => (number: number) =>
    answer(client.GET('/api/jobs/{number}/plan', { params: { path: { number }, query: certain ? { certain } : {} } }))
  // What rests on no question is there at once, however long the rest takes: it is asked first, and alone.
  const had = useQueryClient().getQueryData(['job', number, 'station', 'plan']) !== undefined
  const certain = useStation('certain', ask(true), !had)
  const whole = useStation('plan', ask(false), had || certain.isFetched)
  const data = whole.data ?? certain.data
  const error = whole.error ?? (data ? null : certain.error)
  const choose = useAct<{ stance: string; index?: number; sees?: Record<string, string> }>((number, body) =>
    answer(
      client.POST('/api/jobs/{number}/plan', {
        params: { path: { number } },
        body: { index: null, sees: null, ...body },
      }),
    ),
  )
  const [looked, setLooked] = useState('best_value')
  const [beside, setBeside] = useState<readonly string[]>([])
  if (!data)
    return (
      <>
        <ErrorNote error={error} />
        {!error && <Planning />}
      </>
    )
  const plan = data.answer
  const chosen = at(view?.job, '/plan/chosen') as Schemas['Snapshot'] | null | undefined
  const years = Number(at(view?.job, '/intake/years') ?? 0)
  const rows = planRows(plan.stances, data.own, years)
  const row = rows.find((r) => r.key === looked || r.names.includes(stanceName(looked, years))) ?? rows[0]!
  const taken = chosen ? rows.find((r) => sameBuild(r.plan, chosen.plan))?.stance : undefined
  const told =
    rows.find((r) => r.stance === taken) ?? rows.find((r) => r.names.includes(stanceName('best_value'))) ?? row
  const pair = beside.map((key) => rows.find((r) => r.key === key)).filter((r) => r !== undefined)
  return (
    <>
      <div className="relative">
        <Heading title="Where the money does most">
          Each tread is one upgrade: as wide as it costs, as tall as the need it meets. Steepest first.
        </Heading>
        <Planning quiet again={!!whole.data} />
      </div>
      <ErrorNote error={error ?? choose.error} />
      {!plan.complete &&
        (whole.data ? (
          <Note kind="measure_first">
            Too much of this machine is open to go through all that waits. What stands here rests on no question; do
            what{' '}
            <Link to={`/jobs/${number}/survey`} className="underline">
              Survey
            </Link>{' '}
            asks first.
          </Note>
        ) : (
          <Note kind="measure_first">What stands here rests on no question. What waits is still being worked out.</Note>
        ))}
      {!!data.free_first?.length && (
        <Note kind="measure_first">
          {data.free_first.map((f) => (
            <div key={f}>{f}</div>
          ))}
          <Link to={`/jobs/${number}/intake`} className="underline">
            Take down what came of it at Intake
          </Link>
        </Note>
      )}
      {plan.first.map((f) => (
        <Note key={f} kind="held_back">
          {inHouse(f)}
        </Note>
      ))}
      {plan.unmeasured?.map((u) => (
        <Note key={u} kind="measure_first">
          {u}
        </Note>
      ))}
      <div className="grid grid-cols-[1fr_264px] items-start gap-4 max-[1000px]:grid-cols-1">
        <div className="min-w-0 space-y-3">
          {/* Of the plan that stands, whichever is looked at: what is above the table moves under nobody’s hand. */}
          <ToTheOwner row={told} />
          <Ladder
            treads={plan.ladder}
            budget={at(view?.job, '/intake/budget_minor') as number | null}
            start={plan.frontier[0]?.cost_minor ?? 0}
            years={years}
            nothing={plan.first.length ? plan.first[0] : undefined}
          />
          <PlanTable
            rows={rows}
            chosen={taken}
            looked={row.key}
            onLook={setLooked}
            beside={beside}
            onBeside={(key) =>
              setBeside(beside.includes(key) ? beside.filter((b) => b !== key) : [...beside.slice(-1), key])
            }
            busy={choose.isPending}
            onChoose={(r) => choose.mutate({ stance: r.stance })}
            makes={data.makes}
          />
          {pair.length === 2 ? <SideBySide a={pair[0]!} b={pair[1]!} /> : <Opened row={row} told={row === told} />}
          <Chosen difference={data.difference} />
          <TasksBeside title="Work besides" />
          <Waiting
            waiting={plan.waiting}
            busy={choose.isPending}
            onChoose={(index) =>
              choose.mutate({
                stance: 'waiting',
                index,
                sees: Object.fromEntries(plan.waiting[index]!.plan.changes.map((c) => [c.slot, c.part])),
              })
            }
          />
          <Beside />
          <AnotherMachine another={plan.another} />
          <Factory needs={data.needs} />
          <Frontier points={plan.frontier} onChoose={(index) => choose.mutate({ stance: 'frontier', index })} />
        </div>
        <div className="sticky top-0 space-y-3">
          <section className="card max-h-[62vh] overflow-y-auto p-3">
            <h2 className="mb-1">Needs</h2>
            <Needs needs={data.needs} today={plan.today} after={row.plan.needs} years={row.plan.years} />
          </section>
          <Terms slots={data.slots} approved={data.approved_makes} />
          <div className="flex items-center justify-between gap-2">
            <Button disabled={choose.isPending} onClick={() => choose.mutate({ stance: 'nothing' })}>
              Buy nothing
            </Button>
            <GoOn to="prepare" label="Take this plan to Prepare" disabled={!chosen} />
          </div>
          {!chosen && <p className="text-ink-2 text-[12.5px]">Choose a plan first.</p>}
        </div>
      </div>
    </>
  )
}

/** Said when planning takes more than a second; it can be stopped. Beside a plan it stands over the heading's line: pushing
 * the page down would take the button from under a hand that is about to press it. */
function Planning({ quiet, again }: { quiet?: boolean; again?: boolean }) {
  const number = useJobNumber()
  const key = ['job', number, 'station', 'plan']
  const fetching = useIsFetching({ queryKey: key }) > 0
  const cache = useQueryClient()
  const [long, setLong] = useState(false)
  useEffect(() => {
    if (!fetching) return
    const timer = setTimeout(() => setLong(true), 1000)
    return () => {
      clearTimeout(timer)
      setLong(false)
    }
  }, [fetching])
  if (!fetching || !long) return null
  return (
    <div
      role="status"
      className={`text-ink-2 flex items-center gap-3 ${quiet ? 'bg-mat absolute top-0 right-0 pl-3' : 'p-4'}`}
    >
      Planning takes a moment{again ? '; what stands here is the plan before' : ''}.
      <Button kind="quiet" onClick={() => void cache.cancelQueries({ queryKey: key })}>
        stop it
      </Button>
    </div>
  )
}

/** Another machine for the same needs: its price, and what it would measure. */
function AnotherMachine({ another }: { another: Schemas['AnotherScored'] | null | undefined }) {
  const { view } = useJob()
  const edit = useEdit()
  const own = at(view?.job, '/plan/another')
  return (
    <details className="card" open={!!own}>
      <summary className="cursor-pointer px-3 py-2">Another machine beside the plans</summary>
      <div className="px-3 pb-3">
        {another && <p className="mb-2">{inHouse(another.says)}</p>}
        {own ? (
          <div className="grid grid-cols-4 items-end gap-2">
            <TextField path="/plan/another/name" label="Which" />
            <NumberField path="/plan/another/price_minor" label="Price" hint={sign()} scale={100} required />
            <NumberField path="/plan/another/figures/memory_capacity" label="Memory" hint="GB" />
            <NumberField
              path="/plan/another/figures/memory_throughput"
              label="Memory throughput"
              hint="GB/s"
              scale={1000}
            />
            <NumberField path="/plan/another/figures/drive_space" label="Drives hold" hint="GB" />
            <NumberField path="/plan/another/figures/drive_speed" label="System drive" hint="MB/s" />
            <NumberField path="/plan/another/figures/radio_throughput" label="Radio" hint="Mb/s" />
            <NumberField path="/plan/another/figures/runtime" label="Off mains" hint="h" />
            <Button onClick={() => edit('/plan/another', null)}>No other machine</Button>
          </div>
        ) : (
          <Button onClick={() => edit('/plan/another', { name: 'Another machine', price_minor: 0, figures: {} })}>
            Lay one beside
          </Button>
        )}
      </div>
    </details>
  )
}

/** A factory option with its price, against the same capacity bought as parts. */
function Factory({ needs }: { needs: readonly Schemas['NeedView'][] }) {
  const number = useJobNumber()
  const [kind, setKind] = useState('memory_capacity')
  const [wanted, setWanted] = useState('')
  const [price, setPrice] = useState('')
  const ask = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/jobs/{number}/plan/factory', {
          params: { path: { number } },
          body: {
            kind: kind as Schemas['NeedKind'],
            figure: figureOf(wanted) ?? 0,
            price_minor: Math.round((figureOf(price) ?? 0) * 100),
          },
        }),
      ),
  })
  const offered = needs.filter((n) => n.need.kind === 'memory_capacity' || n.need.kind === 'drive_space')
  return (
    <details className="card">
      <summary className="cursor-pointer px-3 py-2">A factory option against parts</summary>
      <form
        className="grid grid-cols-[1fr_1fr_1fr_auto] items-end gap-2 px-3 pb-3"
        onSubmit={(e) => {
          e.preventDefault()
          ask.mutate()
        }}
      >
        <div className="col-span-4">
          <ErrorNote error={ask.error} />
          {ask.data && <p>{inHouse(ask.data.says)}</p>}
        </div>
        <select aria-label="What the factory offers" value={kind} onChange={(e) => setKind(e.target.value)}>
          {offered.map((n) => (
            <option key={n.need.kind} value={n.need.kind}>
              {n.need.kind === 'drive_space' ? 'Storage' : n.label}
            </option>
          ))}
        </select>
        <FigureText label="In all" hint="GB" value={wanted} onChange={setWanted} />
        <FigureText label="For" hint={`${sign()} more`} value={price} onChange={setPrice} />
        <Button type="submit" disabled={!figureOf(wanted) || figureOf(price) === null || ask.isPending}>
          Compare
        </Button>
      </form>
    </details>
  )
}

function Frontier({ points, onChoose }: { points: Schemas['Plan']['frontier']; onChoose: (index: number) => void }) {
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
              <td className="num px-2 py-1 text-right whitespace-nowrap">{signed(p.benefit)}</td>
              <td className="px-2 py-1 text-[12.5px]">{inOneLine(p)}</td>
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
