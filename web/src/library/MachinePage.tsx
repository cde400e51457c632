import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams } from 'react-router'
import { answer, client } from '../api/client'
import { MachineMap } from '../map/MachineMap'
import { ErrorNote, Heading } from '../ui/basics'
import { Facts } from './Facts'

export function MachinePage() {
  const { machine = '', configuration = '' } = useParams()
  const [selected, setSelected] = useState('')
  const { data, error } = useQuery({
    queryKey: ['machine', machine, configuration],
    queryFn: () =>
      answer(
        client.GET('/api/machines/{slug}/{configuration}', {
          params: { path: { slug: machine, configuration } },
        }),
      ),
  })
  if (!data)
    return (
      <main className="p-6">
        <ErrorNote error={error} />
      </main>
    )
  const slot = data.map.slots.find((s) => s.id === selected) ?? data.map.slots[0]
  return (
    <main className="flex-1 overflow-y-auto px-6 py-4">
      <div className="mx-auto max-w-[1000px]">
        <Heading title={data.title}>
          {data.processor}, {data.year} · <a href={`/api/machines/${machine}/file`}>machine file</a>
        </Heading>
        <MachineMap map={data.map} height={330} selected={slot?.id} onSelect={setSelected} />
        <div className="mt-3 grid grid-cols-2 gap-4">
          <div className="card p-3">
            <h2 className="mb-1.5">What matters for an upgrade</h2>
            <dl className="grid grid-cols-[150px_1fr] gap-y-1">
              {Object.entries(data.matters).map(([what, value]) => (
                <div key={what} className="contents">
                  <dt className="text-ink-2">{what}</dt>
                  <dd>{value}</dd>
                </div>
              ))}
            </dl>
          </div>
          {slot && (
            <div className="card p-3">
              <h2 className="mb-1.5">{slot.name}, and how it is known</h2>
              <Facts facts={slot.facts} />
            </div>
          )}
        </div>
      </div>
    </main>
  )
}
