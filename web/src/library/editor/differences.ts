import { claims, text, typed, type Draft, type Json } from './draft'

const same = (a: unknown, b: unknown) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null)
const differsOf = (c: Json) => (c['differs'] ?? {}) as Record<string, Json>

/** A place of the shell as one configuration has it: "memory", "boot" or a slot's id; '' is every configuration. */
export function laidOver(draft: Draft, configuration: string, place: string): Json {
  const shell = shellOf(draft, place)
  const c = draft.configurations.find((x) => x['id'] === configuration)
  return c ? { ...shell, ...differsOf(c)[place] } : shell
}

function shellOf(draft: Draft, place: string): Json {
  if (place === 'memory' || place === 'boot') return (draft[place] ?? {}) as Json
  return draft.slots.find((s) => s['id'] === place) ?? {}
}

/** Write what was changed at a place: into the shell, or as what one configuration says differently. What is then as in
 *  the shell is no difference any more. */
export function written(draft: Draft, configuration: string, place: string, next: Json): Draft {
  if (!configuration) {
    if (place === 'memory' || place === 'boot') return { ...draft, [place]: next }
    return { ...draft, slots: draft.slots.map((s) => (s['id'] === place ? next : s)) }
  }
  const shell = shellOf(draft, place)
  return {
    ...draft,
    configurations: draft.configurations.map((c) => {
      if (c['id'] !== configuration) return c
      const patch = Object.fromEntries(Object.entries(next).filter(([k, v]) => !same(v, shell[k])))
      // What is taken away here is unknown here, where the shell says something.
      for (const k of Object.keys(shell)) if (!(k in next) && shell[k] !== undefined) patch[k] = null
      const rest = Object.fromEntries(Object.entries(differsOf(c)).filter(([p]) => p !== place))
      return { ...c, differs: Object.keys(patch).length ? { ...rest, [place]: patch } : rest }
    }),
  }
}

export type Difference = { place: string; name: string; shell: string; each: string[] }

/** What configurations say differently, side by side: a line an attribute, a column a configuration ('' is as the shell). */
export function differences(
  draft: Draft,
  label: (place: string, name: string) => { label: string; scale: number },
): Difference[] {
  const found = new Map<string, Difference>()
  const shown = (value: unknown, scale: number) =>
    claims(value)
      .map((c) => typed(c.value, scale))
      .join('; ') || 'unknown'
  for (const c of draft.configurations)
    for (const [place, patch] of Object.entries(differsOf(c)))
      for (const name of Object.keys(patch)) {
        const key = `${place} ${name}`
        if (found.has(key)) continue
        const words = label(place, name)
        const special = (value: unknown): string => {
          if (name === 'soldered')
            return (
              (Array.isArray(value) ? (value as Json[]) : []).map((s) => `${text(s['capacity_gb'])} GB`).join(' + ') ||
              'none'
            )
          if (name === 'fitted') return value ? text((value as Json)['name']) : 'empty or unknown'
          if (name === 'looked') return value === false ? 'nobody has looked' : 'looked'
          if (name === 'speed_by_modules') return Object.entries((value ?? {}) as Json).map(([n, v]) => `${n}: ${shown(v, 1)}`).join(', ') || 'unknown' // prettier-ignore
          return shown(value, words.scale)
        }
        found.set(key, {
          place:
            place === 'memory' ? 'Memory' : place === 'boot' ? 'Boot' : text(shellOf(draft, place)['name']) || place,
          name: words.label,
          shell: special(shellOf(draft, place)[name]),
          each: draft.configurations.map((x) => {
            const own = differsOf(x)[place]
            return own && name in own ? special(own[name]) : ''
          }),
        })
      }
  return [...found.values()]
}
