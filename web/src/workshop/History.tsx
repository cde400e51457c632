import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../api/client'
import { Button, ErrorNote, Heading } from '../ui/basics'

/** What was changed here, by whom and when, newest first. */
export function History() {
  const [text, setText] = useState('')
  const [page, setPage] = useState(1)
  const { data, error } = useQuery({
    queryKey: ['history', text, page],
    queryFn: () => answer(client.GET('/api/history', { params: { query: { text, page } } })),
    placeholderData: (before) => before,
  })
  return (
    <>
      <Heading title="History">what was changed here, by whom and when</Heading>
      <ErrorNote error={error} />
      <input
        type="search"
        aria-label="Find in the history"
        placeholder="who, what, which: 154, radio, bench"
        className="mb-2 w-80"
        value={text}
        onChange={(e) => {
          setText(e.target.value)
          setPage(1)
        }}
      />
      <ol className="card">
        {data?.changes.map((c, i) => (
          <Line key={`${page}-${i}`} change={c} />
        ))}
        {data && !data.changes.length && <li className="p-3">Nothing of the kind was changed.</li>}
      </ol>
      <div className="mt-2 flex gap-2">
        <Button disabled={page === 1} onClick={() => setPage(page - 1)}>
          newer
        </Button>
        <Button disabled={!data?.more} onClick={() => setPage(page + 1)}>
          older
        </Button>
      </div>
    </>
  )
}

const said = (value: unknown) =>
  value === null || value === undefined || value === ''
    ? 'nothing'
    : typeof value === 'object'
      ? JSON.stringify(value).slice(0, 160)
      : String(value).slice(0, 160)

function Line({ change: c }: { change: Schemas['HistoryLine'] }) {
  const told = c.before !== null || c.after !== null
  return (
    <li data-row tabIndex={0} className="border-hair border-t px-3 py-1.5 first:border-t-0">
      <div className="grid grid-cols-[150px_1fr_auto] gap-3">
        <span className="num text-ink-2">{c.at.slice(0, 16).replace('T', ' ')}</span>
        <span>
          {c.about === 'job' && c.key ? (
            <Link className="underline" to={`/jobs/${c.key}`}>
              job {c.key}
            </Link>
          ) : (
            <span className="font-medium">
              {c.about} {c.key}
            </span>
          )}{' '}
          · {c.says}
        </span>
        <span className="text-ink-2">{c.who}</span>
      </div>
      {told && (
        <div className="text-ink-2 num ml-[162px] text-[12px] break-all">
          {said(c.before)} → {said(c.after)}
        </div>
      )}
    </li>
  )
}
