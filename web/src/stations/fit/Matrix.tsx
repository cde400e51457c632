import { useVirtualizer } from '@tanstack/react-virtual'
import { useMemo, useRef, useState } from 'react'
import type { Schemas } from '../../api/client'
import { VerdictGlyph } from '../../glyphs/VerdictGlyph'
import { VERDICTS, money, sign, vocabulary } from '../../words'
import {
  cellSays,
  nextSlot,
  extraOf,
  underWay,
  sections,
  sifted,
  slotOf,
  usable,
  verdictOf,
  type Cell as PackedCell,
  type Column,
  type Filters,
  type Item,
  type Looked,
  type Row,
} from './rows'
import { FigureInput } from '../../ui/figure'
import { useFitSource } from './source'

type Props = {
  kind: string
  onKind: (kind: string) => void
  data: Schemas['FitStation']
  build: Readonly<Record<string, string>>
  looked: Looked | null
  onLook: (looked: Looked) => void
  onChoose: (slot: string, part: string) => void
  picked: readonly string[]
  onPick: (number: string) => void
}

const SORTS = [
  ['adds', 'what it adds'],
  ['price', 'price'],
  ['per_gb', 'price per GB'],
  ['name', 'as listed'],
] as const
const ROW = 50

/** Parts by slots, a section for each kind. Only the rows in sight are drawn. */
export function Matrix(props: Props) {
  const { kind, data, build, looked } = props
  const [filters, setFilters] = useState<Filters>({
    kind: '',
    text: '',
    seatsOnly: false,
    onSale: true,
    onShelf: false,
    below: null,
    makes: [],
    sort: 'adds',
  })
  const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set())
  const { makes } = useFitSource()
  const scroller = useRef<HTMLDivElement>(null)
  const held = useMemo(() => new Set(Object.values(build)), [build])
  const rows = useMemo(
    () => sifted(data.rows, { ...filters, kind, makes }, held),
    [data.rows, filters, kind, makes, held],
  )
  const holds = useMemo(
    () => Object.fromEntries(data.map.slots.filter((s) => s.form !== 'soldered').map((s) => [s.id, s.kind])),
    [data.map.slots],
  )
  // Whoever looks for a part by name sees it, refused or not.
  const open = useMemo(
    () => (filters.text ? new Set(vocabulary().kinds.map((k) => k.id)) : unfolded),
    [filters.text, unfolded],
  )
  const items = useMemo(() => {
    const all = sections(
      rows,
      {
        slots: data.slots,
        holds,
        kinds: vocabulary().kinds,
        words: data.words,
        common: data.common,
        besides: data.besides,
      },
      { kind, sort: filters.sort, held, open },
    )
    // While the rest of the rows is on its way nothing is counted, and nothing is said of what is not there yet.
    return data.more ? underWay(all) : all
  }, [rows, data.slots, data.words, data.common, data.besides, data.more, holds, kind, filters.sort, held, open])
  const most = Math.max(1, ...items.map((i) => (i.type === 'head' ? i.columns.length : 0)))
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => (items[i]!.type === 'row' ? ROW : 30),
    overscan: 8,
    getItemKey: (i) => keyOf(items[i]!),
  })
  const fold = (k: string) =>
    setUnfolded(new Set(unfolded.has(k) ? [...unfolded].filter((x) => x !== k) : [...unfolded, k]))
  return (
    <div className="card flex min-h-80 flex-col overflow-x-auto">
      <FilterBar {...props} filters={filters} onFilters={setFilters} makes={makes} />
      {data.soldered.map((line) => (
        <p key={line} className="text-ink-2 border-hair border-t px-2.5 py-1 text-[12.5px]">
          {line}
        </p>
      ))}
      <div
        ref={scroller}
        className="border-hair h-[calc(100vh-236px)] min-h-64 overflow-x-hidden overflow-y-auto border-t"
        style={{ minWidth: 140 + most * 90 + 70 }}
      >
        {!items.length && !data.more && <p className="text-ink-2 px-3 py-4">Nothing can be changed in this machine.</p>}
        <div
          className="relative"
          style={{ height: virtual.getTotalSize() }}
          {...(items.length && { role: 'grid', 'aria-label': 'Parts by slots', 'aria-rowcount': items.length })}
        >
          {virtual.getVirtualItems().map((v) => (
            <Line
              key={keyOf(items[v.index]!)}
              {...props}
              item={items[v.index]!}
              top={v.start}
              looked={looked}
              onFold={fold}
            />
          ))}
        </div>
      </div>
    </div>
  )
}

const keyOf = (item: Item) => (item.type === 'row' ? `${item.kind} ${item.row.number}` : `${item.kind} ${item.type}`)
// Columns of one width in a section's head and rows; with many slots the table scrolls sideways in itself.
const gridOf = (columns: number) => ({
  gridTemplateColumns: `minmax(130px,1.600fr) repeat(${columns}, minmax(82px,1fr)) 64px`,
})

