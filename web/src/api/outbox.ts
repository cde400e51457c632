/**
 * Sends what waits in the queue. Every change to a job waits there until the server is known to have it: a reload, a lost
 * answer or a second tab loses nothing, and sending twice does it once.
 */
import { answer, client, Refused, type JobView, type Problem } from './client'
import { EDIT, Queue, type Aside, type Conflict, type Edit } from './queue'
import { left, views } from './views'

export type { Aside, Conflict, Edit } from './queue'

/** How long typing may pause before it is sent; choices are sent at once. */
export const TYPING_MS = 400
const RETRY_MS = 3000
/** A request without an answer for so long has none: what it held is sent again. */
const TOO_LONG_MS = 20_000
/** So often the server may break over one edit before the edits behind it go on without it. */
const TRIES = 3
/** So many edits go in one request. */
const MOST = 100
/** Answers that mean the edit itself is bad. Any other, a lost session too, leaves it waiting. */
const BAD = new Set([400, 404, 413, 422])
/** Answers that mean there is no room, or nobody may write: it waits, and why is said. */
const NO_ROOM = 507

type State = {
  waiting: number
  offline: boolean
  /** Why the server keeps nothing at the moment, in its words. */
  why: string
  /** The browser has no room for what is typed: it is kept while this page is open. */
  full: boolean
  conflicts: Conflict[]
  aside: Aside[]
  saved: number
}

let state: State = { waiting: 0, offline: false, why: '', full: false, conflicts: [], aside: [], saved: 0 }
const queue = new Queue()
const listeners = new Set<() => void>()
const received = new Set<(job: number, view: JobView) => void>()
const elsewhere = new Set<(job: number) => void>()
const strangers = new Set<() => void>()
let timer: number | undefined
let typing: number | undefined

/** What waited when this window last looked. */
let looked: Edit[] = []

/** An edit waits no more: unless it is in a conflict it was answered, here or in another window. */
function gone(edit: Edit) {
  const at = queue.isConflict(edit) ? null : queue.answeredAt(edit.job)
  if (at) views.leaves(edit, at)
}

/** What waits for the server, of one job or of all. What another window has sent since the last look stays laid over the job
 * until this one knows what the server answered: told of it or not, no word goes missing in between. */
export function pending(job?: number): Edit[] {
  const edits = queue.edits()
  const there = new Set(edits.map((e) => e.uid))
  for (const e of looked) if (!there.has(e.uid)) gone(e)
  looked = edits
  return queue.pending(job)
}

function tell(change: Partial<State> = {}) {
  state = {
    ...state,
    ...change,
    full: queue.full(),
    waiting: pending().length,
    conflicts: queue.conflicts(),
    aside: queue.asides(),
  }
  listeners.forEach((l) => l())
}

export const outbox = {
  subscribe(listener: () => void) {
    listeners.add(listener)
    return () => void listeners.delete(listener)
  },
  state: () => state,
  /** The server has answered, with the job as it stands. */
  onReceived(listener: (job: number, view: JobView) => void) {
    received.add(listener)
    return () => void received.delete(listener)
  },
  /** Somebody else is signed in here by now, or nobody. */
  onStranger(listener: () => void) {
    strangers.add(listener)
    return () => void strangers.delete(listener)
  },
  /** Whose changes these are from now on; what they left here earlier is sent. */
  signedIn(name: string) {
    if (name === queue.person) return
    queue.close()
    if (queue.person) views.forget() // what can be taken back is theirs
    queue.person = name
    tell({ offline: false, why: '', saved: 0 })
    later(0)
  },
  /** Another tab has sent a change. */
  onElsewhere(listener: (job: number) => void) {
    elsewhere.add(listener)
    return () => void elsewhere.delete(listener)
  },
  /** Put a change in. `pause` is how long it may still be typed at; `asked` what its field is called. */
  put(
    job: number,
    path: string,
    value: unknown,
    base: unknown,
    { op = 'set', pause = 0, asked }: { op?: 'set' | 'remove'; pause?: number; asked?: string } = {},
  ) {
    queue.type(job, path, op, value, base, asked)
    if (!pause) queue.close()
    tell()
    window.clearTimeout(typing)
    // A pause in typing closes what was typed, also while nothing can be sent.
    typing = window.setTimeout(() => void send(), pause)
  },
  resolve(conflict: Conflict, value: unknown) {
    queue.settled(conflict)
    if (value !== conflict.theirs)
      outbox.put(conflict.job, conflict.path, value, conflict.theirs, { asked: conflict.asked })
    tell()
  },
  putAway(aside: Aside) {
    queue.putAway(aside)
    tell()
  },
  /** Send what was set aside once more, as it stands there. */
  again(aside: Aside) {
    queue.again(aside)
    tell()
    later(0)
  },
  /** Send at once, and wait for it: before an action that needs the server to know. */
  async flush() {
    window.clearTimeout(timer)
    window.clearTimeout(typing)
    await send()
  },
  start() {
    window.addEventListener('online', () => later(0))
    // A page that is left closes what is typed in it, so that another tab, or this one when it is back, can send it.
    for (const leaving of ['pagehide', 'visibilitychange'])
      window.addEventListener(leaving, () => {
        queue.close()
        later(0)
      })
    window.addEventListener('storage', (e) => {
      if (!e.key?.startsWith('insertum.')) return
      const edit = e.key.startsWith(EDIT) && !e.newValue && e.oldValue ? (JSON.parse(e.oldValue) as Edit) : null
      if (edit && edit.by === queue.person) gone(edit)
      tell(pending().length ? {} : { offline: false, why: '', saved: edit ? Date.now() : state.saved })
      if (edit) elsewhere.forEach((l) => l(edit.job))
    })
    tell()
    later(0)
  },
}

