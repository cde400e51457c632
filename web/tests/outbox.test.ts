import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { client, type JobView } from '../src/api/client'
import type { Edit } from '../src/api/outbox'

/** The browser as far as the outbox knows it. */
class Storage {
  [key: string]: unknown
  setItem(key: string, value: string) {
    this[key] = value
  }
  getItem(key: string) {
    return (this[key] as string | undefined) ?? null
  }
  removeItem(key: string) {
    delete this[key]
  }
}

type Sent = { path: string; value: unknown; base: unknown; op: string }
type Outcome = 'applied' | 'conflict'
let sent: Sent[][]
/** What the server does with a request: outcomes by path, or a status it answers with, or no line at all. */
let server: (edits: Sent[]) => Record<string, Outcome> | number | 'offline'
let box: typeof import('../src/api/outbox')

beforeEach(async () => {
  vi.resetModules()
  vi.useFakeTimers()
  const listeners: Record<string, (e: unknown) => void> = {}
  vi.stubGlobal('localStorage', new Storage())
  vi.stubGlobal('window', {
    setTimeout,
    clearTimeout,
    addEventListener: (name: string, listener: (e: unknown) => void) => (listeners[name] = listener),
    listeners,
  })
  sent = []
  server = () => ({})
  const { client: fresh } = await import('../src/api/client')
  vi.spyOn(fresh, 'POST').mockImplementation((async (_: string, { body }: { body: (Sent & Edit)[] }) => {
    sent.push(body.map(({ path, value, base, op }) => ({ path, value, base, op })))
    const answer = server(body)
    if (answer === 'offline') throw new TypeError('no line')
    if (typeof answer === 'number') {
      const problem = { what: `refused ${body[0]!.path}`, where: '', mend: '', rows: [] }
      return { error: problem, response: { ok: false, status: answer } }
    }
    const results = body.map((e) => ({
      uid: e.uid,
      path: e.path,
      outcome: answer[e.path] ?? 'applied',
      theirs: answer[e.path] === 'conflict' ? 'theirs' : null,
    }))
    return { data: { results, view: { job: body.length } as unknown as JobView }, response: { ok: true, status: 200 } }
  }) as unknown as typeof client.POST)
  box = await import('../src/api/outbox')
})

afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

const paths = () => sent.map((edits) => edits.map((e) => e.path))
const waiting = () => box.pending().map((e) => [e.path, e.value])

test('typing is sent once it pauses, as it stands then', async () => {
  for (const value of ['c', 'ca', 'cat']) box.outbox.put(147, '/title', value, 'old', 'set', box.TYPING_MS)
  await vi.advanceTimersByTimeAsync(box.TYPING_MS - 1)
  expect(sent).toEqual([])
  await vi.advanceTimersByTimeAsync(1)
  expect(sent).toEqual([[{ path: '/title', value: 'cat', base: 'old', op: 'set' }]])
  expect(box.outbox.state()).toMatchObject({ waiting: 0, offline: false, conflicts: [], problem: null })
})

test('what is typed while a change is on its way rests on that change', async () => {
  server = (edits) => {
    if (edits[0]!.value === 'one') box.outbox.put(147, '/title', 'two', 'not looked at')
    return {}
  }
  box.outbox.put(147, '/title', 'one', 'old')
  await vi.runAllTimersAsync()
  expect(sent.flat().map((e) => [e.value, e.base])).toEqual([
    ['one', 'old'],
    ['two', 'one'],
  ])
})

test('without a line everything waits, in order, and is sent when there is one', async () => {
  server = () => 'offline'
  box.outbox.put(147, '/title', 'a', '')
  box.outbox.put(147, '/due', 'b', '')
  await vi.advanceTimersByTimeAsync(10)
  expect(box.outbox.state()).toMatchObject({ waiting: 2, offline: true })
  server = () => ({})
  await vi.advanceTimersByTimeAsync(3000)
  expect(paths().at(-1)).toEqual(['/title', '/due'])
  expect(box.outbox.state()).toMatchObject({ waiting: 0, offline: false })
})

