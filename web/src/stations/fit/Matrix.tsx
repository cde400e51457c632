import { useVirtualizer } from '@tanstack/react-virtual'
import { useMemo, useRef, useState } from 'react'
import type { Schemas } from '../../api/client'
import { at, useEdit, useJob } from '../../api/job'
import { VerdictGlyph } from '../../glyphs/VerdictGlyph'
import { money, VERDICTS } from '../../words'
import {
  extraOf,
  sifted,
  slotOf,
  usable,
  verdictOf,
  wordsOf,
  type Cell as PackedCell,
  type Filters,
  type Looked,
  type Row,
} from './rows'

type Props = {
  kind: string
  onKind: (kind: string) => void
  data: Schemas['FitStation']
  build: Record<string, string>
  looked: Looked | null
  onLook: (looked: Looked) => void
  onChoose: (slot: string, part: string) => void
  picked: readonly string[]
  onPick: (number: string) => void
}

const KINDS: [string, string][] = [
  ['', 'all parts'],
  ['memory', 'memory'],
  ['m2_drive', 'card drives'],
  ['bay_drive', 'bay drives'],
  ['radio', 'radios'],
  ['cellular', 'cellular'],
  ['battery', 'batteries'],
]
const ONLY: Record<string, string> = {
  memory: 'memory only',
  m2_drive: 'drive only',
  radio: 'radio only',
  cellular: 'cellular only',
  bay_drive: 'bay only',
  battery: 'battery only',
}
const SORTS = [
  ['name', 'kind'],
  ['price', 'price'],
  ['per_gb', 'price per GB'],
  ['adds', 'what it adds'],
] as const

/** Parts by slots. Only the rows in sight are drawn. */
export function Matrix(props: Props) {
  const { kind, data, build, looked } = props
  const { view } = useJob()
  const [filters, setFilters] = useState<Filters>({
    kind: '',
    text: '',
    seatsOnly: false,
    onSale: true,
    onShelf: false,
    below: null,
    makes: [],
    sort: 'name',
  })
  const approved = at(view?.job, '/fit/makes')
  const makes = useMemo(() => (approved as string[] | undefined) ?? [], [approved])
  const scroller = useRef<HTMLDivElement>(null)
  const rows = useMemo(
    () => sifted(data.rows, { ...filters, kind, makes }, new Set(Object.values(build))),
    [data.rows, filters, kind, makes, build],
  )
  const slots = useMemo(() => data.slots.filter((_, i) => showsSlot(i, kind, data, rows)), [data, kind, rows])
  // Columns of one width in the head and in every row; with many slots the table scrolls sideways in itself.
  const column = slots.length > 5 ? 92 : 90
  const grid = {
    gridTemplateColumns: `minmax(150px,1.500fr) repeat(${slots.length}, minmax(${column}px,1fr)) 74px`,
    minWidth: 150 + slots.length * (column + 8) + 74 + 28,
  }
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 50,
    overscan: 8,
    getItemKey: (i) => rows[i]!.number,
  })
  return (
    <div className="card overflow-x-auto" role="grid" aria-label="Parts by slots" aria-rowcount={rows.length}>
      <FilterBar {...props} filters={filters} onFilters={setFilters} makes={makes} />
      <div className="grid items-center gap-2 px-2.5 py-1" style={grid} role="row">
        {[`Part, ${rows.length}`, ...slots.map((s) => s.name), 'Price'].map((h, i, all) => (
          <div
            key={i}
            role="columnheader"
            className={`font-label text-ink-2 text-[12.5px] font-semibold tracking-[0.04em] uppercase ${i === all.length - 1 ? 'text-right' : ''}`}
          >
            {h}
          </div>
        ))}
      </div>
      <div ref={scroller} className="h-[250px] overflow-x-hidden overflow-y-auto" style={{ minWidth: grid.minWidth }}>
        {!rows.length && <p className="text-ink-2 px-3 py-4">No part matches. Loosen the filters, or import parts.</p>}
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((v) => (
            <MatrixRow
              key={rows[v.index]!.number}
              {...props}
              row={rows[v.index]!}
              slots={slots}
              top={v.start}
              grid={grid}
              looked={looked}
            />
          ))}
        </div>
      </div>
    </div>
  )
}

/** With one kind of part in view, slots none of them could meet are left out. */
function showsSlot(slot: number, kind: string, data: Schemas['FitStation'], rows: readonly Row[]): boolean {
  if (!kind) return true
  return (rows.length ? rows : data.rows).slice(0, 50).some((r) => r.cells.some((c) => slotOf(c) === slot))
}

