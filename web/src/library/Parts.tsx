import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useMemo, useRef, useState } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import { answer, client, type Schemas } from '../api/client'
import { Button, capital, ErrorNote, Heading } from '../ui/basics'
import { money, offered, vocabulary } from '../words'
import { Import } from './Import'
import { Markup } from './Markup'
import { NewPart } from './NewPart'
import { TypedPart } from './PartForm'
import { May } from '../shell/May'
import { PARTS, Tabs } from '../ui/Tabs'

type Sorting = 'name' | 'price'

export function Parts() {
  const [params] = useSearchParams()
  const [text, setText] = useState(params.get('number') ?? '')
  const [kind, setKind] = useState('')
  const [sort, setSort] = useState<Sorting>('name')
  const [shelf, setShelf] = useState(false)
  const [adding, setAdding] = useState(false)
  const [typing, setTyping] = useState(false)
  const cache = useQueryClient()
  const { data, error } = useQuery({ queryKey: ['parts'], queryFn: () => answer(client.GET('/api/parts')) })
  const refresh = useMutation({
    mutationFn: () => answer(client.POST('/api/parts/refresh')),
    onSuccess: () => void cache.invalidateQueries(),
  })
  const shown = useMemo(() => {
    const wanted = text.toLowerCase()
    const kept = (data ?? []).filter(
      (p) =>
        (!kind || p.kind === kind) &&
        (!shelf || p.on_shelf > 0) &&
        `${p.number} ${p.name} ${p.detail}`.toLowerCase().includes(wanted),
    )
    return sort === 'price' ? kept.sort((a, b) => (a.price_minor ?? 1e12) - (b.price_minor ?? 1e12)) : kept
  }, [data, kind, shelf, sort, text])
  return (
    <main className="flex min-h-0 flex-1 flex-col px-6 py-4">
      <div className="mx-auto flex min-h-0 w-full max-w-[1100px] flex-1 flex-col">
        <Tabs label="The catalogue" tabs={PARTS} />
        <Heading title="The catalogue">
          {data?.length ?? 0} parts · export <a href="/api/parts.csv">CSV</a> or <a href="/api/parts.json">JSON</a>
        </Heading>
        <ErrorNote error={error ?? refresh.error} />
        {refresh.data && (
          <p className="mb-2" role="status">
            {refresh.data.shop}: {refresh.data.changed} changed ({refresh.data.cheaper} cheaper, {refresh.data.dearer}{' '}
            dearer), {refresh.data.same} as they were, {refresh.data.unknown} not in the catalogue.
          </p>
        )}
        <div className="mb-2 flex flex-wrap items-center gap-3">
          <input
            aria-label="Filter"
            placeholder="Filter by name or number"
            className="w-56"
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
          <select aria-label="Kind" value={kind} onChange={(e) => setKind(e.target.value)}>
            <option value="">All kinds</option>
            {vocabulary().kinds.map((k) => (
              <option key={k.id} value={k.id}>
                {capital(k.many)}
              </option>
            ))}
          </select>
          <select aria-label="Sort by" value={sort} onChange={(e) => setSort(e.target.value as Sorting)}>
            <option value="name">as listed</option>
            <option value="price">by price</option>
          </select>
          <label className="flex items-center gap-1.5">
            <input type="checkbox" checked={shelf} onChange={(e) => setShelf(e.target.checked)} /> on the shelf
          </label>
          <May role="library" does="Parts and prices are kept by">
            <Button disabled={refresh.isPending} onClick={() => refresh.mutate()}>
              {refresh.isPending ? 'Asking the supplier' : 'Refresh prices'}
            </Button>
            <Button onClick={() => setAdding(!adding)}>New part from a label</Button>
            <Button onClick={() => setTyping(!typing)}>New part by hand</Button>
          </May>
          <May role="owner">
            <Markup />
          </May>
          <span className="text-ink-2 ml-auto">{shown.length} shown</span>
        </div>
        {adding && <NewPart onDone={() => setAdding(false)} />}
        {typing && <TypedPart onDone={() => setTyping(false)} />}
        <May role="library" does="Lists and parts are brought in by">
          <Import />
        </May>
        <List parts={shown} />
        {data && !shown.length && (
          <p className="text-ink-2 mt-2">No part matches. Clear the filter, or import a parts file.</p>
        )}
      </div>
    </main>
  )
}

function List({ parts }: { parts: readonly Schemas['PartLine'][] }) {
  const scroller = useRef<HTMLDivElement>(null)
  const go = useNavigate()
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
          const open = () => void go(`/parts/${encodeURIComponent(p.number)}`)
          return (
            <div
              key={p.number}
              data-row
              role="link"
              tabIndex={0}
              onClick={open}
              onKeyDown={(e) => e.key === 'Enter' && open()}
              className="border-hair hover:bg-gold-soft absolute inset-x-0 grid h-[44px] cursor-pointer grid-cols-[2.200fr_1.300fr_2fr_110px_90px] items-center gap-3 border-b px-3"
              style={{ transform: `translateY(${v.start}px)` }}
            >
              <div className="min-w-0">
                <div className="truncate font-semibold">{p.name}</div>
                <div className="num text-ink-2">{p.number}</div>
              </div>
              <div className="truncate">{p.detail}</div>
              <div className="text-ink-2 truncate text-[12.5px]">
                {p.offers.map(offered).join(' · ') || p.note || 'no offer'}
              </div>
              <div className="text-seats text-[12.5px]">{p.on_shelf > 0 && `${p.on_shelf} on the shelf`}</div>
              <div className="num text-right">{money(p.price_minor)}</div>
            </div>
          )
        })}
      </div>
    </div>
  )
}
