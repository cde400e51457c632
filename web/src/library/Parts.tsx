import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useRef, useState } from 'react'
import { useSearchParams } from 'react-router'
import { answer, client, upload, type Schemas } from '../api/client'
import { ErrorNote, FileDrop, Heading } from '../ui/basics'
import { money } from '../words'

const KINDS: [string, string][] = [
  ['', 'All kinds'],
  ['memory', 'Memory'],
  ['m2_drive', 'M.2 drives'],
  ['bay_drive', 'Bay drives'],
  ['radio', 'Radios'],
  ['battery', 'Batteries'],
  ['accessory', 'Accessories'],
]

export function Parts() {
  const [params] = useSearchParams()
  const [text, setText] = useState(params.get('number') ?? '')
  const [kind, setKind] = useState('')
  const cache = useQueryClient()
  const { data, error } = useQuery({ queryKey: ['parts'], queryFn: () => answer(client.GET('/api/parts')) })
  const take = useMutation({
    mutationFn: (file: File) => upload<Schemas['ImportReport']>('/api/parts/import', file, file.name),
    onSuccess: () => void cache.invalidateQueries(),
  })
  const wanted = text.toLowerCase()
  const shown =
    data?.filter(
      (p) => (!kind || p.kind === kind) && `${p.number} ${p.name} ${p.detail}`.toLowerCase().includes(wanted),
    ) ?? []
  return (
    <main className="flex min-h-0 flex-1 flex-col px-6 py-4">
      <div className="mx-auto flex min-h-0 w-full max-w-[1100px] flex-1 flex-col">
        <Heading title="The catalogue">
          {data?.length ?? 0} parts · export <a href="/api/parts.csv">CSV</a> or <a href="/api/parts.json">JSON</a>
        </Heading>
        <ErrorNote error={error ?? take.error} />
        {take.data && (
          <p className="mb-2" role="status">
            Imported: {take.data.added} new, {take.data.changed} changed, {take.data.same} as they were.
          </p>
        )}
        <div className="mb-2 flex items-center gap-3">
          <input
            aria-label="Filter"
            placeholder="Filter by name or number"
            className="w-64"
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
          <select aria-label="Kind" value={kind} onChange={(e) => setKind(e.target.value)}>
            {KINDS.map(([k, name]) => (
              <option key={k} value={k}>
                {name}
              </option>
            ))}
          </select>
          <FileDrop
            label={take.isPending ? 'Reading the file' : 'Import CSV or JSON'}
            accept=".csv,.json"
            onFile={(f) => take.mutate(f)}
          />
        </div>
        <List parts={shown} />
        {data && !shown.length && (
          <p className="text-ink-2 mt-2">No part matches. Clear the filter, or import a parts file.</p>
        )}
      </div>
    </main>
  )
}

function List({ parts }: { parts: Schemas['PartLine'][] }) {
  const scroller = useRef<HTMLDivElement>(null)
  const rows = useVirtualizer({
    count: parts.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 44,
    overscan: 10,
  })
  return (
    <div ref={scroller} className="card min-h-0 flex-1 overflow-y-auto">
      <div style={{ height: rows.getTotalSize() }} className="relative">
        {rows.getVirtualItems().map((v) => {
          const p = parts[v.index]!
          return (
            <div
              key={p.number}
              data-row
              tabIndex={0}
              className="border-hair absolute inset-x-0 grid h-[44px] grid-cols-[2.200fr_1.500fr_2fr_90px] items-center gap-3 border-b px-3"
              style={{ transform: `translateY(${v.start}px)` }}
            >
              <div className="min-w-0">
                <div className="truncate font-semibold">{p.name}</div>
                <div className="num text-ink-2">{p.number}</div>
              </div>
              <div>{p.detail}</div>
              <div className="text-ink-2 truncate text-[12.5px]">{p.offers.join(' · ') || p.note || 'no offer'}</div>
              <div className="num text-right">{money(p.price_minor)}</div>
            </div>
          )
        })}
      </div>
    </div>
  )
}
