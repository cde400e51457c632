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
type Options = { params: { header: Record<string, string> }; body: (Sent & Edit)[] }
type Outcome = 'applied' | 'conflict'
let sent: Sent[][]
/** Under whose name each request went. */
let names: string[]
/** What the server does with a request: outcomes by path, or a status it answers with, or no line at all. */
let server: (edits: Sent[]) => Record<string, Outcome> | number | 'offline'
let box: typeof import('../src/api/outbox')

beforeEach(async () => {
  // Loaded before the clock stands still: what loads modules waits by a clock as well.
  vi.resetModules()
  const { client: fresh } = await import('../src/api/client')
  box = await import('../src/api/outbox')
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'Date'] })
  const listeners: Record<string, (e: unknown) => void> = {}
  vi.stubGlobal('localStorage', new Storage())
  vi.stubGlobal('window', {
    setTimeout,
    clearTimeout,
    addEventListener: (name: string, listener: (e: unknown) => void) => (listeners[name] = listener),
    listeners,
  })
  sent = []
  names = []
  server = () => ({})
  vi.spyOn(fresh, 'POST').mockImplementation((async (_: string, { body, params }: Options) => {
    names.push(decodeURIComponent(params.header['X-Insertum-Person']!))
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
    return {
      data: { results, view: { job: {}, sequence: sent.length, epoch: '' } as unknown as JobView },
      response: { ok: true, status: 200 },
    }
  }) as unknown as typeof client.POST)
  box.outbox.signedIn('anna')
  await vi.advanceTimersByTimeAsync(0)
})

afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

const paths = () => sent.map((edits) => edits.map((e) => e.path))
const waiting = () => box.pending().map((e) => [e.path, e.value])
const aside = () => box.outbox.state().aside.map((a) => [a.path, a.value, a.problem.what])

