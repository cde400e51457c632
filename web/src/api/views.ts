/**
 * What the server said of each job: the one owner of it in this page. An answer that left earlier than another, and comes
 * later, changes nothing; neither does one from before the workshop was brought in anew.
 */
import type { JobView } from './client'
import type { Edit } from './queue'

/** An edit that another tab has sent: laid over what this tab knows until it knows what the server answered there. */
type Leaving = { edit: Edit; epoch: string; sequence: number }

let clock = 0
let epoch: { mark: string; since: number } | null = null
const seen = new Map<number, JobView>()
const leaving = new Map<number, Leaving[]>()
const listeners = new Set<() => void>()

/** When a request leaves: its answer is compared by it. */
export const left = () => ++clock

export const views = {
  subscribe(listener: () => void) {
    listeners.add(listener)
    return () => void listeners.delete(listener)
  },
  of: (job: number): JobView | undefined => seen.get(job),

  /** Take an answer in where it is newer than what is known; in any case the newest that is known. */
  accept(job: number, view: JobView, asked: number): JobView {
    if (epoch && view.epoch !== epoch.mark) {
      if (asked <= epoch.since) return seen.get(job) ?? view
      seen.clear() // the workshop was brought in anew: its sequences count from elsewhere
    }
    if (epoch?.mark !== view.epoch) epoch = { mark: view.epoch, since: clock }
    const known = seen.get(job)
    if (known && known.sequence > view.sequence) return known
    seen.set(job, view)
    leaving.set(
      job,
      (leaving.get(job) ?? []).filter((l) => l.epoch === view.epoch && l.sequence > view.sequence),
    )
    listeners.forEach((l) => l())
    return view
  },

  /** Another tab's edit was answered at a sequence this tab has not come to. */
  leaves(edit: Edit, at: { epoch: string; sequence: number }) {
    const known = seen.get(edit.job)
    if (!known || known.epoch !== at.epoch || known.sequence >= at.sequence) return
    if (leaving.get(edit.job)?.some((l) => l.edit.uid === edit.uid)) return
    const all = [...(leaving.get(edit.job) ?? []), { edit, ...at }]
    leaving.set(
      edit.job,
      all.sort((a, b) => a.edit.at - b.edit.at),
    )
  },
  leaving: (job: number): readonly Edit[] => (leaving.get(job) ?? []).map((l) => l.edit),

  /** Nobody is signed in any more. */
  forget() {
    seen.clear()
    leaving.clear()
    epoch = null
    listeners.forEach((l) => l())
  },
}