function FilterBar({
  kind,
  onKind,
  data,
  filters: f,
  onFilters,
  makes,
}: Props & { filters: Filters; onFilters: (f: Filters) => void; makes: readonly string[] }) {
  const edit = useEdit()
  const check = (name: 'seatsOnly' | 'onSale' | 'onShelf', label: string) => (
    <label className="flex items-center gap-1.5 whitespace-nowrap">
      <input type="checkbox" checked={f[name]} onChange={(e) => onFilters({ ...f, [name]: e.target.checked })} />{' '}
      {label}
    </label>
  )
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1 px-2.5 py-1.5">
      <select aria-label="Kind of part" value={kind} onChange={(e) => onKind(e.target.value)}>
        {KINDS.map(([k, name]) => (
          <option key={k} value={k}>
            {name}
          </option>
        ))}
      </select>
      <input
        aria-label="Part name or number"
        placeholder="name or number"
        className="w-24"
        value={f.text}
        onChange={(e) => onFilters({ ...f, text: e.target.value })}
      />
      {check('seatsOnly', 'goes in')}
      {check('onSale', 'to be had')}
      {check('onShelf', 'on shelf')}
      <label className="flex items-center gap-1 whitespace-nowrap">
        under €
        <input
          aria-label="Price under"
          inputMode="decimal"
          className="num w-14"
          onChange={(e) => {
            const value = Number(e.target.value.replace(',', '.'))
            onFilters({ ...f, below: e.target.value.trim() && Number.isFinite(value) ? Math.round(value * 100) : null })
          }}
        />
      </label>
      <details className="relative">
        <summary className="cursor-pointer whitespace-nowrap">
          {makes.length ? `${makes.length} approved ${makes.length === 1 ? 'make' : 'makes'}` : 'any make'}
        </summary>
        <div className="card absolute z-30 mt-1 p-2">
          {data.makers.map((m) => (
            <label key={m} className="flex items-center gap-1.5 whitespace-nowrap">
              <input
                type="checkbox"
                checked={makes.includes(m)}
                onChange={() => edit('/fit/makes', makes.includes(m) ? makes.filter((x) => x !== m) : [...makes, m])}
              />
              {m}
            </label>
          ))}
        </div>
      </details>
      <label className="flex items-center gap-1 whitespace-nowrap">
        by
        <select
          aria-label="Sort by"
          value={f.sort}
          onChange={(e) => onFilters({ ...f, sort: e.target.value as Filters['sort'] })}
        >
          {SORTS.map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
    </div>
  )
}

type RowProps = Props & { row: Row; slots: Schemas['Choice'][]; top: number; grid: React.CSSProperties }

function MatrixRow({ row, slots, top, grid, data, build, looked, onLook, onChoose, picked, onPick }: RowProps) {
  const chosen = Object.values(build).includes(row.number)
  return (
    <div
      data-row
      role="row"
      className={`border-hair absolute inset-x-0 grid h-[50px] items-center gap-2 border-t px-2.5 ${chosen ? 'bg-gold-soft shadow-[inset_3px_0_0_var(--gold)]' : ''}`}
      style={{ ...grid, transform: `translateY(${top}px)` }}
    >
      <div className="flex min-w-0 items-center gap-1.5">
        <input
          type="checkbox"
          aria-label={`Compare ${row.name}`}
          checked={picked.includes(row.number)}
          onChange={() => onPick(row.number)}
        />
        <div className="min-w-0">
          <div className="truncate font-semibold" title={row.name}>
            {row.name}
          </div>
          <div className="num text-ink-2 truncate text-[11.5px]">{row.number}</div>
        </div>
      </div>
      {slots.map((s) => {
        const index = data.slots.indexOf(s)
        return (
          <Cell
            key={s.number}
            row={row}
            cell={row.cells.find((c) => slotOf(c) === index)}
            slot={s.number}
            words={data.words}
            looked={looked?.row.number === row.number && looked.slot === s.number}
            onLook={onLook}
            onChoose={onChoose}
          />
        )
      })}
      <div className="num text-right">
        {money(row.price_minor)}
        {row.on_shelf > 0 && <div className="text-seats text-[11px]">{row.on_shelf} on shelf</div>}
      </div>
    </div>
  )
}

type CellProps = {
  row: Row
  cell: PackedCell | undefined
  slot: string
  words: readonly string[]
  looked: boolean
  onLook: (looked: Looked) => void
  onChoose: (slot: string, part: string) => void
}

function Cell({ row, cell, slot, words, looked, onLook, onChoose }: CellProps) {
  if (!cell) return <div className="text-ink-2 text-[11.5px]">– {ONLY[row.kind]}</div>
  const look = () => onLook({ row, cell, slot })
  const verdict = verdictOf(cell)
  const says = wordsOf(cell, words)
  return (
    <button
      data-cell
      type="button"
      role="gridcell"
      className={`flex h-11 min-w-0 items-center gap-1 rounded-sm px-0.5 text-left leading-[1.15] ${looked ? 'bg-mat' : ''}`}
      onFocus={look}
      onMouseEnter={look}
      onClick={() => (usable(cell) ? onChoose(slot, row.number) : look())}
    >
      <VerdictGlyph verdict={verdict} small />
      <span className="min-w-0">
        <span className={`block text-[12px] whitespace-nowrap ${VERDICTS[verdict].text}`}>
          {VERDICTS[verdict].word}
        </span>
        <span className="text-ink-2 line-clamp-2 text-[11px]" title={says}>
          {says}
          {extraOf(cell) ? `, + ${money(extraOf(cell))}` : ''}
        </span>
      </span>
    </button>
  )
}