function Line({ item, top, onFold, ...props }: Props & { item: Item; top: number; onFold: (kind: string) => void }) {
  const at = { transform: `translateY(${top}px)` }
  switch (item.type) {
    case 'row':
      return <MatrixRow {...props} row={item.row} columns={item.columns} top={top} />
    case 'head':
      return (
        <div
          role="row"
          className="bg-mat border-hair absolute inset-x-0 grid h-[30px] items-center gap-2 border-t px-2.5"
          style={{ ...gridOf(item.columns.length), ...at }}
        >
          {[
            item.count === null ? item.name : `${item.name}, ${item.count}`,
            ...item.columns.map((c) => c.name),
            'Price',
          ].map((h, i, all) => (
            <div
              key={i}
              role="columnheader"
              className={`font-label text-ink-2 truncate text-[12.5px] font-semibold tracking-[0.04em] uppercase ${i === all.length - 1 ? 'text-right' : ''}`}
            >
              {h}
            </div>
          ))}
        </div>
      )
    case 'folded':
      return (
        <div role="row" className="border-hair absolute inset-x-0 h-[30px] border-t" style={at}>
          <button
            type="button"
            role="gridcell"
            data-row
            aria-expanded={item.open}
            title={item.says}
            className="text-refused h-full w-full truncate px-2.5 text-left text-[12.5px] hover:underline"
            onClick={() => onFold(item.kind)}
          >
            {item.open ? '▾' : '▸'} {item.says}
          </button>
        </div>
      )
    default:
      return (
        <p
          role="row"
          title={item.says}
          className={`absolute inset-x-0 h-[30px] truncate px-2.5 py-1 text-[12.5px] ${item.type === 'common' ? 'text-measure' : 'text-ink-2'}`}
          style={at}
        >
          <span role="gridcell">{item.says}</span>
        </p>
      )
  }
}

function FilterBar({
  kind,
  onKind,
  data,
  filters: f,
  onFilters,
  makes,
}: Props & { filters: Filters; onFilters: (f: Filters) => void; makes: readonly string[] }) {
  const { approve } = useFitSource()
  const check = (name: 'seatsOnly' | 'onSale' | 'onShelf', label: string) => (
    <label className="flex items-center gap-1.5 whitespace-nowrap">
      <input type="checkbox" checked={f[name]} onChange={(e) => onFilters({ ...f, [name]: e.target.checked })} />{' '}
      {label}
    </label>
  )
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1 px-2.5 py-1.5">
      <select aria-label="Kind of part" value={kind} onChange={(e) => onKind(e.target.value)}>
        <option value="">all kinds</option>
        {vocabulary()
          .kinds.filter((k) => k.slots.length)
          .map((k) => (
            <option key={k.id} value={k.id}>
              {k.many}
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
        under {sign()}
        <FigureInput
          aria-label="Price under"
          className="w-14"
          scale={100}
          value={f.below}
          onFigure={(below) => onFilters({ ...f, below })}
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
                onChange={() => approve(makes.includes(m) ? makes.filter((x) => x !== m) : [...makes, m])}
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

type RowProps = Props & { row: Row; columns: readonly Column[]; top: number }

function MatrixRow({ row, columns, top, data, build, looked, onLook, onChoose, picked, onPick }: RowProps) {
  const chosen = Object.values(build).includes(row.number)
  return (
    <div
      data-row
      role="row"
      className={`border-hair absolute inset-x-0 grid h-[50px] items-center gap-2 border-t px-2.5 ${chosen ? 'bg-gold-soft shadow-[inset_3px_0_0_var(--gold)]' : ''}`}
      style={{ ...gridOf(columns.length), transform: `translateY(${top}px)` }}
    >
      <div role="rowheader" className="flex min-w-0 items-center gap-1.5">
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
      {columns.map((column) => {
        const s = nextSlot(column, row.number, build)
        return (
          <Cell
            key={column.name}
            row={row}
            cell={row.cells.find((c) => slotOf(c) === s.index)}
            slot={s.number}
            data={data}
            looked={looked?.row.number === row.number && column.slots.some((x) => x.number === looked.slot)}
            onLook={onLook}
            onChoose={onChoose}
          />
        )
      })}
      <div role="gridcell" className="num text-right">
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
  data: Schemas['FitStation']
  looked: boolean
  onLook: (looked: Looked) => void
  onChoose: (slot: string, part: string) => void
}

function Cell({ row, cell, slot, data, looked, onLook, onChoose }: CellProps) {
  if (!cell)
    return (
      <div role="gridcell" className="text-ink-2 text-[11.5px]">
        –
      </div>
    )
  const look = () => onLook({ row, cell, slot })
  const verdict = verdictOf(cell)
  const says = cellSays(row, cell, slot, data)
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
        <span
          className={`text-[12px] ${says ? 'block overflow-hidden text-ellipsis whitespace-nowrap' : 'line-clamp-2'} ${VERDICTS[verdict].text}`}
        >
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
