import type { Schemas, Verdict } from '../../api/client'

export type Row = Schemas['MatrixRow']
/** Slot, verdict, words and price of accessories, as the server packs them. */
export type Cell = Row['cells'][number]
export type Looked = { row: Row; cell: Cell; slot: string }

/** Verdicts by the number they have in a cell. */
const VERDICT_ORDER: readonly Verdict[] = ['seats', 'held_back', 'measure_first', 'refused', 'harm']
export const slotOf = (cell: Cell) => cell[0] ?? -1
export const verdictOf = (cell: Cell): Verdict => VERDICT_ORDER[cell[1] ?? 3] ?? 'refused'
export const wordsOf = (cell: Cell, words: readonly string[]) => words[cell[2] ?? -1] ?? ''
export const extraOf = (cell: Cell) => cell[3] ?? 0
export const usable = (cell: Cell) => ['seats', 'held_back'].includes(verdictOf(cell))

export type Sorting = 'name' | 'price' | 'per_gb' | 'adds'
export type Filters = {
  kind: string
  text: string
  seatsOnly: boolean
  onSale: boolean
  onShelf: boolean
  below: number | null
  makes: readonly string[]
  sort: Sorting
}

/** The rows that pass, in order. What is in the build is always shown. */
export function sifted(rows: readonly Row[], f: Filters, held: ReadonlySet<string>): Row[] {
  const wanted = f.text.toLowerCase()
  const kept = rows.filter(
    (r) =>
      (!f.kind || r.kind === f.kind) &&
      (held.has(r.number) ||
        ((!wanted || `${r.name} ${r.number} ${r.detail}`.toLowerCase().includes(wanted)) &&
          (!f.seatsOnly || r.cells.some(usable)) &&
          (!f.onSale || r.price_minor !== null || r.on_shelf > 0) &&
          (!f.onShelf || r.on_shelf > 0) &&
          (f.below === null || (r.price_minor !== null && r.price_minor <= f.below)) &&
          (!f.makes.length || f.makes.includes(r.maker)))),
  )
  const last = Number.MAX_SAFE_INTEGER
  const by: Record<Sorting, (r: Row) => number> = {
    name: () => 0,
    price: (r) => r.price_minor ?? last,
    per_gb: (r) => r.per_gb ?? last,
    adds: (r) => -r.adds,
  }
  return f.sort === 'name' ? kept : kept.sort((a, b) => by[f.sort](a) - by[f.sort](b))
}
