import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { browser, open, Server, type Fate, type Window } from './wire'

beforeEach(() => browser())
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

const QUICK: Fate = { up: 20, down: 20 }
const pass = (ms: number) => vi.advanceTimersByTimeAsync(ms)

/** What goes on while the wire is cut under an exchange. Each says what the title is to be in the end. */
const STORIES: Record<string, (one: Window, server: Server, fate: () => Fate) => Promise<string>> = {
  'the sentence is typed on at once': async (one) => {
    one.type('/title', 'The radio drops out')
    await pass(600)
    one.type('/title', 'The radio drops out upstairs')
    return 'The radio drops out upstairs'
  },
  'the sentence is typed on after a while, and again': async (one) => {
    one.type('/title', 'a')
    await pass(2000)
    one.type('/title', 'ab')
    await pass(100)
    one.type('/title', 'abc')
    await pass(4000)
    one.type('/title', 'abcd')
    return 'abcd'
  },
  'a second window types on': async (one, server, fate) => {
    one.type('/title', 'from one')
    await pass(500)
    const two = open(server, fate)
    expect(two.shows('/title')).toBe('from one')
    two.type('/title', 'from one and two')
    await pass(100)
    one.type('/notes', 'beside it')
    return 'from one and two'
  },
  'two windows type into one field in turn': async (one, server, fate) => {
    const two = open(server, fate)
    for (const [n, w] of [one, two, one, two].entries()) {
      w.type('/title', `${(w.shows('/title') as string | null) ?? ''}${n}`)
      await pass(n === 1 ? 30 : 700)
    }
    return '0123'
  },
  'the window is closed in the middle of a word, and another opened': async (one, server, fate) => {
    one.type('/title', 'half a wo')
    one.close()
    await pass(1000)
    const two = open(server, fate)
    await pass(100)
    two.type('/title', 'half a word')
    return 'half a word'
  },
  'the window crashes in the middle of a word': async (one, server, fate) => {
    one.type('/title', 'half a wo')
    one.crash()
    await pass(61_000)
    open(server, fate)
    return 'half a wo'
  },
  'the server is away for a minute': async (one, server) => {
    const edits = server.edits
    server.edits = () => {
      throw new TypeError('no line')
    }
    one.type('/title', 'typed')
    await pass(30_000)
    one.type('/title', 'typed while it was away')
    await pass(30_000)
    server.edits = edits
    return 'typed while it was away'
  },
}

const CUTS = ['before', 'request', 'answer'] as const
const CASES = Object.keys(STORIES).flatMap((story) =>
  CUTS.flatMap((cut) => [0, 1, 2, 3].map((which) => [story, cut, which] as const)),
)

test.each(CASES)('%s, the wire cut %s (exchange %d)', async (story, cut, which) => {
  const server = new Server()
  let exchange = 0
  // The one exchange is cut, and every second one after it as well: what is lost is lost again.
  const fate = (): Fate => {
    const n = exchange++
    return n === which || (n > which && (n - which) % 2 === 0 && n < which + 5) ? { ...QUICK, cut } : QUICK
  }
  const one = open(server, fate)
  const wanted = await STORIES[story]!(one, server, fate)
  await pass(70_000)
  expect((server.job as { title: string }).title).toBe(wanted)
  expect(one.outbox.state().conflicts).toEqual([])
  const kept = server.made.map((m) => JSON.stringify(m))
  expect(new Set(kept).size).toBe(kept.length) // each once
})

test('an answer that left earlier and comes later unticks nothing', async () => {
  const server = new Server()
  const slow = [{ up: 10, down: 5000 }, QUICK, QUICK, QUICK]
  const one = open(server, () => slow.shift() ?? QUICK)
  void one.poll() // its answer is made now, and comes in five seconds
  await pass(50)
  one.press('/bench/done/off:cover', 'now')
  await pass(200)
  expect(server.job).toMatchObject({ bench: { done: { 'off:cover': 'now' } } })
  for (let ms = 0; ms < 6000; ms += 100) {
    await pass(100)
    expect(one.shows('/bench/done/off:cover')).toBe('now')
  }
})

