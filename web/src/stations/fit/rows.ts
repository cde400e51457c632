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
/** The words of a cell: where its section says above what each one waits for, only what else it does. */
export function cellSays(row: Row, cell: Cell, slot: string, data: Said): string {
  const above = verdictOf(cell) === 'measure_first' && data.common?.some((c) => c.kind === row.kind && c.slot === slot)
  return above ? (data.besides?.[`${row.number} ${slot}`] ?? '') : wordsOf(cell, data.words)
}
type Said = Pick<Schemas['FitStation'], 'words' | 'common' | 'besides'>
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
  return kept
}

/** In which order a section's rows stand: what goes in before what is measured first, then as asked. */
export function ordered(rows: readonly Row[], sort: Sorting, slots: ReadonlySet<number>): Row[] {
  const last = Number.MAX_SAFE_INTEGER
  const price = (r: Row) => r.price_minor ?? last
  const by: Record<Sorting, (r: Row) => number> = {
    name: () => 0,
    price: (r) => r.price_minor ?? last,
    per_gb: (r) => r.per_gb ?? last,
    adds: (r) => -r.adds,
  }
  const rank = (r: Row) => (r.cells.some((c) => slots.has(slotOf(c)) && usable(c)) ? 0 : 1)
  return [...rows].sort((a, b) => rank(a) - rank(b) || by[sort](a) - by[sort](b) || price(a) - price(b))
}

type Kind = Schemas['KindWords']

/** A column: the slots that every part of the section is judged alike in. */
export type Column = { name: string; slots: readonly Place[] }
type Place = { number: string; name: string; index: number }
export type Item =
  | { type: 'head'; kind: string; name: string; columns: Column[]; count: number | null }
  | { type: 'row'; kind: string; row: Row; columns: Column[] }
  | { type: 'folded'; kind: string; says: string; open: boolean }
  | { type: 'none'; kind: string; says: string }
  | { type: 'common'; kind: string; says: string }

type Asked = {
  kind: string
  sort: Sorting
  held: ReadonlySet<string>
  open: ReadonlySet<string>
}
type Where = {
  slots: readonly { number: string; name: string }[]
  /** The kind of each slot, by its number. */
  holds: Readonly<Record<string, string>>
  kinds: readonly Kind[]
  words: readonly string[]
  common?: readonly Schemas['InCommon'][]
  besides?: Readonly<Record<string, string>>
}

/** What is looked at before anybody looks: the part in the build, else the best that seats of the first kind with one that goes in. */
export function opensOn(data: Schemas['FitStation'], build: Readonly<Record<string, string>>): Looked | null {
  const at = (row: Row, cell: Cell): Looked => ({ row, cell, slot: data.slots[slotOf(cell)]?.number ?? '' })
  for (const [slot, number] of Object.entries(build)) {
    const row = data.rows.find((r) => r.number === number)
    const cell = row?.cells.find((c) => data.slots[slotOf(c)]?.number === slot)
    if (row && cell) return at(row, cell)
  }
  const kind = data.rows.find((r) => r.cells.some(usable))?.kind
  const mine = data.rows.filter((r) => r.kind === kind)
  // One that seats before one that is held back, whatever that would add.
  for (const good of [(c: Cell) => verdictOf(c) === 'seats', usable]) {
    const slots = new Set(data.slots.map((_, i) => i))
    const best = ordered(
      mine.filter((r) => r.cells.some(good)),
      'adds',
      slots,
    )[0]
    const cell = best?.cells.find(good)
    if (best && cell) return at(best, cell)
  }
  return null
}

/** What is looked at now: what somebody looked at, as it is judged today, while it is there; else what Fit opens on. */
export function lookedAt(
  seen: Looked | null,
  data: Schemas['FitStation'],
  build: Readonly<Record<string, string>>,
): Looked | null {
  const row = seen && data.rows.find((r) => r.number === seen.row.number)
  const cell = row?.cells.find((c) => data.slots[slotOf(c)]?.number === seen?.slot)
  return row && cell && seen ? { row, cell, slot: seen.slot } : opensOn(data, build)
}

