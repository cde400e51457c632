/**
 * The outbox: every change to a job waits here, in the browser's own storage, until the server has
 * it. A reload, a lost connection or a second tab loses nothing; sending twice does it once. What one
 * person typed is neither sent nor shown while somebody else is signed in at this browser.
 */
import { answer, client, Refused, type JobView, type Problem, type Schemas } from './client'

/** `by`: who typed it. `tries`: how often the server broke over it. */
export type Edit = Schemas['Edit'] & { job: number; at: number; by: string; tries?: number }
export type Conflict = Edit & { theirs: unknown }
/** An edit the server would not take, with its reason. Kept until it is tried again or put away. */
export type Aside = Edit & { problem: Problem }

const EDIT = 'insertum.edit.'
const CONFLICT = 'insertum.conflict.'
const ASIDE = 'insertum.aside.'
/** How long typing may pause before it is sent; choices are sent at once. */
export const TYPING_MS = 400
const RETRY_MS = 3000
/** So often the server may break over one edit before the edits behind it go on without it. */
const TRIES = 3
/** Answers that mean the edit itself is bad. Any other, a lost session too, leaves it waiting. */
const BAD = new Set([400, 404, 413, 422])

type State = {
  waiting: number
  offline: boolean
  conflicts: Conflict[]
  aside: Aside[]
  saved: number
}

let state: State = { waiting: 0, offline: false, conflicts: [], aside: [], saved: 0 }
const listeners = new Set<() => void>()
const received = new Set<(job: number, view: JobView) => void>()
const elsewhere = new Set<(job: number) => void>()
let person = ''
const strangers = new Set<() => void>()
let sending = new Set<string>()
let timer: number | undefined
let order = 0

/** What this person has there. An edit without a name is from before names were kept. */
function stored<T extends Edit>(prefix: string): T[] {
  return Object.keys(localStorage)
    .filter((k) => k.startsWith(prefix))
    .map((k) => JSON.parse(localStorage.getItem(k) ?? 'null') as T | null)
    .filter((e): e is T => !!e && (e.by ?? person) === person)
}

const keep = (prefix: string, edit: Edit) => localStorage.setItem(prefix + edit.uid, JSON.stringify(edit))

export function pending(job?: number): Edit[] {
  return stored<Edit>(EDIT)
    .filter((e) => job === undefined || e.job === job)
    .sort((a, b) => a.at - b.at)
}

function tell(change: Partial<State>) {
  state = {
    ...state,
    ...change,
    waiting: pending().length,
    conflicts: stored<Conflict>(CONFLICT),
    aside: stored<Aside>(ASIDE),
  }
  listeners.forEach((l) => l())
}

export const outbox = {
  subscribe(listener: () => void) {
    listeners.add(listener)
    return () => void listeners.delete(listener)
  },
  state: () => state,
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
    if (name === person) return
    person = name
    tell({ offline: false, saved: 0 })
    later(0)
  },
  /** Another tab has sent a change. */
  onElsewhere(listener: (job: number) => void) {
    elsewhere.add(listener)
    return () => void elsewhere.delete(listener)
  },
  /** Put a change in. A later change to the same place replaces one that is still waiting. */
  put(job: number, path: string, value: unknown, base: unknown, op: 'set' | 'remove' = 'set', pause = 0) {
    const same = pending(job).filter((e) => e.path === path)
    const last = same.at(-1)
    const edit: Edit =
      last && !sending.has(last.uid)
        ? { ...last, value, op }
        : {
            uid: uid(),
            job,
            path,
            op,
            value,
            base: last ? last.value : base,
            at: Date.now() + order++ / 1000,
            by: person,
          }
    keep(EDIT, edit)
    for (const old of stored<Aside>(ASIDE)) if (old.job === job && old.path === path) outbox.putAway(old)
    tell({})
    later(pause)
  },
  resolve(conflict: Conflict, value: unknown) {
    localStorage.removeItem(CONFLICT + conflict.uid)
    if (value !== conflict.theirs) outbox.put(conflict.job, conflict.path, value, conflict.theirs)
    tell({})
  },
  putAway(aside: Aside) {
    localStorage.removeItem(ASIDE + aside.uid)
    tell({})
  },
  /** Send what was set aside once more, as it stands there. */
  again(aside: Aside) {
    const edit: Edit & { problem?: Problem } = { ...aside, tries: 0 }
    delete edit.problem
    localStorage.removeItem(ASIDE + aside.uid)
    keep(EDIT, edit)
    tell({})
    later(0)
  },
  /** Send at once, and wait for it: before an action that needs the server to know. */
  async flush() {
    window.clearTimeout(timer)
    await send()
  },
  start() {
    window.addEventListener('online', () => later(0))
    // Tabs share the outbox: another tab may have sent what was typed here.
    window.addEventListener('storage', (e) => {
      if (!e.key?.startsWith(EDIT)) return
      tell(pending().length ? {} : { offline: false, saved: Date.now() })
      if (!e.newValue && e.oldValue) elsewhere.forEach((l) => l((JSON.parse(e.oldValue!) as Edit).job))
    })
    tell({})
    later(0)
  },
}