test('a window that did not send it shows it all the same until it is told', async () => {
  const server = new Server()
  const one = open(server, () => QUICK)
  const two = open(server, () => QUICK)
  one.press('/bench/done/off:cover', 'now')
  for (let ms = 0; ms < 2000; ms += 10) {
    await pass(10)
    expect(two.shows('/bench/done/off:cover')).toBe('now')
  }
})

test('after a restore the older answers are none, and the new ones count though their sequence is less', async () => {
  const server = new Server()
  server.put('/title', 'before')
  const slow = [{ up: 10, down: 3000 }]
  const one = open(server, () => slow.shift() ?? QUICK)
  void one.poll()
  await pass(100)
  server.epoch = 'second'
  server.sequence = 1
  server.job = { title: 'restored', notes: '', bench: { done: {} } }
  void one.poll()
  await pass(100)
  expect(one.shows('/title')).toBe('restored')
  await pass(5000) // the answer from before the restore
  expect(one.shows('/title')).toBe('restored')
})

/** A source of chance that is the same each time (mulberry32). */
function chance(seed: number) {
  return () => {
    seed = (seed + 0x6d2b79f5) | 0
    let t = Math.imul(seed ^ (seed >>> 15), 1 | seed)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

// A seed of one's own, as the long targets of the Makefile have; the suite's are fixed.
const told = (globalThis as { process?: { env: Record<string, string | undefined> } }).process?.env['INSERTUM_SEED']
const SEEDS = Number(told ?? 0) ? [Number(told)] : [1, 2]

test.each(SEEDS)(
  'an hour at the bench over a wire that loses, doubles and reorders (%d)',
  { timeout: 120_000 },
  async (seed) => {
    await browser(120)
    const server = new Server()
    const random = chance(seed)
    const fate = (): Fate => ({
      up: random() * (random() < 0.1 ? 4000 : 300),
      down: random() * (random() < 0.1 ? 6000 : 300),
      cut: random() < 0.3 ? CUTS[Math.floor(random() * 3)] : undefined,
      twice: random() < 0.2 ? random() * 3000 : undefined,
    })
    let windows = [open(server, fate), open(server, fate)]
    const typed: Record<string, string[]> = { '/title': [], '/notes': [] }
    const pressed: Record<string, string | null> = {}
    for (let n = 0, ms = 0; ms < 3_600_000; n++) {
      const step = 50 + random() * 4000
      await pass(step)
      ms += step
      const one = windows[Math.floor(random() * windows.length)]!
      const what = random()
      if (what < 0.5) {
        const path = random() < 0.7 ? '/title' : '/notes'
        typed[path]!.push(`${n} `)
        one.type(path, `${one.shows(path) as string}${n} `)
      } else if (what < 0.8) {
        const path = `/bench/done/step-${Math.floor(random() * 5)}`
        pressed[path] = one.shows(path) ? null : `pressed ${n}`
        one.press(path, pressed[path])
      } else if (what < 0.93) void one.poll()
      else if (what < 0.96) server.put('/customer', `a colleague’s ${n}`)
      else {
        one.close()
        windows = [...windows.filter((w) => w !== one), open(server, fate)]
      }
      for (const w of windows) {
        for (const path of Object.keys(typed)) expect(w.shows(path)).toBe(typed[path]!.join(''))
        for (const [path, value] of Object.entries(pressed)) expect([path, w.shows(path)]).toEqual([path, value])
      }
    }
    await pass(120_000)
    expect(server.job).toMatchObject({ title: typed['/title']!.join(''), notes: typed['/notes']!.join('') })
    for (const [path, value] of Object.entries(pressed))
      expect((server.job as { bench: { done: Record<string, string> } }).bench.done[path.split('/')[3]!] ?? null).toBe(
        value,
      )
    expect(windows[0]!.outbox.state()).toMatchObject({ conflicts: [], aside: [], waiting: 0 })
    expect(typed['/title']!.length).toBeGreaterThan(400)
  },
)
