import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useSyncExternalStore } from 'react'
import { useParams } from 'react-router'
import { answer, client, type JobView, type Schemas } from './client'
import { outbox, pending } from './outbox'
import { at, placed } from './pointer'

export { at, step } from './pointer'

export type Job = Schemas['Job']

export function useJobNumber(): number {
  return Number(useParams().number)
}

/** The job with this browser's own changes laid over what the server last said. */
function overlaid(view: JobView, number: number): JobView {
  const job = pending(number).reduce<unknown>((job, e) => placed(job, e.path, e.value, e.op === 'remove'), view.job)
  return { ...view, job: job as Job }
}

export function useOutbox() {
  return useSyncExternalStore(outbox.subscribe, outbox.state)
}

/** The job, refreshed while it is looked at, so that a colleague's changes show up. */
export function useJob(): { view: JobView | undefined; error: Error | null } {
  const number = useJobNumber()
  useOutbox()
  const query = useQuery({
    queryKey: ['job', number],
    queryFn: () => answer(client.GET('/api/jobs/{number}', { params: { path: { number } } })),
    refetchInterval: 6000,
  })
  return { view: query.data && overlaid(query.data, number), error: query.error }
}

/** Writes what the outbox got back into the cache and lets the stations ask again. */
export function useReceive() {
  const cache = useQueryClient()
  useEffect(
    () =>
      outbox.onReceived((number, view) => {
        cache.setQueryData(['job', number], view)
        void cache.invalidateQueries({ queryKey: ['job', number, 'station'] })
        void cache.invalidateQueries({ queryKey: ['jobs'] })
      }),
    [cache],
  )
  useEffect(() => outbox.onElsewhere((number) => void cache.invalidateQueries({ queryKey: ['job', number] })), [cache])
}

/** Change one place of the job. Saves itself. `base` is what the editor saw there before. */
export function useEdit() {
  const number = useJobNumber()
  const cache = useQueryClient()
  return useCallback(
    (
      path: string,
      value: unknown,
      { op = 'set', base, pause }: { op?: 'set' | 'remove'; base?: unknown; pause?: number } = {},
    ) => {
      const view = cache.getQueryData<JobView>(['job', number])
      if (!view) return
      outbox.put(number, path, value, base === undefined ? (at(view.job, path) ?? null) : base, op, pause)
    },
    [cache, number],
  )
}

/** What a station shows. */
export function useStation<T>(name: string, load: (number: number) => Promise<T>) {
  const number = useJobNumber()
  return useQuery({
    queryKey: ['job', number, 'station', name],
    queryFn: () => load(number),
    placeholderData: (previous) => previous,
    retry: false,
  })
}

/** An action of the server's that changes the job, after everything typed has arrived there. */
export function useAct<A>(act: (number: number, argument: A) => Promise<JobView>) {
  const number = useJobNumber()
  const cache = useQueryClient()
  return useMutation({
    mutationFn: async (argument: A) => {
      await outbox.flush()
      return act(number, argument)
    },
    onSuccess: (view) => {
      cache.setQueryData(['job', number], view)
      void cache.invalidateQueries({ queryKey: ['job', number, 'station'] })
      void cache.invalidateQueries({ queryKey: ['jobs'] })
    },
  })
}
