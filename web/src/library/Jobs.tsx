import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { answer, client, upload, type JobView, type Schemas } from '../api/client'
import { Button, ErrorNote, FileDrop, Heading, Note } from '../ui/basics'
import { Labelled } from '../ui/fields'
import { due, stationName, stationPath } from '../words'

export function Jobs() {
  const { data, error } = useQuery({
    queryKey: ['jobs'],
    queryFn: () => answer(client.GET('/api/jobs')),
    refetchInterval: 15_000,
  })
  const open = data?.filter((j) => !j.closed) ?? []
  const closed = data?.filter((j) => j.closed) ?? []
  return (
    <main className="flex-1 overflow-y-auto px-6 py-4">
      <div className="mx-auto max-w-[1100px]">
        <Heading title="What is on the benches">
          {open.length} open, {open.filter((j) => j.waits_for).length} of them waiting
        </Heading>
        <ErrorNote error={error} />
        <Unreadable />
        <div className="grid grid-cols-[1fr_260px] gap-4">
          <div>
            <Table jobs={open} empty="No open job. Start one on the right." />
            {!!closed.length && (
              <>
                <h2 className="mt-5 mb-2">Closed</h2>
                <Table jobs={closed} empty="" />
              </>
            )}
          </div>
          <NewJob />
        </div>
      </div>
    </main>
  )
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

function Table({ jobs, empty }: { jobs: Schemas['JobLine'][]; empty: string }) {
  const go = useNavigate()
  if (!jobs.length) return <p className="card text-ink-2 p-4">{empty}</p>
  return (
    <table className="card w-full border-separate border-spacing-0">
      <thead>
        <tr>
          {['Job', 'For', 'Machine', 'Station', 'Due', 'Waits for'].map((h) => (
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
            <td>{j.closed ? 'closed' : stationName(j.station)}</td>
            <td className="whitespace-nowrap">{j.closed ? '' : due(j.due)}</td>
            <td className="text-ink-2">{j.waits_for}</td>
          </tr>
        ))}
      </tbody>
    </table>
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
        <FileDrop label="Or bring in a job file" accept=".json" onFile={(f) => take.mutate(f)} />
      </div>
    </div>
  )
}
