import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { AskField } from '../ask/Ask'
import { answer, client, upload, type JobView, type Schemas } from '../api/client'
import { useWho } from '../shell/who'
import { Button, ErrorNote, FileDrop, Heading, Note } from '../ui/basics'
import { Labelled } from '../ui/fields'
import { due, money, stationName, stationPath } from '../words'
import { FirstThings } from './FirstThings'
import { board, type JobLine } from './jobs-page'

const SORTS = [
  ['due', 'when due'],
  ['number', 'newest'],
  ['customer', 'customer'],
  ['station', 'station'],
  ['cost', 'money'],
] as const

export function Jobs() {
  const { backup_due } = useWho()
  const [text, setText] = useState('')
  const [which, setWhich] = useState<'open' | 'closed'>('open')
  const [sort, setSort] = useState<(typeof SORTS)[number][0]>('due')
  const [page, setPage] = useState(1)
  const { data, error } = useQuery({
    queryKey: ['jobs', text, which, sort, page],
    queryFn: () => answer(client.GET('/api/jobs', { params: { query: { text, which, sort, page } } })),
    refetchInterval: 15_000,
    placeholderData: (before) => before,
  })
  const narrow = <T,>(set: (value: T) => void) => {
    return (value: T) => {
      set(value)
      setPage(1)
    }
  }
  return (
    <main className="flex-1 overflow-y-auto px-6 py-4">
      <div className="mx-auto max-w-[1100px]">
        <Heading title="What is on the benches">{data && `${data.open} open, ${data.waiting} of them waiting`}</Heading>
        <ErrorNote error={error} />
        {backup_due && <Note kind="held_back">{backup_due}</Note>}
        <Unreadable />
        <div className="mb-3">
          <AskField />
        </div>
        {data?.open === 0 && (
          <FirstThings onStart={() => document.querySelector<HTMLElement>('#new-job input')?.focus()} />
        )}
        <div className="grid grid-cols-[1fr_260px] gap-4 max-[900px]:grid-cols-1">
          <div>
            <div className="mb-2 flex flex-wrap items-center gap-3">
              <input
                type="search"
                aria-label="Find a job"
                placeholder="number, customer, title, machine"
                className="w-64"
                value={text}
                onChange={(e) => narrow(setText)(e.target.value)}
              />
              <select
                aria-label="Which jobs"
                value={which}
                onChange={(e) => narrow(setWhich)(e.target.value as typeof which)}
              >
                <option value="open">open</option>
                <option value="closed">closed</option>
              </select>
              <label className="flex items-center gap-1.5">
                by
                <select value={sort} onChange={(e) => narrow(setSort)(e.target.value as typeof sort)}>
                  {SORTS.map(([key, name]) => (
                    <option key={key} value={key}>
                      {name}
                    </option>
                  ))}
                </select>
              </label>
            </div>
            {data && <Listed data={data} which={which} searched={!!text} />}
            {data && data.pages > 1 && (
              <div className="mt-2 flex items-center gap-3">
                <Button disabled={data.page <= 1} onClick={() => setPage(data.page - 1)}>
                  Before
                </Button>
                <span className="num">
                  {data.page} of {data.pages}
                </span>
                <Button disabled={data.page >= data.pages} onClick={() => setPage(data.page + 1)}>
                  Next
                </Button>
              </div>
            )}
          </div>
          <NewJob />
        </div>
      </div>
    </main>
  )
}

function Listed({ data, which, searched }: { data: Schemas['JobPage']; which: string; searched: boolean }) {
  if (!data.jobs.length)
    return (
      <p className="card text-ink-2 p-4">
        {searched
          ? 'No such job here.'
          : which === 'open'
            ? 'No open job. Start one on the right.'
            : 'None closed yet.'}
      </p>
    )
  if (which === 'closed') return <Table jobs={data.jobs} />
  return board(data.jobs).map((group) => (
    <section key={group.title} className="mb-4">
      <h2 className="mb-1.5">{group.title}</h2>
      <Table jobs={group.jobs} />
    </section>
  ))
}

