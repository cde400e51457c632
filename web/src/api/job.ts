import { useMutation, useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useSyncExternalStore } from 'react'
import { useParams } from 'react-router'
import { answer, client, type JobView, type Schemas } from './client'
import { outbox, pending } from './outbox'
import { onPicture } from './pictures'
import { at, placed } from './pointer'
import { left, views } from './views'

export { at, step } from './pointer'

export type Job = Schemas['Job']

export function useJobNumber(): number {
  return Number(useParams().number)
}

/** The job with this person's own changes laid over what the server last said. */
export function overlaid(view: JobView, number: number): JobView {
  const waiting = pending(number)
  const job = [...views.leaving(number), ...waiting].reduce<unknown>(
    (job, e) => placed(job, e.path, e.value, e.op === 'remove'),
    view.job,
  )
  return { ...view, job: job as Job }
}

/** The job as it stands by now, for what goes on after an answer was waited for. */
export function jobNow(number: number): Job | undefined {
  const view = views.of(number)
  return view && overlaid(view, number).job
}

export function useOutbox() {
  return useSyncExternalStore(outbox.subscribe, outbox.state)
}

/** The job, refreshed while it is looked at, so that a colleague's changes show up. */
export function useJob(): { view: JobView | undefined; error: Error | null } {
  const number = useJobNumber()
  useOutbox()
  const view = useSyncExternalStore(views.subscribe, () => views.of(number))
  const query = useQuery({
    queryKey: ['job', number],
    queryFn: async () => {
      const asked = left()
      const found = await answer(client.GET('/api/jobs/{number}', { params: { path: { number } } }))
      return views.accept(number, found, asked).sequence
    },
    refetchInterval: 6000,
  })
  return { view: view && overlaid(view, number), error: query.error }
}

/** What follows from a job is asked anew. */
function askAnew(cache: QueryClient, number: number) {
  void cache.invalidateQueries({ queryKey: ['job', number, 'station'] })
  void cache.invalidateQueries({ queryKey: ['jobs'] })
}

/** Lets the stations ask again when the outbox got an answer, or another tab did. */
export function useReceive() {
  const cache = useQueryClient()
  useEffect(() => outbox.onReceived((number) => askAnew(cache, number)), [cache])
  useEffect(
    () => onPicture((number) => void cache.invalidateQueries({ queryKey: ['job', number, 'photographs'] })),
    [cache],
  )
  useEffect(() => outbox.onElsewhere((number) => void cache.invalidateQueries({ queryKey: ['job', number] })), [cache])
}

export type EditOptions = { op?: 'set' | 'remove'; base?: unknown; pause?: number; asked?: string }

/** Change one place of the job. Saves itself. `base` is what the editor saw there before. */
export function useEdit() {
  const number = useJobNumber()
  return useCallback(
    (path: string, value: unknown, { base, ...more }: EditOptions = {}) => {
      const job = jobNow(number)
      if (!job) return
      outbox.put(number, path, value, base === undefined ? (at(job, path) ?? null) : base, more)
    },
    [number],
  )
}

/** What a station shows. */
export function useStation<T>(name: string, load: (number: number) => Promise<T>, enabled = true) {
  const number = useJobNumber()
  return useQuery({
    queryKey: ['job', number, 'station', name],
    queryFn: () => load(number),
    placeholderData: (previous) => previous,
    retry: false,
    enabled,
  })
}

/** An action of the server's that changes the job, after everything typed has arrived there. */
export function useAct<A>(act: (number: number, argument: A) => Promise<JobView>) {
  const number = useJobNumber()
  const cache = useQueryClient()
  return useMutation({
    mutationFn: async (argument: A) => {
      await outbox.flush()
      const asked = left()
      return views.accept(number, await act(number, argument), asked)
    },
    onSuccess: () => askAnew(cache, number),
  })
}
