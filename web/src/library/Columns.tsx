import { useState } from 'react'
import type { Schemas } from '../api/client'
import { Note } from '../ui/basics'
import { Rows } from './ListRows'
import { chosen, MEANINGS, USUAL_CURRENCIES } from './supplier-list'

type Props = {
  preview: Schemas['ListPreview']
  onShop: (shop: string) => void
  onColumns: (columns: Record<string, string>) => void
  onCurrency: (code: string) => void
  onAnswer: (why: string, cells: Record<string, string>) => void
}

/** A supplier's list before it is taken in: whose it is, which head means what, what was assumed, and every row by how it
 *  ends. */
export function Columns({ preview, onShop, onColumns, onCurrency, onAnswer }: Props) {
  const [shop, setShop] = useState(preview.shop ?? '')
  const columns = preview.columns ?? {}
  const heads = preview.heads ?? []
  const [currency, setCurrency] = useState(preview.currency ?? '')
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
        <label className={preview.currency_open && !preview.currency ? 'text-measure font-semibold' : ''}>
          <span className="block">Prices without a sign are in</span>
          <input
            className="num w-16 uppercase"
            list="currencies"
            maxLength={3}
            placeholder="EUR"
            value={currency}
            onChange={(e) => setCurrency(e.target.value.toUpperCase())}
            onKeyDown={(e) => e.key === 'Enter' && currency.length === 3 && onCurrency(currency)}
            onBlur={() => currency !== preview.currency && currency.length !== 1 && onCurrency(currency)}
          />
          <datalist id="currencies">
            {USUAL_CURRENCIES.map((c) => (
              <option key={c} value={c} />
            ))}
          </datalist>
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
      <Rows ends={preview.ends ?? []} onAnswer={onAnswer} />
    </div>
  )
}
