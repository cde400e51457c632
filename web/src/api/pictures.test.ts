import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { problem, Refused } from './client'
import { Pictures, type Picture, type Store } from './pictures'

class Kept implements Store {
  readonly by = new Map<string, Picture>()
  full = false
  all = () => Promise.resolve([...this.by.values()])
  put(p: Picture) {
    if (this.full) return Promise.reject(new Error('no room'))
    this.by.set(p.uid, p)
    return Promise.resolve()
  }
  remove = (uid: string) => Promise.resolve(void this.by.delete(uid))
}

const files = (n: number) => Array.from({ length: n }, (_, i) => new File([`${i}`], `${i}.jpg`))
const refused = (status: number) => new Refused(problem('no', ''), status)
let store: Kept
let server: Map<string, string>
let cut: (n: number) => 'request' | 'answer' | number | undefined

function page(person = 'anna', cut_ = (n: number) => cut(n)) {
  let n = 0
  const send = (p: Picture) => {
    const how = cut_(n++)
    if (how === 'request') return Promise.reject(new TypeError('cut'))
    if (typeof how === 'number') return Promise.reject(refused(how))
    server.set(p.uid, p.name)
    return how === 'answer' ? Promise.reject(new TypeError('cut')) : Promise.resolve()
  }
  const made = new Pictures(store, send, () => {})
  return made.signedIn(person).then(() => made)
}

beforeEach(() => {
  vi.useFakeTimers()
  store = new Kept()
  server = new Map()
  cut = () => undefined
})
afterEach(() => vi.useRealTimers())

test('thirty in a row over a bad wire are there once each, in their order', async () => {
  cut = (n) => (n % 3 === 0 ? 'answer' : n % 5 === 0 ? 'request' : undefined)
  const one = await page()
  await one.take(148, 'off:cover', files(30))
  await vi.advanceTimersByTimeAsync(300_000)
  expect([...server.values()]).toEqual(files(30).map((f) => f.name))
  expect([one.list(), store.by.size]).toEqual([[], 0])
})

test('what was taken without a line is sent after a reload', async () => {
  cut = () => 'request'
  await (await page()).take(148, '', files(2))
  expect(store.by.size).toBe(2)
  cut = () => undefined
  const again = await page()
  await vi.advanceTimersByTimeAsync(10)
  expect([server.size, again.list()]).toEqual([2, []])
})

test('it waits for who took it while somebody else is here', async () => {
  await (await page('anna', () => 'request')).take(148, '', files(1))
  const berit = await page('berit')
  await vi.advanceTimersByTimeAsync(10_000)
  expect([server.size, berit.list(), store.by.size]).toEqual([0, [], 1])
  await berit.signedIn('anna')
  await vi.advanceTimersByTimeAsync(10)
  expect(server.size).toBe(1)
})

test.each([400, 413])('what is no picture (%d) is said, holds up nothing, and can be left', async (status) => {
  cut = (n) => (n === 0 ? status : undefined)
  const one = await page()
  await one.take(148, '', files(2))
  await vi.advanceTimersByTimeAsync(10)
  expect([...server.values()]).toEqual(['1.jpg'])
  expect(one.list().map((p) => [p.name, p.problem?.what])).toEqual([['0.jpg', 'no']])
  await one.drop(one.list()[0]!.uid)
  expect(store.by.size).toBe(0)
})

test.each([401, 500, 503, 507])('an answer of %d says nothing of the picture: it waits', async (status) => {
  cut = (n) => (n === 0 ? status : undefined)
  const one = await page()
  await one.take(148, '', files(1))
  await vi.advanceTimersByTimeAsync(10)
  expect(one.list()).toHaveLength(1)
  await vi.advanceTimersByTimeAsync(5000)
  expect([server.size, one.list()]).toEqual([1, []])
})

test('a browser without room says so, and keeps what it had', async () => {
  const one = await page()
  store.full = true
  await expect(one.take(148, '', files(1))).rejects.toThrow('no room')
  expect(server.size).toBe(0)
})