// randomUUID exists only on secure pages; the demo's plain address on this machine counts as one.
function uid(): string {
  return crypto.randomUUID?.() ?? `${Date.now()}-${Math.random().toString(36).slice(2)}`
}

function later(ms: number) {
  window.clearTimeout(timer)
  timer = window.setTimeout(() => void send(), ms)
}

let running: Promise<void> | null = null
function send(): Promise<void> {
  running ??= sendAll().finally(() => (running = null))
  return running
}

/** How a request ended: taken, the edit is bad, the server broke over it, or nothing is known of it. */
type Fate = { end: 'sent' } | { end: 'away' } | { end: 'bad' | 'broken'; problem: Problem }

async function sendAll() {
  if (!person) return
  const held = new Set<number>()
  const next = () => pending().find((e) => !held.has(e.job))?.job
  for (let job = next(); job !== undefined; job = next()) {
    const end = await sendJob(job)
    if (end === 'away') {
      tell({ offline: true })
      return later(RETRY_MS)
    }
    if (end === 'broken') held.add(job)
  }
  tell({ offline: false })
  if (held.size) later(RETRY_MS)
}

/** The server makes all edits of a batch or none. Where it made none, they are sent one by one. */
async function sendJob(job: number): Promise<Fate['end']> {
  const batch = pending(job)
  const all = await post(job, batch)
  if (all.end === 'sent' || all.end === 'away') return all.end
  for (const { uid } of batch) {
    const edit = pending(job).find((e) => e.uid === uid) // as it stands by now
    if (!edit) continue
    const fate = batch.length > 1 ? await post(job, [edit]) : all
    if (fate.end === 'sent') continue
    if (fate.end === 'away') return 'away'
    const tries = (edit.tries ?? 0) + 1
    if (fate.end === 'broken' && tries < TRIES) {
      keep(EDIT, { ...edit, tries })
      return 'broken'
    }
    localStorage.removeItem(EDIT + uid)
    keep(ASIDE, { ...edit, problem: fate.problem } as Aside)
    tell({ offline: false })
  }
  return 'sent'
}

/** Send edits of one job. What is in conflict is kept, with what stands there now. */
async function post(job: number, edits: Edit[]): Promise<Fate> {
  const body = edits.map(({ uid, path, op, base, value }) => ({ uid, path, op, base, value }))
  sending = new Set(edits.map((e) => e.uid))
  try {
    const { results, view } = await answer(
      client.POST('/api/jobs/{number}/edits', {
        params: { path: { number: job }, header: { 'X-Insertum-Person': encodeURIComponent(person) } },
        body,
      }),
    )
    for (const result of results) {
      const edit = edits.find((e) => e.uid === result.uid)
      if (edit && result.outcome === 'conflict') keep(CONFLICT, { ...edit, theirs: result.theirs } as Conflict)
      localStorage.removeItem(EDIT + result.uid)
    }
    received.forEach((l) => l(job, view))
    tell({ offline: false, saved: Date.now() })
    return { end: 'sent' }
  } catch (error) {
    if (!(error instanceof Refused)) return { end: 'away' }
    if (error.status === 401) strangers.forEach((l) => l())
    if (BAD.has(error.status)) return { end: 'bad', problem: error.problem }
    return error.status === 500 ? { end: 'broken', problem: error.problem } : { end: 'away' }
  } finally {
    sending = new Set()
  }
}
