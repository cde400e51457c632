import { useJobNumber, useOutbox } from '../api/job'
import { outbox, type Conflict } from '../api/outbox'
import { Button, Trouble } from '../ui/basics'
import { byTheClock, moment } from '../words'
import { useWho } from './who'

/** Somebody else changed the same place: both words, and what to keep. */
export function Conflicts() {
  const number = useJobNumber()
  const { conflicts } = useOutbox()
  return conflicts.filter((c) => c.job === number).map((c) => <One key={c.uid} conflict={c} />)
}

/** What the server would not take: why, what was typed, and what to do with it. */
export function Asides() {
  const number = useJobNumber()
  const { aside } = useOutbox()
  return aside
    .filter((a) => a.job === number)
    .map((a) => (
      <Trouble key={a.uid} problem={a.problem} onClose={() => outbox.putAway(a)}>
        {(a.tries || typeof a.value === 'string') && (
          <div className="mt-1 flex items-baseline gap-3">
            <span className="text-ink-2">
              not saved{a.asked && ` at ${a.asked}`}: {shown(a.value)}
            </span>
            {!!a.tries && <Button onClick={() => outbox.again(a)}>Try again</Button>}
          </div>
        )}
      </Trouble>
    ))
}

function One({ conflict }: { conflict: Conflict }) {
  const { value: mine, theirs, who, since } = conflict
  const { name } = useWho()
  const words = typeof mine === 'string' && typeof theirs === 'string'
  const by = who === name ? 'You' : who || 'Somebody'
  return (
    <div role="alert" className="card border-held mb-3 border-l-3 px-3 py-2">
      <div className="font-semibold">
        {by} changed this {who === name ? 'in another window' : 'too'}
        {since && `, ${moment(since)}`}: {conflict.asked || conflict.place}
      </div>
      <dl className="my-1 grid grid-cols-[auto_1fr] gap-x-3">
        <dt className="text-ink-2">you typed here</dt>
        <dd className="whitespace-pre-line">{byTheClock(conflict.yours_words)}</dd>
        <dt className="text-ink-2">{who === name ? 'it stands' : `${by} wrote`}</dt>
        <dd className="whitespace-pre-line">{byTheClock(conflict.theirs_words)}</dd>
      </dl>
      <div className="flex gap-2">
        <Button onClick={() => outbox.resolve(conflict, mine)}>Keep what you typed</Button>
        <Button onClick={() => outbox.resolve(conflict, theirs)}>Keep what stands</Button>
        {words && <Button onClick={() => outbox.resolve(conflict, `${theirs}\n${mine}`)}>Keep both</Button>}
      </div>
    </div>
  )
}

const shown = (value: unknown) =>
  value === null || value === undefined || value === ''
    ? 'nothing'
    : typeof value === 'object'
      ? 'what was chosen'
      : String(value)