test('typing is sent once it pauses, as it stands then', async () => {
  for (const value of ['c', 'ca', 'cat']) box.outbox.put(147, '/title', value, 'old', { pause: box.TYPING_MS })
  await vi.advanceTimersByTimeAsync(box.TYPING_MS - 1)
  expect(sent).toEqual([])
  await vi.advanceTimersByTimeAsync(1)
  expect(sent).toEqual([[{ path: '/title', value: 'cat', base: 'old', op: 'set' }]])
  expect(box.outbox.state()).toMatchObject({ waiting: 0, offline: false, conflicts: [], aside: [] })
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

test.each([401, 403, 502, 503])('an answer of %d says nothing of the edit: it waits', async (status) => {
  server = () => status
  box.outbox.put(147, '/title', 'a', '')
  await vi.advanceTimersByTimeAsync(10)
  expect(waiting()).toEqual([['/title', 'a']])
  expect(box.outbox.state()).toMatchObject({ offline: true, aside: [] })
})

test.each([400, 404, 413, 422])('an answer of %d sets the edit aside and shows why', async (status) => {
  server = () => status
  box.outbox.put(147, '/title', 'a', '')
  await vi.advanceTimersByTimeAsync(10)
  expect(waiting()).toEqual([])
  expect(aside()).toEqual([['/title', 'a', 'refused /title']])
})

test('one bad edit does not take its neighbours with it', async () => {
  server = (edits) => (edits.some((e) => e.path === '/bad') ? 400 : {})
  for (const path of ['/first', '/bad', '/last']) box.outbox.put(147, path, 1, null)
  await vi.runAllTimersAsync()
  expect(paths()).toEqual([['/first', '/bad', '/last'], ['/first'], ['/bad'], ['/last']])
  expect(waiting()).toEqual([])
  expect(aside()).toEqual([['/bad', 1, 'refused /bad']])
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
  expect(aside()).toEqual([['/bad', 1, 'refused /bad']]) // and the refusal stays beside it
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

test('what was refused is shown until it is put away, typed anew or taken, whatever else is sent', async () => {
  server = (edits) => (edits.some((e) => e.value === 'bad') ? 400 : {})
  box.outbox.put(147, '/title', 'bad', '')
  box.outbox.put(147, '/due', 'bad', '')
  await vi.runAllTimersAsync()
  box.outbox.put(148, '/title', 'good', '')
  await vi.runAllTimersAsync()
  expect(aside().map(([path]) => path)).toEqual(['/title', '/due'])
  box.outbox.put(147, '/title', 'better', '')
  await vi.runAllTimersAsync()
  expect(aside().map(([path]) => path)).toEqual(['/due'])
  box.outbox.putAway(box.outbox.state().aside[0]!)
  expect(aside()).toEqual([])
})

test('an edit the server breaks over is set aside after three tries and holds up no other job', async () => {
  server = (edits) => (edits.some((e) => e.path === '/breaks') ? 500 : {})
  box.outbox.put(147, '/breaks', 'words', '')
  box.outbox.put(147, '/behind', 'b', '')
  box.outbox.put(148, '/title', 'c', '')
  await vi.advanceTimersByTimeAsync(10)
  // the batch, then alone; the edit behind it waits, the other job does not
  expect(paths()).toEqual([['/breaks', '/behind'], ['/breaks'], ['/title']])
  expect(aside()).toEqual([])
  await vi.advanceTimersByTimeAsync(3000)
  expect(aside()).toEqual([]) // the second try
  await vi.advanceTimersByTimeAsync(3000)
  expect(aside()).toEqual([['/breaks', 'words', 'refused /breaks']])
  expect(waiting()).toEqual([])
  expect(paths().at(-1)).toEqual(['/behind'])
  expect(box.outbox.state().offline).toBe(false)
})

test('what was set aside can be tried again, with three tries of its own', async () => {
  server = () => 500
  box.outbox.put(147, '/title', 'words', 'old')
  await vi.advanceTimersByTimeAsync(6010)
  expect(aside()).toHaveLength(1)
  const tried = sent.length
  box.outbox.again(box.outbox.state().aside[0]!)
  await vi.advanceTimersByTimeAsync(3010)
  expect([aside(), sent.length - tried]).toEqual([[], 2])
  server = () => ({})
  await vi.advanceTimersByTimeAsync(3000)
  expect(sent.at(-1)).toEqual([{ path: '/title', value: 'words', base: 'old', op: 'set' }])
  expect([waiting(), aside()]).toEqual([[], []])
})

test('an edit changed while its neighbours go one by one is sent as it stands, not as it stood', async () => {
  server = (edits) => {
    if (edits.length > 1) return 400
    if (edits[0]!.path === '/first') box.outbox.put(147, '/second', 'new', 'x')
    return {}
  }
  box.outbox.put(147, '/first', 1, null)
  box.outbox.put(147, '/second', 'old', null)
  await vi.runAllTimersAsync()
  expect(sent.at(-1)!.map((e) => [e.path, e.value])).toEqual([['/second', 'new']])
  expect(waiting()).toEqual([])
})

test('nothing is sent before it is known who is here', async () => {
  vi.useRealTimers()
  vi.resetModules()
  const fresh = await import('../src/api/outbox')
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'Date'] })
  vi.stubGlobal('window', { ...window, setTimeout, clearTimeout })
  fresh.outbox.start()
  await vi.runAllTimersAsync()
  expect(sent).toEqual([])
})

test('what one person typed is neither sent nor shown while another is signed in, and is not lost', async () => {
  server = () => 'offline'
  box.outbox.put(147, '/title', 'anna’s', 'old')
  await vi.advanceTimersByTimeAsync(10)
  server = ([edit]): Record<string, Outcome> => (edit!.value === 'berit’s' ? { '/title': 'conflict' } : {})
  sent = []
  names = []
  box.outbox.signedIn('Bérit')
  await vi.advanceTimersByTimeAsync(5000)
  expect([sent, box.pending(147), box.outbox.state().waiting]).toEqual([[], [], 0])
  box.outbox.put(147, '/title', 'berit’s', 'old')
  await vi.advanceTimersByTimeAsync(10)
  expect(box.outbox.state().conflicts).toHaveLength(1)
  box.outbox.signedIn('anna')
  expect(box.outbox.state()).toMatchObject({ waiting: 1, conflicts: [] })
  await vi.advanceTimersByTimeAsync(10)
  expect(sent.map(([e]) => [e!.value, e!.base])).toEqual([
    ['berit’s', 'old'],
    ['anna’s', 'old'],
  ])
  expect(names).toEqual(['Bérit', 'anna'])
})

test('an answer that nobody, or somebody else, is signed in asks anew who is here', async () => {
  let asked = 0
  box.outbox.onStranger(() => asked++)
  server = () => 503
  box.outbox.put(147, '/title', 'a', '')
  await vi.advanceTimersByTimeAsync(10)
  expect(asked).toBe(0)
  server = () => 401
  await vi.advanceTimersByTimeAsync(3000)
  expect([asked, waiting()]).toEqual([1, [['/title', 'a']]])
})
