import { useState } from 'react'
import { Link } from 'react-router'
import { answer, client } from '../../api/client'
import { useAct, useJobNumber, useStation } from '../../api/job'
import { MachineMap } from '../../map/MachineMap'
import { Button, ErrorNote, Heading } from '../../ui/basics'
import { QuickEntry } from './QuickEntry'
import { next, stops, toggled, toGo, type Fact } from './walk'

/** With the cover off, slot by slot: what is seen, in choices a thumb can hit, and what a scanner reads. */
export function Walk() {
  const number = useJobNumber()
  const [at, setAt] = useState('')
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set())
  const { data, error } = useStation('survey', (n) =>
    answer(client.GET('/api/jobs/{number}/survey', { params: { path: { number: n } } })),
  )
  const empty = useAct<string>((n, slot) =>
    answer(
      client.POST('/api/jobs/{number}/survey/fitted', {
        params: { path: { number: n } },
        body: { slot, number: '', state: 'found' },
      }),
    ),
  )
  if (!data) return <ErrorNote error={error} />
  const all = stops(data.map.slots, left)
  const here = all.some((s) => s.slot.id === at) ? at : next(all, '')
  const stop = all.find((s) => s.slot.id === here)
  const past = (attribute: string) => setLeft(new Set([...left, attribute]))
  const open = toGo(all)
  if (!stop)
    return (
      <Heading title="Nothing to look at">
        Every slot of this machine is soldered, or none is drawn. <Link to="../survey">Back to Survey</Link>
      </Heading>
    )
  const fact = stop.unseen ? undefined : stop.asked[0]
  const onwards = next(all, all[(all.indexOf(stop) + 1) % all.length]!.slot.id)
  return (
    <>
      <Heading title={`${stop.slot.name}: look under the cover`}>
        {open} {open === 1 ? 'thing is' : 'things are'} still to be seen ·{' '}
        <Link className="underline" to={`/jobs/${number}/survey`}>
          back to Survey
        </Link>
      </Heading>
      <MachineMap map={data.map} height={230} selected={stop.slot.id} onSelect={setAt} />
      <div className="mt-3 max-w-[760px] space-y-3">
        {stop.unseen ? (
          <section className="card p-3" aria-label={`What is in ${stop.slot.name}?`}>
            <h2 className="mb-2">What is in it?</h2>
            <QuickEntry key={stop.slot.id} slot={stop.slot} />
            <div className="mt-3 flex flex-wrap gap-2">
              <Big onClick={() => empty.mutate(stop.slot.id)}>It is empty</Big>
              <Big onClick={() => past(`fitted.${stop.slot.id}`)}>Not seen</Big>
            </div>
            <ErrorNote error={empty.error} />
          </section>
        ) : fact ? (
          <Question key={fact.attribute} fact={fact} onPast={() => past(fact.attribute)} />
        ) : (
          <p className="card p-3">All that can be seen of it is known.</p>
        )}
        <div className="flex flex-wrap gap-2">
          {open > 0 && onwards !== stop.slot.id && (
            <Big onClick={() => setAt(onwards)}>Next: {all.find((s) => s.slot.id === onwards)?.slot.name}</Big>
          )}
          {open === 0 && (
            <Link
              className="bg-copper text-on-copper inline-flex min-h-12 items-center rounded-sm px-4 font-semibold"
              to={`/jobs/${number}/fit`}
            >
              Go on to Fit
            </Link>
          )}
        </div>
      </div>
    </>
  )
}

function Big(props: React.ComponentProps<typeof Button>) {
  return <Button {...props} className={`min-h-12 px-4 text-[15px] ${props.className ?? ''}`} />
}

/** One attribute: its real values as buttons, several where it is a list, a figure where it is measured. */
function Question({ fact, onPast }: { fact: Fact; onPast: () => void }) {
  const [typed, setTyped] = useState('')
  const [many, setMany] = useState<string[]>([])
  const set = useAct<string>((number, value) =>
    answer(
      client.POST('/api/jobs/{number}/survey/measured', {
        params: { path: { number } },
        body: { attribute: fact.attribute, typed: value },
      }),
    ),
  )
  const several = fact.kind === 'numbers' || fact.kind === 'list'
  const picks = fact.picks ?? []
  return (
    <section className="card p-3" aria-label={fact.label}>
      <h2>{fact.label}</h2>
      <p className="text-ink-2 mb-2 text-[13.5px]">
        {fact.tool && <span className="text-ink font-semibold">With {fact.tool}. </span>}
        {fact.measure}
      </p>
      <div className="flex flex-wrap gap-2">
        {picks.map((p) => (
          <Big
            key={p}
            disabled={set.isPending}
            aria-pressed={several ? many.includes(p) : undefined}
            className={many.includes(p) ? 'border-gold bg-gold-soft' : ''}
            onClick={() => (several ? setMany(toggled(many, p)) : set.mutate(p))}
          >
            {p} {fact.unit}
          </Big>
        ))}
        {several && picks.length > 0 && (
          <Big kind="main" disabled={set.isPending} onClick={() => set.mutate(many.join(', ') || 'none')}>
            {many.length ? `Keep ${many.join(', ')}` : 'There is none'}
          </Big>
        )}
        {!picks.length && (
          <form
            className="flex items-center gap-2"
            onSubmit={(e) => {
              e.preventDefault()
              set.mutate(typed)
            }}
          >
            <input
              autoFocus
              aria-label={`${fact.label} ${fact.unit}`}
              inputMode={fact.unit ? 'decimal' : undefined}
              className="num min-h-12 w-32 text-[15px]"
              value={typed}
              onChange={(e) => setTyped(e.target.value)}
            />
            <span>{fact.unit}</span>
            <Big type="submit" kind="main" disabled={!typed.trim() || set.isPending}>
              Keep
            </Big>
          </form>
        )}
        <Big onClick={onPast}>Not now</Big>
      </div>
      <ErrorNote error={set.error} />
    </section>
  )
}
