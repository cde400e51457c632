/**
 * The outbox: every change to a job waits here, in the browser's own storage, until the server has
 * it. A reload, a lost connection or a second tab loses nothing; sending twice does it once.
 */
import { answer, client, Refused, type JobView, type Problem, type Schemas } from './client'

export type Edit = Schemas['Edit'] & { job: number; at: number }
export type Conflict = Edit & { theirs: unknown }

const EDIT = 'insertum.edit.'
const CONFLICT = 'insertum.conflict.'
/** How long typing may pause before it is sent; choices are sent at once. */
export const TYPING_MS = 400
const RETRY_MS = 3000
/** Answers that mean the edit itself is bad. Any other, a lost session too, leaves it waiting. */
const BAD = new Set([400, 404, 413, 422])

type State = {
  waiting: number
  offline: boolean
  conflicts: Conflict[]
  problem: Problem | null
  saved: number
}

let state: State = { waiting: 0, offline: false, conflicts: [], problem: null, saved: 0 }
const listeners = new Set<() => void>()
const received = new Set<(job: number, view: JobView) => void>()
const elsewhere = new Set<(job: number) => void>()
let sending = new Set<string>()
let timer: number | undefined
let order = 0

function stored<T>(prefix: string): T[] {
  return Object.keys(localStorage)
    .filter((k) => k.startsWith(prefix))
    .map((k) => JSON.parse(localStorage.getItem(k) ?? 'null') as T)
    .filter(Boolean)
}

export function pending(job?: number): Edit[] {
  return stored<Edit>(EDIT)
    .filter((e) => job === undefined || e.job === job)
    .sort((a, b) => a.at - b.at)
}

function tell(change: Partial<State>) {
  state = { ...state, ...change, waiting: pending().length, conflicts: stored<Conflict>(CONFLICT) }
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
          }
    localStorage.setItem(EDIT + edit.uid, JSON.stringify(edit))
    tell({ problem: null })
    later(pause)
  },
  resolve(conflict: Conflict, value: unknown) {
    localStorage.removeItem(CONFLICT + conflict.uid)
    if (value !== conflict.theirs) outbox.put(conflict.job, conflict.path, value, conflict.theirs)
    tell({})
  },
  dismiss: () => tell({ problem: null }),
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

async function sendAll() {
  for (let edits = pending(); edits.length; edits = pending()) {
    const job = edits[0]!.job
    const batch = edits.filter((e) => e.job === job)
    try {
      await post(job, batch)
      tell({ offline: false, problem: null, saved: Date.now() })
    } catch (error) {
      if (error instanceof Refused && BAD.has(error.status)) {
        await refusedOne(batch, error)
        continue
      }
      tell({ offline: true })
      later(RETRY_MS)
      return
    }
  }
  tell({ offline: false })
}

/** Send edits of one job. What is in conflict is kept, with what stands there now. */
async function post(job: number, edits: Edit[]) {
  const body = edits.map(({ uid, path, op, base, value }) => ({ uid, path, op, base, value }))
  sending = new Set(edits.map((e) => e.uid))
  try {
    const { results, view } = await answer(
      client.POST('/api/jobs/{number}/edits', { params: { path: { number: job } }, body }),
    )
    for (const result of results) {
      const edit = edits.find((e) => e.uid === result.uid)
      if (edit && result.outcome === 'conflict') {
        localStorage.setItem(CONFLICT + edit.uid, JSON.stringify({ ...edit, theirs: result.theirs }))
      }
      localStorage.removeItem(EDIT + result.uid)
    }
    received.forEach((l) => l(job, view))
  } finally {
    sending = new Set()
  }
}

/** One edit of a batch is bad: the server made none. Send them singly; drop and show the bad one. */
async function refusedOne(batch: Edit[], error: Refused) {
  for (const edit of batch) {
    let refused: unknown = error
    try {
      if (batch.length > 1) {
        await post(edit.job, [edit])
        continue
      }
    } catch (single) {
      refused = single
    }
    if (!(refused instanceof Refused) || !BAD.has(refused.status)) return
    localStorage.removeItem(EDIT + edit.uid)
    tell({ problem: refused.problem, offline: false })
  }
}
