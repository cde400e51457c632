import { useState } from 'react'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../../api/client'
import { at, useAct, useJob, useJobNumber } from '../../api/job'
import { Button, ErrorNote, Note } from '../../ui/basics'
import { Words } from '../../ui/fields'
import { day, inHouse, moment, money } from '../../words'
import { inOneLine, stanceName } from './rows'

/** The chosen plan as it was chosen, what has changed since line by line, and the owner's word on it. */
export function Chosen({ difference }: { difference: Schemas['SinceChosen'] | null }) {
  const { view } = useJob()
  const number = useJobNumber()
  const chosen = at(view?.job, '/plan/chosen') as Schemas['Snapshot'] | null | undefined
  const agreed = (at(view?.job, '/plan/agreed') ?? []) as readonly Schemas['Agreement'][]
  if (!chosen) return null
  const last = agreed.at(-1)
  // Given after the plan was chosen, by the order of what was written; jobs from before that was kept go by their times.
  const before = chosen.words_before ?? null
  const after = !!last && (before === null ? last.at >= chosen.chosen_at : agreed.length > before)
  const holds = after && last.cost_minor === chosen.plan.cost_minor
  return (
    <section className="card border-t-gold border-t-3 p-3">
      <h2 className="mb-1">Chosen: {stanceName(chosen.stance)}</h2>
      <p>
        {inOneLine(chosen.plan)}, <span className="num">{money(chosen.plan.cost_minor)}</span>.{' '}
        <span className="text-ink-2">
          Kept with its prices and claims of {day(chosen.chosen_at)}, rules {chosen.rules_version}.
        </span>{' '}
        <Link to={`/jobs/${number}/quote`} className="underline">
          the quote
        </Link>
      </p>
      {!!difference?.lines.length && (
        <Note kind="held_back">
          <div className="font-semibold">
            Since then{' '}
            {difference.now_minor === null
              ? 'it can no longer be had as it is'
              : difference.now_minor === difference.then_minor
                ? 'something has changed'
                : `its price went from ${money(difference.then_minor)} to ${money(difference.now_minor)}`}
          </div>
          <ul>
            {difference.lines.map((l) => (
              <li key={l}>{inHouse(l)}</li>
            ))}
          </ul>
          {difference.instead && <p>{inHouse(difference.instead)}</p>}
          <p>Choose again to take today’s prices; the owner’s word is then asked anew.</p>
        </Note>
      )}
      {last && (
        <p className={holds ? '' : 'text-held'}>
          {last.said_by} agreed to {money(last.cost_minor)}
          {last.how && ` ${last.how}`} on {moment(last.at)}, taken down by {last.taken_by || '–'}
          {holds ? '.' : '; the plan has been chosen anew since.'}
        </p>
      )}
      {!holds && <Agree />}
    </section>
  )
}

export function Agree() {
  const [who, setWho] = useState('')
  const [how, setHow] = useState('')
  const agree = useAct<{ said_by: string; how: string }>((number, body) =>
    answer(
      client.POST('/api/jobs/{number}/plan/agree', { params: { path: { number } }, body: { about: '', ...body } }),
    ),
  )
  return (
    <form
      className="mt-1 grid grid-cols-[1fr_1fr_auto] items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        agree.mutate({ said_by: who, how })
      }}
    >
      <div className="col-span-3">
        <ErrorNote error={agree.error} />
      </div>
      <Words label="The owner’s word from" value={who} onChange={setWho} />
      <Words label="how" hint="by telephone, in person" value={how} onChange={setHow} />
      <Button type="submit" disabled={!who.trim() || agree.isPending}>
        Agreed to this price
      </Button>
    </form>
  )
}
