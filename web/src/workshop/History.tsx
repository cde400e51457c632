import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../api/client'
import { useWho } from '../shell/who'
import { Button, ErrorNote, Heading } from '../ui/basics'
import { mayAs } from '../shell/May'
import { byTheClock, moment } from '../words'

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
          <Line key={`${c.about}-${c.change ?? i}-${c.at}`} change={c} />
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

const WHERE = {
  job: '/api/history/jobs/{change}/undo',
  sighting: '/api/history/sightings/{change}/undo',
  settings: '/api/history/settings/{change}/undo',
} as const

function takenBack(c: Schemas['HistoryLine']) {
  const change = c.change ?? 0
  const where = WHERE[c.about as keyof typeof WHERE]
  if (where) return answer(client.POST(where, { params: { path: { change } } }))
  const kind = c.about as 'machine' | 'processor' | 'part'
  return answer(client.POST('/api/history/library/{kind}/{change}/undo', { params: { path: { kind, change } } }))
}

/** Who takes back a change of what: those of the library's things by its role, where none is named. */
const NEEDED: Record<string, Schemas['Who']['role']> = { job: 'bench', sighting: 'bench', settings: 'owner' }

function Line({ change: c }: { change: Schemas['HistoryLine'] }) {
  const { role } = useWho()
  const cache = useQueryClient()
  const back = useMutation({ mutationFn: () => takenBack(c), onSuccess: () => cache.invalidateQueries() })
  return (
    <li data-row tabIndex={0} className="border-hair border-t px-3 py-1.5 first:border-t-0">
      <div className="grid grid-cols-[150px_1fr_auto_80px] gap-3">
        <span className="num text-ink-2">{moment(c.at)}</span>
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
        {c.change && mayAs(role, NEEDED[c.about] ?? 'library') ? (
          <Button kind="quiet" disabled={back.isPending} onClick={() => back.mutate()}>
            {c.about === 'sighting' ? 'bring back' : 'take back'}
          </Button>
        ) : (
          <span />
        )}
      </div>
      <ErrorNote error={back.error} />
      {c.places.map(({ place, before, after }, i) => (
        <div key={i} className="text-ink-2 num ml-[162px] text-[12px] break-words">
          {place && (before || after ? `${place}: ` : place)}
          {byTheClock(before)}
          {before && after && ' → '}
          {byTheClock(after)}
          {before && !after && ' taken out'}
        </div>
      ))}
    </li>
  )
}
