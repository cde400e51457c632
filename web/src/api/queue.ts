/**
 * What was typed and is not known to be at the server: it lies in the browser's own storage, which all tabs of it share.
 *
 * While somebody types, their words are a *draft*: its tab alone writes it, and nothing of it has been sent. A pause closes
 * the draft: from then on it is an *edit*, with an id, and never changes again, so that whichever tab sends it, and however
 * often, it is the same edit. What is typed later is another edit that rests on it. So no tab has to know what another one is
 * doing, which over plain HTTP, without the browser's locks, it could not.
 */
import type { Problem, Schemas } from './client'

/** `by`: who typed it. `asked`: what the field is called. `tries`: how often the server broke over it. */
export type Edit = Schemas['Edit'] & { job: number; at: number; by: string; asked?: string; tries?: number }
type Draft = Omit<Edit, 'uid'> & { tab: string; touched: number }
/** What the server said of an edit that somebody's change stood in the way of. */
export type Conflict = Edit &
  Pick<Schemas['EditResult'], 'theirs' | 'place' | 'yours_words' | 'theirs_words' | 'who'> & {
    since: string
  }
/** An edit the server would not take, with its reason. Kept until it is tried again or put away. */
export type Aside = Edit & { problem: Problem }
/** What of a job has been answered, for tabs that have not been told. */
type Answered = { epoch: string; sequence: number }

export const EDIT = 'insertum.edit.'
const DRAFT = 'insertum.draft.'
const CONFLICT = 'insertum.conflict.'
const ASIDE = 'insertum.aside.'
const ANSWERED = 'insertum.answered.'
/** A draft its tab has not touched for so long has lost its tab. */
const LOST_MS = 60_000

// What the storage has no room for stays here, for as long as the page is open.
const spill = new Map<string, string>()

function write(key: string, value: unknown) {
  const text = JSON.stringify(value)
  try {
    localStorage.setItem(key, text)
    spill.delete(key)
  } catch {
    spill.set(key, text)
  }
}

function erase(key: string) {
  localStorage.removeItem(key)
  spill.delete(key)
}

function read<T>(key: string): T | null {
  return JSON.parse(spill.get(key) ?? localStorage.getItem(key) ?? 'null') as T | null
}

function all<T>(prefix: string): T[] {
  return [...new Set([...Object.keys(localStorage), ...spill.keys()])]
    .filter((k) => k.startsWith(prefix))
    .map((k) => read<T>(k))
    .filter((x): x is Awaited<T> & T => !!x)
}

// randomUUID exists only on secure pages; a workshop's address on its own network is none.
export const uid = () => crypto.randomUUID?.() ?? `${Date.now()}-${Math.random().toString(36).slice(2)}`

export class Queue {
  private readonly tab = uid()
  private order = 0
  /** Whose words these are; what others left is neither sent nor shown. */
  person = ''

  private mine<T extends { by: string }>(prefix: string): T[] {
    // One without a name is from before names were kept.
    return all<T>(prefix).filter((e) => (e.by ?? this.person) === this.person)
  }

  /** Closed edits, in the order they were made. */
  edits(job?: number): Edit[] {
    return this.mine<Edit>(EDIT)
      .filter((e) => job === undefined || e.job === job)
      .sort(byTime)
  }

  /** Everything that is not known to be at the server, drafts of all tabs included. */
  pending(job?: number): Edit[] {
    const drafts = this.mine<Draft>(DRAFT).filter((d) => job === undefined || d.job === job)
    return [...this.edits(job), ...drafts.map((d) => ({ ...d, uid: '' }))].sort(byTime)
  }

  conflicts = () => this.mine<Conflict>(CONFLICT).sort(byTime)
  asides = () => this.mine<Aside>(ASIDE).sort(byTime)
  /** Has the storage room for what is typed? */
  full = () => spill.size > 0

  /** Words as they stand by now. `base` is what the editor saw there; what is still on its way is what they rest on. */
  type(job: number, path: string, op: 'set' | 'remove', value: unknown, base: unknown, asked?: string) {
    const key = this.draftKey(job, path)
    const open = read<Draft>(key)
    const now = Date.now()
    const last = this.pending(job)
      .filter((e) => e.path === path)
      .at(-1)
    if (open && open.by === this.person && last?.at === open.at) return write(key, { ...open, op, value, touched: now })
    // What rests on a draft, this window's or another's, finds it closed.
    for (const d of this.mine<Draft>(DRAFT)) if (d.job === job && d.path === path) this.closed(d)
    const draft: Draft = {
      job, path, op, value, asked, base: last ? standing(last) : base, by: this.person, tab: this.tab, touched: now,
      at: now + this.order++ / 1000,
    } // prettier-ignore
    write(key, draft)
    for (const old of this.asides()) if (old.job === job && old.path === path) this.putAway(old)
  }

  /** Close this tab's drafts, and those whose tab is gone. */
  close() {
    for (const d of all<Draft>(DRAFT)) {
      if (d.tab === this.tab || Date.now() - d.touched >= LOST_MS) this.closed(d)
    }
  }

  private closed({ tab, job, path, op, value, base, at, by, asked }: Draft) {
    this.keep({ uid: uid(), job, path, op, value, base, at, by, asked })
    erase(DRAFT + tab + key({ job, path }))
  }

  keep = (edit: Edit) => write(EDIT + edit.uid, edit)
  drop = (edit: Pick<Edit, 'uid'>) => erase(EDIT + edit.uid)

  /** Kept with what stands there. Of several words for one place the last ones hold what the earlier ones said. */
  conflicted(edit: Edit, found: Schemas['EditResult']) {
    for (const c of this.conflicts()) if (c.job === edit.job && c.path === edit.path) this.settled(c)
    const { theirs, place, yours_words, theirs_words, who, at } = found
    write(CONFLICT + edit.uid, { ...edit, theirs, place, yours_words, theirs_words, who, since: at })
    this.drop(edit)
  }

  settled = (conflict: Conflict) => erase(CONFLICT + conflict.uid)
  isConflict = (edit: Pick<Edit, 'uid'>) => read(CONFLICT + edit.uid) !== null

  /** Set aside with the reason. What was typed over it rests on what it rested on. */
  setAside(edit: Edit, problem: Problem) {
    write(ASIDE + edit.uid, { ...edit, problem })
    const next = this.edits(edit.job).find((e) => e.path === edit.path && e.at > edit.at)
    if (next) {
      this.keep({ ...next, uid: uid(), base: edit.base })
      this.drop(next)
      erase(ASIDE + edit.uid) // they have typed on: the later words are judged
    }
    this.drop(edit)
  }

  putAway = (aside: Edit) => erase(ASIDE + aside.uid)

  /** What was set aside, once more: under an id of its own, since the first was sent. */
  again(aside: Aside) {
    const edit: Edit & { problem?: Problem } = { ...aside, uid: uid(), tries: 0 }
    delete edit.problem
    this.putAway(aside)
    this.keep(edit)
  }

  /** For the other tabs: how far a job's edits are answered. */
  answered(job: number, at: Answered) {
    const known = this.answeredAt(job)
    if (known?.epoch !== at.epoch || known.sequence < at.sequence) write(ANSWERED + job, at)
  }
  answeredAt = (job: number) => read<Answered>(ANSWERED + job)

  private draftKey = (job: number, path: string) => DRAFT + this.tab + key({ job, path })
}

const key = (d: { job: number; path: string }) => `.${d.job}${d.path}`
const byTime = (a: Edit, b: Edit) => a.at - b.at
/** What stands at a place once an edit is made. */
const standing = (e: Edit) => (e.op === 'remove' ? null : e.value)
