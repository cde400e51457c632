import type { Schemas } from '../api/client'

export type JobLine = Schemas['JobLine']

/** Open jobs gathered by what they wait for: nothing, something named, or stopped. */
export function board(jobs: readonly JobLine[]): { title: string; jobs: JobLine[] }[] {
  const stopped = jobs.filter((j) => j.stopped)
  const waiting = jobs.filter((j) => !j.stopped && j.waits_for)
  const moving = jobs.filter((j) => !j.stopped && !j.waits_for)
  return [
    { title: 'On the bench', jobs: moving },
    { title: 'Waiting', jobs: waiting },
    { title: 'Stopped', jobs: stopped },
  ].filter((group) => group.jobs.length)
}
