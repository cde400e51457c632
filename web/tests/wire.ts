/** A world for the outbox: a server that keeps a job, a wire that cannot be trusted, and windows of one browser. */
import { vi } from 'vitest'
import type { Schemas } from '../src/api/client'
import { at, placed } from '../src/api/pointer'

type Wanted = Schemas['Edit']
export const JOB = 147

/** The job, and the rules by which edits are made of it: those of the real server. */
export class Server {
  job: unknown = { title: '', notes: '', bench: { done: {} } }
  sequence = 1
  epoch = 'first'
  private readonly heard = new Map<string, string>()
  /** How often each value was written down: an edit is made once, however often it comes. */
  readonly made: unknown[] = []

  view = () => ({ job: this.job, sequence: this.sequence, epoch: this.epoch, undo: '' })

  edits(wanted: readonly Wanted[]) {
    const results = wanted.map((e) => this.edit(e))
    return { results, view: this.view() }
  }

  private edit({ uid, path, op, base, value }: Wanted) {
    const result = (outcome: string, theirs: unknown = null) => ({ uid, path, outcome, theirs, place: path })
    const content = JSON.stringify([path, op, value])
    const stands = at(this.job, path) ?? null
    const known = this.heard.get(uid)
    if (known !== undefined) return known === content ? result('already') : result('conflict', stands)
    const same = JSON.stringify(stands) === JSON.stringify(op === 'remove' ? null : value)
    if (!same && JSON.stringify(stands) !== JSON.stringify(base ?? null)) return result('conflict', stands)
    this.heard.set(uid, content)
    if (same) return result('already')
    this.put(path, value, op === 'remove')
    return result('applied')
  }

  /** A change of anybody's. */
  put(path: string, value: unknown, remove = false) {
    this.job = placed(this.job, path, value, remove)
    this.made.push([path, value])
    this.sequence++
  }
}

/** What becomes of one exchange: how long each way takes, and where it is cut. */
export type Fate = { up: number; down: number; cut?: 'before' | 'request' | 'answer'; twice?: number }
const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms))

/** The storage that all windows share; each is told of every change, some time after. */
class Shared {
  [key: string]: unknown
  setItem(key: string, value: string) {
    const oldValue = (this[key] as string | undefined) ?? null
    this[key] = value
    if (oldValue !== value) told({ key, oldValue, newValue: value })
  }
  getItem(key: string) {
    return (this[key] as string | undefined) ?? null
  }
  removeItem(key: string) {
    const oldValue = this.getItem(key)
    delete this[key]
    if (oldValue !== null) told({ key, oldValue, newValue: null })
  }
}

type Heard = (event: unknown) => void
let windows: Map<string, Heard>[] = []
const told = (event: { key: string; oldValue: string | null; newValue: string | null }) =>
  setTimeout(() => windows.forEach((w) => w.get('storage')?.(event)), 5)

/** The modules of one window: each window has its own, as a page that was loaded has. */
async function loaded() {
  vi.resetModules()
  const { client } = await import('../src/api/client')
  const { outbox, TYPING_MS } = await import('../src/api/outbox')
  const { left, views } = await import('../src/api/views')
  const { overlaid } = await import('../src/api/job')
  return { client, outbox, TYPING_MS, left, views, overlaid }
}
let spare: Awaited<ReturnType<typeof loaded>>[] = []

/** One browser: an empty storage, no windows yet, so many at most. Their modules are loaded before the clock stands still:
 * what loads them waits by a clock as well, and would wait for ever. */
export async function browser(most = 3) {
  vi.useRealTimers()
  spare = []
  while (spare.length < most) spare.push(await loaded())
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'Date'] })
  windows = []
  vi.stubGlobal('localStorage', new Shared())
}

/** A window of it, with the outbox that runs there. */
export function open(server: Server, fate: () => Fate) {
  const own = new Map<string, Heard>()
  windows.push(own)
  vi.stubGlobal('window', { setTimeout, clearTimeout, addEventListener: (n: string, f: Heard) => own.set(n, f) })
  const modules = spare.shift()
  if (!modules) throw new Error('no window left: ask for more of them when the browser starts')
  const { client, outbox, TYPING_MS, left, views, overlaid } = modules
  let shut = false
  const over = async <T>(answer: () => T): Promise<T> => {
    const { up, down, cut, twice } = fate()
    if (shut) await new Promise(() => {}) // nobody waits for it any more
    if (cut === 'before') throw new TypeError('no line')
    await sleep(up)
    if (cut === 'request') throw new TypeError('cut')
    const found = structuredClone(answer())
    if (twice !== undefined) setTimeout(answer, twice)
    await sleep(down)
    if (shut) await new Promise(() => {})
    if (cut === 'answer') throw new TypeError('cut')
    return found
  }
  const post = async (_: string, { body }: { body: Wanted[] }) => {
    const data = await over(() => server.edits(structuredClone(body)))
    return { data, response: { ok: true, status: 200 } }
  }
  vi.spyOn(client, 'POST').mockImplementation(post as unknown as typeof client.POST)
  const poll = async () => {
    const asked = left()
    await over(() => server.view()).then((v) => views.accept(JOB, v as never, asked), () => {}) // prettier-ignore
  }
  outbox.start()
  outbox.signedIn('anna')
  views.accept(JOB, structuredClone(server.view()) as never, left())
  return {
    outbox,
    poll,
    /** What a field shows. */
    shows: (path: string) => at(overlaid(views.of(JOB)!, JOB).job, path) ?? null,
    type(path: string, value: unknown) {
      outbox.put(JOB, path, value, this.shows(path), { pause: TYPING_MS })
    },
    press(path: string, value: unknown) {
      outbox.put(JOB, path, value, this.shows(path), { op: value === null ? 'remove' : 'set' })
    },
    close() {
      own.get('pagehide')?.({})
      windows = windows.filter((w) => w !== own)
      shut = true
    },
    /** The page crashes: nobody tells it that it ends. */
    crash() {
      windows = windows.filter((w) => w !== own)
      shut = true
    },
  }
}

export type Window = ReturnType<typeof open>