function later(ms: number) {
  window.clearTimeout(timer)
  timer = window.setTimeout(() => void send(), ms)
}

let running: Promise<void> | null = null
async function send(): Promise<void> {
  queue.close()
  await running // what has left by now does not hold what was closed just now
  running ??= sendAll().finally(() => (running = null))
  return running
}

/** How a request ended: taken, the edit is bad, the server broke over it, or nothing is known of it. */
type Fate = { end: 'sent' } | { end: 'away'; why: string } | { end: 'bad' | 'broken'; problem: Problem }

async function sendAll() {
  if (!queue.person) return
  const held = new Set<number>()
  const next = () => queue.edits().find((e) => !held.has(e.job))?.job
  for (let job = next(); job !== undefined; job = next()) {
    const fate = await sendJob(job)
    if (fate.end === 'away') {
      tell({ offline: true, why: fate.why })
      return later(RETRY_MS)
    }
    if (fate.end === 'broken') held.add(job)
  }
  tell({ offline: false, why: '' })
  if (held.size) later(RETRY_MS)
}

/** The server makes all edits of a batch or none. Where it made none, they are sent one by one. */
async function sendJob(job: number): Promise<Fate> {
  const batch = queue.edits(job).slice(0, MOST)
  const all = await post(job, batch)
  if (all.end === 'sent' || all.end === 'away') return all
  for (const { uid } of batch) {
    const edit = queue.edits(job).find((e) => e.uid === uid) // it may be answered to another tab by now
    if (!edit) continue
    const fate = batch.length > 1 ? await post(job, [edit]) : all
    if (fate.end === 'sent') continue
    if (fate.end === 'away') return fate
    const tries = (edit.tries ?? 0) + 1
    if (fate.end === 'broken' && tries < TRIES) {
      queue.keep({ ...edit, tries })
      return fate
    }
    queue.setAside(edit, fate.problem)
    tell({ offline: false, why: '' })
  }
  return { end: 'sent' }
}

/** Send edits of one job. What is in conflict is kept, with what stands there now. */
async function post(job: number, edits: Edit[]): Promise<Fate> {
  const body = edits.map(({ uid, path, op, base, value }) => ({ uid, path, op, base, value }))
  const asked = left()
  try {
    const { results, view } = await answer(
      client.POST('/api/jobs/{number}/edits', {
        params: { path: { number: job }, header: { 'X-Insertum-Person': encodeURIComponent(queue.person) } },
        body,
        signal: AbortSignal.timeout(TOO_LONG_MS),
      }),
    )
    views.accept(job, view, asked)
    queue.answered(job, { epoch: view.epoch, sequence: view.sequence })
    for (const result of results) {
      const edit = edits.find((e) => e.uid === result.uid)
      if (!edit) continue
      if (result.outcome === 'conflict') queue.conflicted(edit, result)
      else queue.drop(edit)
    }
    received.forEach((l) => l(job, view))
    tell({ offline: false, why: '', saved: Date.now() })
    return { end: 'sent' }
  } catch (error) {
    if (!(error instanceof Refused)) return { end: 'away', why: '' }
    if (error.status === 401) strangers.forEach((l) => l())
    if (BAD.has(error.status)) return { end: 'bad', problem: error.problem }
    if (error.status === 500) return { end: 'broken', problem: error.problem }
    return { end: 'away', why: error.status === NO_ROOM ? error.problem.what : '' }
  }
}
