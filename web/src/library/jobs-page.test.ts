import { expect, it } from 'vitest'
import { board, type JobLine } from './jobs-page'

const job = (number: number, more: Partial<JobLine>) => ({ number, stopped: false, waits_for: '', ...more }) as JobLine

it('gathers jobs by what they wait for, and a stopped one is stopped whatever it waits for', () => {
  const groups = board([job(1, {}), job(2, { waits_for: 'a pack' }), job(3, { stopped: true, waits_for: 'the owner' })])
  expect(groups.map((g) => [g.title, g.jobs.map((j) => j.number)])).toEqual([
    ['On the bench', [1]],
    ['Waiting', [2]],
    ['Stopped', [3]],
  ])
  expect(board([])).toEqual([])
})
