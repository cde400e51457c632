import { useState } from 'react'
import type { Schemas } from '../api/client'
import { Note } from '../ui/basics'
import { chosen, MEANINGS } from './supplier-list'

type Props = {
  preview: Schemas['ListPreview']
  onShop: (shop: string) => void
  onColumns: (columns: Record<string, string>) => void
}

/** A supplier's list before it is taken in: whose it is, which head means what, what was assumed, and every row that is
 *  not simply taken. */
export function Columns({ preview, onShop, onColumns }: Props) {
  const [shop, setShop] = useState(preview.shop ?? '')
  const columns = preview.columns ?? {}
  const heads = preview.heads ?? []
  const rows = preview.rows ?? []
  return (
    <div className="mb-2 space-y-2 text-[12.5px]">
      {preview.open && <Note kind="measure_first">{preview.open}</Note>}
      <div className="flex flex-wrap items-end gap-3">
        <label>
          <span className="block">Whose list is it?</span>
          <input
            className="w-44"
            value={shop}
            onChange={(e) => setShop(e.target.value)}
            onBlur={() => shop !== preview.shop && onShop(shop)}
          />
        </label>
        {MEANINGS.map(([meaning, words]) => (
          <label key={meaning}>
            <span className="block">{words}</span>
            <select
              value={columns[meaning] ?? ''}
              onChange={(e) => onColumns(chosen(columns, meaning, e.target.value))}
            >
              <option value="">none</option>
              {heads.map((h, i) => (
                <option key={i} value={h}>
                  {h}
                </option>
              ))}
            </select>
          </label>
        ))}
      </div>
      {preview.remembered && <p>Laid out as the last list of {preview.shop} was.</p>}
      {!!preview.samples?.length && (
        <div className="overflow-x-auto">
          <table className="num text-[12px]">
            <thead>
              <tr>
                {heads.map((h, i) => (
                  <th key={i} className="px-2 text-left normal-case">
                    {h}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {preview.samples.map((cells, n) => (
                <tr key={n}>
                  {heads.map((_, i) => (
                    <td key={i} className="max-w-56 truncate px-2">
                      {cells[i]}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {!!preview.assumed?.length && <p className="text-measure">Assumed: {preview.assumed.join('; ')}.</p>}
      {rows.length > 0 && (
        <details open={rows.some((r) => r.outcome === 'asked')}>
          <summary className="cursor-pointer">Rows that are not simply taken</summary>
          <ul className="max-h-40 overflow-y-auto">
            {rows.map((r) => (
              <li key={r.line}>
                row {r.line}, {r.outcome.replaceAll('_', ' ')}: <span className="num">{r.number}</span> {r.reason}
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  )
}
