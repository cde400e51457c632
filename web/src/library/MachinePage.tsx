import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { answer, client, type Schemas } from '../api/client'
import { MachineMap } from '../map/MachineMap'
import { Advice } from '../machine/Advice'
import { ErrorNote, Heading, Note, Tag } from '../ui/basics'
import { lowered, minutes, moment } from '../words'
import { Claims } from './Claims'
import { MakerWords } from '../machine/MakerWords'
import { Reviews } from './Reviews'
import { SightingForm, SightingTable } from './Sightings'

type View = Schemas['ConfigurationView']

/** One configuration: the map, every attribute with who claims what, outcomes, changes. */
export function MachinePage() {
  const { machine = '', configuration = '' } = useParams()
  const [selected, setSelected] = useState('')
  const { data, error } = useQuery({
    queryKey: ['machine', machine, configuration],
    queryFn: () =>
      answer(
        client.GET('/api/machines/{slug}/{configuration}', { params: { path: { slug: machine, configuration } } }),
      ),
    retry: false,
  })
  if (!data)
    return (
      <main className="flex-1 px-6 py-4">
        <ErrorNote error={error} />
      </main>
    )
  const slot = data.map.slots.find((s) => s.id === selected) ?? data.map.slots[0]
  return (
    <main className="flex-1 overflow-y-auto px-6 py-4">
      <div className="mx-auto max-w-[1200px] space-y-3">
        <Heading title={data.title}>
          {data.draft && 'A draft: started at a bench, nobody has gone through all of it yet. '}
          {data.year ? `${data.year}, ` : ''}
          {data.processor}, graphics {data.graphics || 'not said'} ·{' '}
          <Link className="font-semibold" to={`/machines/${machine}/${configuration}/fits`}>
            what fits
          </Link>{' '}
          · <Link to={`/machines/edit?machine=${machine}&configuration=${configuration}`}>edit</Link> ·{' '}
          <Link to={`/machines/edit?copy=${machine}&configuration=${configuration}`}>copy</Link> ·{' '}
          <a href={`/api/machines/${machine}/file`}>export</a>
        </Heading>
        <div className="grid grid-cols-[1fr_320px] items-start gap-4 max-[760px]:grid-cols-1">
          <MachineMap map={data.map} height={290} selected={slot?.id} onSelect={setSelected} />
          <div className="space-y-3">
            <Slots data={data} selected={slot?.id ?? ''} onSelect={setSelected} />
            {!!data.conflicts.length && (
              <Note kind="refused">Claims disagree on {data.conflicts.join(', ')}. They stand side by side below.</Note>
            )}
          </div>
        </div>
        <div className="grid grid-cols-[1.400fr_1fr] items-start gap-4 max-[760px]:grid-cols-1">
          <div className="min-w-0 space-y-3">
            {slot && (
              <section className="card p-3">
                <h2 className="mb-1">
                  {slot.name} <span className="text-ink-2 font-normal normal-case">{slot.fitted_name}</span>
                </h2>
                <Claims facts={slot.facts} />
              </section>
            )}
            <section className="card p-3">
              <h2 className="mb-1">Memory and boot</h2>
              <Claims facts={data.map.board} />
            </section>
            <MakerWords machine={machine} />
            <section className="card p-3">
              <h2 className="mb-1">Seen here</h2>
              <SightingTable lines={data.sightings} />
              <SightingForm machine={machine} configuration={configuration} slots={data.map.slots} />
            </section>
          </div>
          <div className="min-w-0 space-y-3">
            {!!data.reviews.length && <Reviews reviews={data.reviews} />}
            <section className="card p-3">
              <h2 className="mb-1">Before it is bought</h2>
              <Advice advice={data.advice} />
            </section>
            <Inside data={data} />
            <section className="card p-3">
              <h2 className="mb-1">What identifies it</h2>
              {data.marks.map((m) => (
                <div key={m.kind + m.text}>
                  <Tag>{m.kind.replace('_', ' ')}</Tag> <span className="num">{m.text}</span>
                </div>
              ))}
            </section>
            <section className="card p-3">
              <h2 className="mb-1">Who changed what</h2>
              {!data.changes.length && <p className="text-ink-2">Nobody since it came with the product.</p>}
              {data.changes.map((c) => (
                <div key={c.at + c.what}>
                  <span className="num text-ink-2">{moment(c.at)}</span> {c.who}: {c.what}
                </div>
              ))}
            </section>
          </div>
        </div>
      </div>
    </main>
  )
}

function Slots({ data, selected, onSelect }: { data: View; selected: string; onSelect: (id: string) => void }) {
  return (
    <section className="card py-1">
      {data.map.slots.map((s) => (
        <button
          key={s.id}
          data-row
          type="button"
          aria-pressed={selected === s.id}
          className={`hover:bg-gold-soft flex w-full justify-between gap-3 px-3 py-1 text-left ${selected === s.id ? 'bg-gold-soft shadow-[inset_3px_0_0_var(--gold)]' : ''}`}
          onClick={() => onSelect(s.id)}
        >
          <span className="font-semibold">{s.name}</span>
          <span className="text-ink-2 text-[12.5px]">{s.summary}</span>
        </button>
      ))}
    </section>
  )
}

/** What is in the way, and what must be off before it, with who says so. */
function Inside({ data }: { data: View }) {
  return (
    <section className="card p-3">
      <h2 className="mb-1">In the way</h2>
      <table className="w-full">
        <tbody>
          {data.obstacles.map((o) => (
            <tr key={o.name} className="border-hair border-t align-top first:border-t-0">
              <td className="py-1 pr-2 font-medium">{o.name}</td>
              <td className="text-ink-2 py-1 pr-2 text-[12.5px]">
                {o.after.length ? `after ${o.after.map(lowered).join(', ')}` : 'first'}
              </td>
              <td className="num py-1 pr-2 text-[12.5px]">
                {[o.screws ? `${o.screws} × ${o.tool}` : o.tool, minutes(o.seconds)].filter(Boolean).join(', ')}
              </td>
              <td className="py-1">
                <Tag>{o.source}</Tag>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
