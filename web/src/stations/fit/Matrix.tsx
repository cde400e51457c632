import { useVirtualizer } from '@tanstack/react-virtual'
import { useRef, useState } from 'react'
import type { Schemas } from '../../api/client'
import { VerdictGlyph } from '../../glyphs/VerdictGlyph'
import { money, VERDICTS } from '../../words'
import type { Looked } from './Why'

type Row = Schemas['PartRow']
type Props = {
  kind: string
  onKind: (kind: string) => void
  data: Schemas['FitStation']
  build: Record<string, string>
  looked: Looked | null
  onLook: (looked: Looked) => void
  onChoose: (slot: string, part: string) => void
}

const KINDS: [string, string][] = [
  ['', 'all parts'],
  ['memory', 'memory'],
  ['m2_drive', 'M.2 drives'],
  ['bay_drive', 'bay drives'],
  ['radio', 'radios'],
  ['battery', 'batteries'],
]
const ONLY: Record<string, string> = {
  memory: 'memory only',
  m2_drive: 'drive only',
  radio: 'radio only',
  bay_drive: 'bay only',
  battery: 'battery only',
}
const usable = (v: string | null | undefined) => v === 'seats' || v === 'held_back'

/** Parts by slots. Only the rows in sight are drawn. */
export function Matrix({ kind, onKind, data, build, looked, onLook, onChoose }: Props) {
  const [seatsOnly, setSeatsOnly] = useState(false)
  const [onSale, setOnSale] = useState(true)
  const scroller = useRef<HTMLDivElement>(null)
  const rows = data.fit.rows.filter(
    (r) =>
      (!kind || r.kind === kind) &&
      (!seatsOnly || r.cells.some((c) => usable(c.verdict))) &&
      (!onSale || r.price_minor !== null || Object.values(build).includes(r.number)),
  )
  const grid = {
    gridTemplateColumns: `minmax(150px,1.500fr) repeat(${data.slots.length}, minmax(94px,1fr)) 62px`,
  }
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 50,
    overscan: 8,
    getItemKey: (i) => rows[i]!.number,
  })
  return (
    <div className="card overflow-x-auto" role="grid" aria-label="Parts by slots">
      <div className="flex items-center gap-3 px-2.5 py-1.5">
        <select aria-label="Kind of part" value={kind} onChange={(e) => onKind(e.target.value)}>
          {KINDS.map(([k, name]) => (
            <option key={k} value={k}>
              {name}
            </option>
          ))}
        </select>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={seatsOnly} onChange={(e) => setSeatsOnly(e.target.checked)} /> only what goes
          in
        </label>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={onSale} onChange={(e) => setOnSale(e.target.checked)} /> only on sale
        </label>
        <span className="text-ink-2 ml-auto">{rows.length} parts</span>
      </div>
      <div className="grid items-center gap-2 px-2.5 py-1" style={grid} role="row">
        {['Part', ...data.slots.map((s) => s.name), 'Price'].map((h, i, all) => (
          <div
            key={h}
            role="columnheader"
            className={`font-label text-ink-2 text-[12.5px] font-semibold tracking-[0.04em] uppercase ${i === all.length - 1 ? 'text-right' : ''}`}
          >
            {h}
          </div>
        ))}
      </div>
      <div ref={scroller} className="h-[250px] overflow-y-auto">
        {!rows.length && <p className="text-ink-2 px-3 py-4">No part matches. Loosen the filters, or import parts.</p>}
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((v) => {
            const row = rows[v.index]!
            const chosen = Object.values(build).includes(row.number)
            return (
              <div
                key={row.number}
                data-row
                role="row"
                className={`border-hair absolute inset-x-0 grid h-[50px] items-center gap-2 border-t px-2.5 ${chosen ? 'bg-gold-soft shadow-[inset_3px_0_0_var(--gold)]' : ''}`}
                style={{ ...grid, transform: `translateY(${v.start}px)` }}
              >
                <div className="min-w-0">
                  <div className="truncate font-semibold" title={row.name}>
                    {row.name}
                  </div>
                  <div className="num text-ink-2 truncate text-[11.5px]">{row.number}</div>
                </div>
                {data.slots.map((s) => (
                  <Cell
                    key={s.number}
                    row={row}
                    cell={row.cells.find((c) => c.slot === s.number)}
                    looked={looked?.row.number === row.number && looked.cell.slot === s.number}
                    onLook={onLook}
                    onChoose={onChoose}
                  />
                ))}
                <div className="num text-right">{money(row.price_minor)}</div>
              </div>
            )
          })}
        </div>
      </div>
    </div>
  )
}

type CellProps = {
  row: Row
  cell: Schemas['Judgement'] | undefined
  looked: boolean
  onLook: (looked: Looked) => void
  onChoose: (slot: string, part: string) => void
}

function Cell({ row, cell, looked, onLook, onChoose }: CellProps) {
  if (!cell?.verdict) return <div className="text-ink-2 text-[11.5px]">– {ONLY[row.kind]}</div>
  const look = () => onLook({ row, cell })
  return (
    <button
      data-cell
      type="button"
      role="gridcell"
      className={`flex h-11 min-w-0 items-center gap-1 rounded-sm px-0.5 text-left leading-[1.15] ${looked ? 'bg-mat' : ''}`}
      onFocus={look}
      onMouseEnter={look}
      onClick={() => (usable(cell.verdict) ? onChoose(cell.slot, row.number) : look())}
    >
      <VerdictGlyph verdict={cell.verdict} small />
      <span className="min-w-0">
        <span className={`block text-[12px] whitespace-nowrap ${VERDICTS[cell.verdict].text}`}>
          {VERDICTS[cell.verdict].word}
        </span>
        <span className="text-ink-2 line-clamp-2 text-[11px]" title={cell.short}>
          {cell.short}
          {cell.extra_minor ? `, + ${money(cell.extra_minor)}` : ''}
        </span>
      </span>
    </button>
  )
}