/** Stored rows that cannot be read: one line each, and everything else goes on. */
function Unreadable() {
  const { data } = useQuery({ queryKey: ['unreadable'], queryFn: () => answer(client.GET('/api/unreadable')) })
  return (
    <>
      {data?.map((row) => (
        <Note key={`${row.kind} ${row.name}`} kind="refused">
          The {row.kind} {row.name} cannot be read and is left out: {row.what}
        </Note>
      ))}
    </>
  )
}

function Table({ jobs }: { jobs: readonly JobLine[] }) {
  const go = useNavigate()
  return (
    <div className="overflow-x-auto">
      <table className="card w-full border-separate border-spacing-0">
        <thead>
          <tr>
            {['Job', 'For', 'Machine', 'Station', 'Due', 'Plan', 'Waits for'].map((h) => (
              <th key={h} className="px-3 py-2">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {jobs.map((j) => (
            <tr
              key={j.number}
              data-row
              tabIndex={0}
              className="hover:bg-gold-soft cursor-pointer align-top [&>td]:border-t [&>td]:border-hair [&>td]:px-3 [&>td]:py-2"
              onClick={() => void go(stationPath(j.number, j.station))}
              onKeyDown={(e) => e.key === 'Enter' && void go(stationPath(j.number, j.station))}
            >
              <td>
                <span className="num text-ink-2 mr-2">{j.number}</span>
                <span className="font-semibold">{j.title || 'No title yet'}</span>
              </td>
              <td>{j.customer}</td>
              <td>{j.machine || <span className="text-ink-2">not identified</span>}</td>
              <td>{j.stopped ? 'stopped' : j.closed ? 'closed' : stationName(j.station)}</td>
              <td className="whitespace-nowrap">{j.closed ? '' : due(j.due)}</td>
              <td className="num text-right whitespace-nowrap">{j.cost_minor === null ? '' : money(j.cost_minor)}</td>
              <td className="text-ink-2">
                {j.waits_for}
                {j.wish && <span className="text-seats block">in its price now: {j.wish}</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

function NewJob() {
  const [form, setForm] = useState({ customer: '', title: '', due: '' })
  const go = useNavigate()
  const cache = useQueryClient()
  const opened = (view: JobView) => {
    void cache.invalidateQueries({ queryKey: ['jobs'] })
    void go(stationPath(view.job.number, view.job.station ?? 'intake'))
  }
  const start = useMutation({
    mutationFn: () => answer(client.POST('/api/jobs', { body: form })),
    onSuccess: opened,
  })
  const take = useMutation({
    mutationFn: (file: File) => upload<JobView>('/api/jobs/import', file, file.name),
    onSuccess: opened,
  })
  const field = (name: keyof typeof form, label: string, type = 'text') => (
    <Labelled label={label} className="mb-2">
      {(id) => (
        <input
          id={id}
          type={type}
          className="w-full"
          value={form[name]}
          onChange={(e) => setForm({ ...form, [name]: e.target.value })}
        />
      )}
    </Labelled>
  )
  return (
    <div>
      <form
        id="new-job"
        className="card p-4"
        onSubmit={(e) => {
          e.preventDefault()
          start.mutate()
        }}
      >
        <h2 className="mb-2">New job</h2>
        <ErrorNote error={start.error} />
        {field('customer', 'For whom')}
        {field('title', 'In a few words')}
        {field('due', 'Due', 'date')}
        <Button kind="main" type="submit" className="mt-2 w-full" disabled={start.isPending}>
          Start the job
        </Button>
      </form>
      <div className="mt-3">
        <ErrorNote error={take.error} />
        <FileDrop place="job" label="Or bring in a job file" accept=".json" onFile={(f) => take.mutate(f)} />
      </div>
    </div>
  )
}
