import type { Schemas } from '../api/client'

/** Places of which the paper says the same, together: two like sockets are one list. */
export function alike(paper: Pick<Schemas['FitsPaper'], 'lines'>): string[][] {
  const said = new Map<string, string[]>()
  for (const place of new Set(paper.lines.map((l) => l.place))) {
    const lines = paper.lines.filter((l) => l.place === place).map((l) => ({ ...l, slot: '', place: '' }))
    const key = JSON.stringify(lines)
    said.set(key, [...(said.get(key) ?? []), place])
  }
  return [...said.values()]
}
