import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { answer, client, type JobView } from '../api/client'
import { useAct, useEdit } from '../api/job'
import { Button, ErrorNote } from '../ui/basics'
import { useWho } from './who'
import { moment } from '../words'

/** An owner takes a job nobody wants off the board; it can be brought back under Workshop. */
function TakeOff({ number }: { number: number }) {
  const { role } = useWho()
  const cache = useQueryClient()
  const go = useNavigate()
  const remove = useMutation({
    mutationFn: () => answer(client.POST('/api/jobs/{number}/removed', { params: { path: { number } } })),
    onSuccess: () => {
      void go('/jobs')
      void cache.invalidateQueries({ queryKey: ['jobs'] })
    },
  })
  if (role !== 'owner') return null
  return (
    <>
      <ErrorNote error={remove.error} />
      <Button kind="quiet" disabled={remove.isPending} onClick={() => remove.mutate()}>
        Take it off the board
      </Button>
    </>
  )
}

/** Stop a job at any station, with its reason; a stopped one says so at every station. */
export function Stop({ view }: { view: JobView }) {
  const edit = useEdit()
  const [open, setOpen] = useState(false)
  const [why, setWhy] = useState('')
  const params = (number: number) => ({ params: { path: { number } } })
  const stop = useAct<string>((n, text) =>
    answer(client.POST('/api/jobs/{number}/stop', { ...params(n), body: { why: text } })),
  )
  const back = useAct<void>((n) => answer(client.DELETE('/api/jobs/{number}/stop', params(n))))
  const stopped = view.job.stopped
  if (stopped)
    return (
      <div role="status" className="bg-harm border-harm-bg no-print mb-3 border-l-4 px-3 py-2 text-white">
        <ErrorNote error={back.error} />
        <div className="flex items-start justify-between gap-3">
          <span>
            <b>Stopped</b> at {stopped.station}: {stopped.why}
            <span className="block text-[12px] opacity-80">
              {moment(stopped.at)} {stopped.who}
            </span>
            {view.job.prepare?.gates?.['battery']?.state === 'blocked' && (
              <span className="block">
                Do not charge or press it, move it away from anything that burns, follow local rules for damaged
                batteries.
              </span>
            )}
          </span>
          <Button className="!text-ink" disabled={back.isPending} onClick={() => back.mutate()}>
            Take the stop back
          </Button>
        </div>
      </div>
    )
  return (
    <div className="no-print mt-6">
      {open ? (
        <form
          className="card flex items-end gap-2 p-3"
          onSubmit={(e) => {
            e.preventDefault()
            stop.mutate(why, { onSuccess: () => setOpen(false) })
          }}
        >
          <div className="flex-1">
            <ErrorNote error={stop.error} />
            <label className="block">
              Why it is stopped
              <input
                autoFocus
                className="w-full"
                placeholder="swollen pack, the owner’s no, not worth it"
                value={why}
                onChange={(e) => setWhy(e.target.value)}
              />
            </label>
          </div>
          <Button type="submit" disabled={!why.trim() || stop.isPending}>
            Stop the job
          </Button>
          <Button kind="quiet" onClick={() => setOpen(false)}>
            no
          </Button>
        </form>
      ) : (
        <>
          <Button kind="quiet" onClick={() => setOpen(true)}>
            Stop the job…
          </Button>
          <Button
            kind="quiet"
            className="text-refused"
            onClick={() => edit('/prepare/gates/battery', { state: 'blocked', words: '', who: '' })}
          >
            Pack swollen, hot, hissing or leaking
          </Button>
          <TakeOff number={view.job.number} />
        </>
      )}
    </div>
  )
}