test.each([401, 403, 500, 503])('an answer of %d says nothing of the edit: it waits', async (status) => {
  server = () => status
  box.outbox.put(147, '/title', 'a', '')
  await vi.advanceTimersByTimeAsync(10)
  expect(waiting()).toEqual([['/title', 'a']])
  expect(box.outbox.state()).toMatchObject({ offline: true, problem: null })
})

test.each([400, 404, 413, 422])('an answer of %d drops the edit and shows why', async (status) => {
  server = () => status
  box.outbox.put(147, '/title', 'a', '')
  await vi.advanceTimersByTimeAsync(10)
  expect(waiting()).toEqual([])
  expect(box.outbox.state().problem?.what).toBe('refused /title')
})

test('one bad edit does not take its neighbours with it', async () => {
  server = (edits) => (edits.some((e) => e.path === '/bad') ? 400 : {})
  for (const path of ['/first', '/bad', '/last']) box.outbox.put(147, path, 1, null)
  await vi.runAllTimersAsync()
  expect(paths()).toEqual([['/first', '/bad', '/last'], ['/first'], ['/bad'], ['/last']])
  expect(box.outbox.state()).toMatchObject({ waiting: 0, problem: { what: 'refused /bad' } })
})

test('a conflict keeps both words', async () => {
  server = () => ({ '/title': 'conflict' })
  box.outbox.put(147, '/title', 'mine', 'old')
  await vi.runAllTimersAsync()
  expect(box.outbox.state().conflicts).toMatchObject([{ path: '/title', value: 'mine', theirs: 'theirs' }])
})

test('also beside a bad edit, where changes go one by one', async () => {
  server = (edits) => (edits.some((e) => e.path === '/bad') ? 400 : { '/title': 'conflict' })
  box.outbox.put(147, '/bad', 1, null)
  box.outbox.put(147, '/title', 'mine', 'old')
  await vi.runAllTimersAsync()
  expect(box.outbox.state().conflicts).toMatchObject([{ path: '/title', value: 'mine', theirs: 'theirs' }])
})

test('to settle a conflict for oneself sends again, over what stands there now', async () => {
  server = () => ({ '/title': 'conflict' })
  box.outbox.put(147, '/title', 'mine', 'old')
  await vi.runAllTimersAsync()
  server = () => ({})
  box.outbox.resolve(box.outbox.state().conflicts[0]!, 'mine')
  await vi.runAllTimersAsync()
  expect(sent.at(-1)).toEqual([{ path: '/title', value: 'mine', base: 'theirs', op: 'set' }])
  expect(box.outbox.state().conflicts).toEqual([])
})

test('to take theirs sends nothing', async () => {
  server = () => ({ '/title': 'conflict' })
  box.outbox.put(147, '/title', 'mine', 'old')
  await vi.runAllTimersAsync()
  const before = sent.length
  box.outbox.resolve(box.outbox.state().conflicts[0]!, 'theirs')
  await vi.runAllTimersAsync()
  expect(sent.length).toBe(before)
})

test('jobs are sent apart', async () => {
  box.outbox.put(147, '/title', 'a', '')
  box.outbox.put(148, '/title', 'b', '')
  await vi.runAllTimersAsync()
  expect(paths()).toEqual([['/title'], ['/title']])
  expect(box.pending(148)).toEqual([])
})

test('what another tab has sent is told to this one', () => {
  const told: number[] = []
  box.outbox.start()
  box.outbox.onElsewhere((job) => told.push(job))
  const { listeners } = window as unknown as { listeners: Record<string, (e: unknown) => void> }
  const oldValue = JSON.stringify({ job: 147 })
  listeners.storage!({ key: 'insertum.edit.x', newValue: null, oldValue })
  listeners.storage!({ key: 'insertum.edit.x', newValue: '{}', oldValue }) // still waiting there
  listeners.storage!({ key: 'another', newValue: null, oldValue })
  expect(told).toEqual([147])
})
