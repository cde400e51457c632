import type { Schemas } from '../api/client'

type Row = Schemas['WordsRow']

/** Claims under the phrase they came from, phrases in the order of the page. */
export function grouped(rows: readonly Row[]): { phrase: string; rows: Row[] }[] {
  const found: { phrase: string; rows: Row[] }[] = []
  for (const row of rows) {
    const last = found.find((g) => g.phrase === row.phrase && g.rows[0]!.line === row.line)
    if (last) last.rows.push(row)
    else found.push({ phrase: row.phrase, rows: [row] })
  }
  return found
}

/** The ids of what is taken in: all that goes in, but for what somebody unticked. */
export function whatGoesIn(rows: readonly Row[], out: Readonly<Record<string, boolean>>): string[] {
  return rows.filter((r) => r.goes === 'in' && !out[r.id]).map((r) => r.id)
}
