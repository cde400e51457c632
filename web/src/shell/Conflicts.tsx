import { useJobNumber, useOutbox } from '../api/job'
import { outbox, type Conflict } from '../api/outbox'
import { Button, Trouble } from '../ui/basics'

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
            <span className="text-ink-2">not saved: {shown(a.value)}</span>
            {!!a.tries && <Button onClick={() => outbox.again(a)}>Try again</Button>}
          </div>
        )}
      </Trouble>
    ))
}

function One({ conflict }: { conflict: Conflict }) {
  const { value: mine, theirs, path } = conflict
  const words = typeof mine === 'string' && typeof theirs === 'string'
  return (
    <div role="alert" className="card border-held mb-3 border-l-3 px-3 py-2">
      <div className="font-semibold">Somebody else changed this too: {path.slice(1).replaceAll('/', ', ')}</div>
      <dl className="my-1 grid grid-cols-[60px_1fr] gap-x-2">
        <dt className="text-ink-2">yours</dt>
        <dd>{shown(mine)}</dd>
        <dt className="text-ink-2">theirs</dt>
        <dd>{shown(theirs)}</dd>
      </dl>
      <div className="flex gap-2">
        <Button onClick={() => outbox.resolve(conflict, mine)}>Keep yours</Button>
        <Button onClick={() => outbox.resolve(conflict, theirs)}>Keep theirs</Button>
        {words && <Button onClick={() => outbox.resolve(conflict, `${theirs}\n${mine}`)}>Keep both</Button>}
      </div>
    </div>
  )
}

const shown = (value: unknown) =>
  value === null || value === undefined || value === ''
    ? 'nothing'
    : typeof value === 'object'
      ? JSON.stringify(value)
      : String(value)