/** One section a kind: its own slots as columns, the best first, what is refused folded into one line with the reasons. */
export function sections(rows: readonly Row[], where: Where, asked: Asked): Item[] {
  const kinds = where.kinds.filter((k) => k.slots.length && (!asked.kind || asked.kind === k.id))
  return kinds.flatMap(({ id: kind, many: name, slots }): Item[] => {
    const places = where.slots
      .map((s, index) => ({ ...s, index }))
      .filter((s) => slots.includes(where.holds[s.number] ?? ''))
    if (!places.length)
      return asked.kind === kind ? [{ type: 'none', kind, says: `This machine has no slot for ${name}.` }] : []
    const here = new Set(places.map((c) => c.index))
    const mine = ordered(
      rows.filter((r) => r.kind === kind),
      asked.sort,
      here,
    )
    const columns = alike(places, mine, where)
    const open = (r: Row) =>
      asked.held.has(r.number) || r.cells.some((c) => here.has(slotOf(c)) && (c[1] ?? 3) <= MEASURE_FIRST)
    const shown = mine.filter(open)
    const refused = mine.filter((r) => !open(r))
    const row = (r: Row): Item => ({ type: 'row', kind, row: r, columns })
    const items: Item[] = [{ type: 'head', kind, name, columns, count: shown.length }]
    const common = inCommon(
      (where.common ?? []).filter((c) => c.kind === kind),
      places,
    )
    if (common && shown.length) items.push({ type: 'common', kind, says: common })
    items.push(...shown.map(row))
    if (!mine.length) items.push({ type: 'none', kind, says: 'No part of this kind matches.' })
    if (refused.length) {
      const isOpen = asked.open.has(kind)
      items.push({ type: 'folded', kind, says: reasons(refused, here, where.words), open: isOpen })
      if (isOpen) items.push(...refused.map(row))
    }
    return items
  })
}

/** Slots beside each other in which every part is judged alike are one column. */
function alike(places: readonly Place[], rows: readonly Row[], where: Where): Column[] {
  const labels = (p: Place) => where.common?.find((c) => c.slot === p.number)?.labels.join() ?? ''
  const same = (a: Place, b: Place) =>
    labels(a) === labels(b) &&
    rows.every((r) => {
      const [x, y] = [a, b].map((p) => r.cells.find((c) => slotOf(c) === p.index))
      const says = [a, b].map((p) => where.besides?.[`${r.number} ${p.number}`] ?? '')
      return String(x?.slice(1)) === String(y?.slice(1)) && says[0] === says[1]
    })
  const found: Place[][] = []
  for (const p of places) {
    const last = found.at(-1)
    if (last && same(last[0]!, p)) last.push(p)
    else found.push([p])
  }
  return found.map((slots) => ({ name: joined(slots.map((s) => s.name)), slots }))
}

/** "Memory A, B": what names begin with alike is said once. */
export function joined(names: readonly string[]): string {
  const [first = '', ...rest] = names
  const start = first.slice(0, first.lastIndexOf(' ') + 1)
  return start && rest.every((n) => n.startsWith(start))
    ? [first, ...rest.map((n) => n.slice(start.length))].join(', ')
    : names.join(', ')
}

/** Of a column's slots the one a part would go into next: the first that does not hold it already. */
export const nextSlot = (column: Column, part: string, build: Readonly<Record<string, string>>) =>
  column.slots.find((s) => build[s.number] !== part) ?? column.slots[0]!

/** What every part of a section waits for, in one line: once where it is the same in all its slots, else slot by slot. */
export function inCommon(common: readonly Schemas['InCommon'][], columns: readonly Place[]): string {
  const of = (c: Place) => common.find((x) => x.slot === c.number)?.labels.join(', ') ?? ''
  const all = new Set(columns.map(of))
  if (all.size === 1) return of(columns[0]!) && `Each one to measure first waits for ${of(columns[0]!)}.`
  const told = columns.filter(of).map((c) => `${of(c)} in ${c.name}`)
  return told.length ? `Each one to measure first waits for ${told.join('; ')}.` : ''
}

/** The sections while more rows are on their way: those that hold rows, without counts and without what is refused. */
export function underWay(items: readonly Item[]): Item[] {
  const filled = new Set(items.filter((i) => i.type === 'row').map((i) => i.kind))
  return items
    .filter((i) => filled.has(i.kind) && (i.type === 'head' || i.type === 'row'))
    .map((i) => (i.type === 'head' ? { ...i, count: null } : i))
}

const MEASURE_FIRST = 2

/** "31 refused: 12 too long, 9 DDR3 into DDR4": each part by the reason it is worst refused for. */
export function reasons(refused: readonly Row[], here: ReadonlySet<number>, words: readonly string[]): string {
  const counts = new Map<string, number>()
  for (const row of refused) {
    const cells = row.cells.filter((c) => here.has(slotOf(c)))
    const cell = cells.reduce<Cell | undefined>((a, b) => (!a || (b[1] ?? 3) < (a[1] ?? 3) ? b : a), undefined)
    const why = (cell && wordsOf(cell, words)) || 'no slot for it'
    counts.set(why, (counts.get(why) ?? 0) + 1)
  }
  const sorted = [...counts].sort((a, b) => b[1] - a[1])
  const told = sorted.slice(0, 4).map(([why, n]) => `${n} ${why}`)
  const rest = sorted.slice(4).reduce((sum, [, n]) => sum + n, 0)
  return `${refused.length} refused: ${[...told, ...(rest ? [`${rest} for other reasons`] : [])].join(', ')}`
}
