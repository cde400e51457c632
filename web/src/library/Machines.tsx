import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useMemo, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { answer, client, upload, type Schemas } from '../api/client'
import { Button, ErrorNote, FileDrop, Heading, Tag } from '../ui/basics'
import { OtherLibrary } from './OtherLibrary'
import { Reviews } from './Reviews'
import { May } from '../shell/May'
import { MACHINES, Tabs } from '../ui/Tabs'

/** The library: every configuration, and how sure we are of it. */
export function Machines() {
  const cache = useQueryClient()
  const go = useNavigate()
  const [text, setText] = useState('')
  const { data, error } = useQuery({ queryKey: ['machines'], queryFn: () => answer(client.GET('/api/machines')) })
  const reviews = useQuery({ queryKey: ['claims'], queryFn: () => answer(client.GET('/api/claims')) })
  const take = useMutation({
    mutationFn: (file: File) => upload<Schemas['MachineReport']>('/api/machines/import', file, file.name),
    onSuccess: () => void cache.invalidateQueries(),
  })
  const draft = useMutation({
    mutationFn: (file: File) => upload<Record<string, unknown>>('/api/machines/draft-from-bundle', file, file.name),
    onSuccess: (machine) => void go('/machines/edit', { state: { draft: machine } }),
  })
  const shown = useMemo(() => {
    const words = text.toLowerCase().split(/\s+/).filter(Boolean)
    return (data?.lines ?? []).filter((m) => {
      const all = `${m.title} ${m.processor} ${m.year ?? ''} ${m.slots}`.toLowerCase()
      return words.every((w) => all.includes(w))
    })
  }, [data, text])
  return (
    <main className="flex min-h-0 flex-1 flex-col overflow-y-auto px-6 py-4">
      <div className="mx-auto flex min-h-0 w-full max-w-[1100px] flex-1 flex-col">
        <Tabs label="The library of machines" tabs={MACHINES} />
        <Heading title="The library of machines">
          {data?.lines.length ?? 0} configurations of {Object.keys(data?.machines ?? {}).length} machines ·{' '}
          <a href="/api/machines/library/file">export all</a>
        </Heading>
        <ErrorNote error={error ?? take.error ?? draft.error} />
        {take.data && (
          <p role="status" className="mb-2">
            Imported: {take.data.added.length} new, {take.data.changed.length} changed, {take.data.same.length} as they
            were.
          </p>
        )}
        <div className="mb-2 flex flex-wrap items-center gap-3">
          <input
            aria-label="Filter machines"
            placeholder="maker, name, processor, slot"
            className="w-64"
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
          <Button onClick={() => void go('/machines/edit')}>New machine</Button>
          <May role="library" does="Machines are brought in by">
            <FileDrop place="machines" label="Import machines" accept=".json" onFile={(f) => take.mutate(f)} />
          </May>
          <FileDrop place="draft" label="Draft from a reading" accept=".json,.zip" onFile={(f) => draft.mutate(f)} />
          <span className="text-ink-2 ml-auto">{shown.length} shown</span>
        </div>
        <List lines={shown} />
        {data && !shown.length && (
          <p className="text-ink-2 mt-2">No machine matches. Clear the filter, import a machine file, or add one.</p>
        )}
        <div className="mt-3">
          <May role="library">
            <OtherLibrary />
          </May>
        </div>
        {!!reviews.data?.length && (
          <section className="mt-3">
            <h2 className="mb-1">Claims that wait for review</h2>
            <Reviews reviews={reviews.data} />
          </section>
        )}
      </div>
    </main>
  )
}

function List({ lines }: { lines: readonly Schemas['MachineLine'][] }) {
  const scroller = useRef<HTMLDivElement>(null)
  const go = useNavigate()
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 46,
    overscan: 10,
  })
  return (
    <div ref={scroller} className="card min-h-48 flex-1 overflow-y-auto">
      <div style={{ height: rows.getTotalSize() }} className="relative">
        {rows.getVirtualItems().map((v) => {
          const m = lines[v.index]!
          const open = () => void go(`/machines/${m.machine}/${m.configuration}`)
          return (
            <div
              key={`${m.machine}/${m.configuration}`}
              data-row
              role="link"
              tabIndex={0}
              onClick={open}
              onKeyDown={(e) => e.key === 'Enter' && open()}
              className="border-hair hover:bg-gold-soft absolute inset-x-0 grid h-[46px] cursor-pointer grid-cols-[1.500fr_1.200fr_60px_2fr_150px] items-center gap-3 border-b px-3"
              style={{ transform: `translateY(${v.start}px)` }}
            >
              <span className="truncate font-semibold">
                {m.title} {m.draft && <Tag>draft</Tag>}
              </span>
              <span className="truncate">{m.processor}</span>
              <span className="num">{m.year ?? ''}</span>
              <span className="text-ink-2 truncate text-[12.5px]">{m.slots}</span>
              <Sure line={m} />
            </div>
          )
        })}
      </div>
    </div>
  )
}

/** How sure: the share of facts that anybody claims anything about. */
function Sure({ line: m }: { line: Schemas['MachineLine'] }) {
  const known = m.facts ? (m.facts - m.unknown) / m.facts : 0
  return (
    <span className="text-[12px]" title={`${m.facts - m.unknown} of ${m.facts} facts have a claim`}>
      <span className="bg-mat block h-1.5 w-full rounded-sm">
        <span className="bg-seats block h-1.5 rounded-sm" style={{ width: `${Math.round(known * 100)}%` }} />
      </span>
      <span className="text-ink-2">
        {m.unknown} unknown{m.open_claims > 0 && `, ${m.open_claims} to review`}
      </span>
    </span>
  )
}
