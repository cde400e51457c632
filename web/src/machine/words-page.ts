import type { Schemas } from '../api/client'

type Row = Schemas['WordsRow']

type Group = { phrase: string; rows: Row[] }

/** The doubt all claims of a phrase share, which is said once above them; '' for none. */
export function sharedDoubt({ rows }: Group): string {
  const doubts = new Set(rows.map((r) => r.doubt ?? ''))
  return rows.length > 1 && doubts.size === 1 ? [...doubts][0]! : ''
}

/** Claims under the phrase they came from, phrases in the order of the page. */
export function grouped(rows: readonly Row[]): Group[] {
  const found: Group[] = []
  for (const row of rows) {
    const last = found.find((g) => g.phrase === row.phrase && g.rows[0]!.line === row.line)
    if (last) last.rows.push(row)
    else found.push({ phrase: row.phrase, rows: [row] })
  }
  return found
}

/** Is a claim ticked: by somebody's word, else where it goes in and can be read one way only. */
export function isTicked(row: Row, ticked: Readonly<Record<string, boolean>>): boolean {
  return row.goes === 'in' && (ticked[row.id] ?? !row.doubt)
}

/** The ids of what is taken in. */
export function whatGoesIn(rows: readonly Row[], ticked: Readonly<Record<string, boolean>>): string[] {
  return rows.filter((r) => isTicked(r, ticked)).map((r) => r.id)
}
