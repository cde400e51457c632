import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { answer, client, upload, type Schemas } from '../api/client'
import { Button, ErrorNote, FileDrop, Heading } from '../ui/basics'
import { Words } from '../ui/fields'
import { BLANK, FIELDS, read, written, type Form } from './processor-form'
import { May } from '../shell/May'
import { MACHINES, Tabs } from '../ui/Tabs'

type Processor = Schemas['Processor']

/** The processors all machines share: what their memory controllers and host radios allow. */
export function Processors() {
  const cache = useQueryClient()
  const go = useNavigate()
  const { data, error } = useQuery({ queryKey: ['processors'], queryFn: () => answer(client.GET('/api/processors')) })
  const take = useMutation({
    mutationFn: (file: File) => upload<Schemas['ProcessorReport']>('/api/processors/import', file, file.name),
    onSuccess: () => void cache.invalidateQueries(),
  })
  return (
    <main className="flex-1 overflow-y-auto px-6 py-4">
      <div className="mx-auto max-w-[1100px] space-y-3">
        <Tabs label="The library of machines" tabs={MACHINES} />
        <Heading title="The processors">
          Said once for every machine that names one · <a href="/api/processors/file">export all</a>
        </Heading>
        <ErrorNote error={error ?? take.error} />
        {take.data && (
          <p role="status">
            Imported: {take.data.added.length} new, {take.data.changed.length} changed, {take.data.same.length} as they
            were.
          </p>
        )}
        <div className="flex flex-wrap items-center gap-3">
          <May role="library" does="Processors are kept by">
            <Button onClick={() => void go('/processors/new')}>New processor</Button>
          </May>
          <May role="library">
            <FileDrop label="Import processors" accept=".json" onFile={(f) => take.mutate(f)} />
          </May>
        </div>
        {!!data?.missing.length && (
          <p className="text-[13px]">
            Named by machines and not known:{' '}
            {data.missing.map((name, i) => (
              <span key={name}>
                {i > 0 && ', '}
                <Link to={`/processors/new?name=${encodeURIComponent(name)}`}>{name}</Link>
              </span>
            ))}
          </p>
        )}
        <table className="card w-full border-separate border-spacing-0">
          <thead>
            <tr>
              {['Processor', 'Memory', 'At most', 'Runs', 'PCIe', 'Named by'].map((h) => (
                <th key={h} className="px-2.5 py-1.5">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {data?.lines.map(({ processor: p, machines }) => (
              <tr key={p.id} className="[&>td]:border-hair align-top [&>td]:border-t [&>td]:px-2.5 [&>td]:py-1.5">
                <td>
                  <Link className="font-semibold" to={`/processors/${p.id}`}>
                    {p.name}
                  </Link>
                </td>
                <td className="num">{p.memory_generations?.map((g) => `DDR${g}`).join(', ') ?? 'unknown'}</td>
                <td className="num">{p.total_limit_gb == null ? 'unknown' : `${p.total_limit_gb} GB`}</td>
                <td className="num">{p.speed_mts == null ? 'unknown' : `${p.speed_mts} MT/s`}</td>
                <td className="num">{p.pcie_generation ?? 'unknown'}</td>
                <td>
                  {machines.map((m, i) => (
                    <span key={m.number}>
                      {i > 0 && ', '}
                      <Link to={`/machines/${m.number}`}>{m.name}</Link>
                    </span>
                  ))}
                  {!machines.length && <span className="text-ink-2">no machine</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </main>
  )
}

/** One processor, a field for each thing a data sheet says. */
export function ProcessorPage() {
  const { processor = '' } = useParams()
  const isNew = processor === 'new'
  const { data, error } = useQuery({
    queryKey: ['processors', processor],
    queryFn: () => answer(client.GET('/api/processors/{slug}', { params: { path: { slug: processor } } })),
    enabled: !isNew,
    retry: false,
  })
  const asked = new URLSearchParams(location.search).get('name') ?? ''
  if (!isNew && !data)
    return (
      <main className="flex-1 px-6 py-4">
        <ErrorNote error={error} />
      </main>
    )
  return (
    <main className="flex-1 overflow-y-auto px-6 py-4">
      <div className="mx-auto max-w-[760px] space-y-3">
        <Heading title={data?.processor.name ?? 'A new processor'}>
          What stays empty is unknown. Every machine that names it takes these claims, source “controller”.
        </Heading>
        <Sheet
          key={data ? JSON.stringify(data.processor) : 'new'}
          id={data?.processor.id ?? ''}
          start={data ? written(data.processor) : { ...BLANK, name: asked, maker: asked.split(' ')[0] ?? '' }}
        />
        {data && (
          <>
            <section className="card p-3">
              <h2 className="mb-1">Machines that name it</h2>
              {data.machines.map((m) => (
                <div key={m.number}>
                  <Link to={`/machines/${m.number}`}>{m.name}</Link>
                </div>
              ))}
              {!data.machines.length && <p className="text-ink-2">None.</p>}
            </section>
            <section className="card p-3">
              <h2 className="mb-1">Who changed what</h2>
              {data.changes.map((c) => (
                <div key={c.at + c.what} className="text-[12.5px]">
                  {new Date(c.at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })} {c.who}:{' '}
                  {c.what}
                </div>
              ))}
            </section>
          </>
        )}
      </div>
    </main>
  )
}

const LABELS = Object.fromEntries(FIELDS.map((f) => [f.name, f.label]))

function Sheet({ id, start }: { id: string; start: Form }) {
  const cache = useQueryClient()
  const go = useNavigate()
  const [form, setForm] = useState(start)
  const save = useMutation({
    mutationFn: () => {
      const body = { ...read(form), id } as unknown as Record<string, unknown>
      return answer(
        client.PUT('/api/processors/saved', { params: { query: { new: !id } }, body }),
      ) as Promise<Processor>
    },
    onSuccess: async (p) => {
      await cache.invalidateQueries()
      void go(`/processors/${p.id}`)
    },
  })
  return (
    <form
      className="card grid grid-cols-2 gap-x-4 gap-y-2 p-3"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      {FIELDS.map((f) => (
        <div key={f.name} className={f.wide ? 'col-span-2' : ''}>
          <Words
            label={f.label}
            hint={f.hint}
            value={form[f.name]}
            onChange={(text) => setForm({ ...form, [f.name]: text })}
          />
        </div>
      ))}
      <div className="col-span-2">
        <ErrorNote error={save.error} labels={LABELS} />
        <May role="library" does="It is kept by">
          <Button kind="main" type="submit" disabled={save.isPending || !form.name.trim() || !form.maker.trim()}>
            {id ? 'Save it for all its machines' : 'Add it'}
          </Button>
        </May>
      </div>
    </form>
  )
}
