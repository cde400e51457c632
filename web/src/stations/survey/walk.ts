import type { Schemas } from '../../api/client'

type Slot = Schemas['SlotView']
export type Fact = Schemas['FactView']

/** What is settled with the cover off: by eye, by a card or a calliper, or off a label. */
const SEEN = new Set(['cover', 'label'])

/** A slot on the walk with what is still to be seen of it. */
export type Stop = { slot: Slot; asked: Fact[]; unseen: boolean }

/** The slots in the order of the map, soldered ones left out. `left` are attributes somebody went past. */
export function stops(slots: readonly Slot[], left: ReadonlySet<string>): Stop[] {
  return slots
    .filter((s) => s.form !== 'soldered')
    .map((slot) => ({
      slot,
      asked: slot.facts.filter((f) => !f.known && SEEN.has(f.where) && !left.has(f.attribute)),
      unseen: slot.fitted_name === 'unknown' && !left.has(`fitted.${slot.id}`),
    }))
}

/** How much of a walk is left. */
export function toGo(all: readonly Stop[]): number {
  return all.reduce((sum, s) => sum + s.asked.length + (s.unseen ? 1 : 0), 0)
}

/** The next slot with something to see, after the one at hand and round again; the one at hand where it has more. */
export function next(all: readonly Stop[], at: string): string {
  const open = (s: Stop) => s.unseen || s.asked.length > 0
  const here = all.findIndex((s) => s.slot.id === at)
  const turned = here < 0 ? all : [...all.slice(here), ...all.slice(0, here)]
  return turned.find(open)?.slot.id ?? at
}

/** Several of a list, one more or one less. */
export function toggled(chosen: readonly string[], value: string): string[] {
  return chosen.includes(value) ? chosen.filter((c) => c !== value) : [...chosen, value]
}
