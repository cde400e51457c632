import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { answer, client, upload, type Schemas } from '../api/client'
import { ErrorNote, FileDrop, Heading } from '../ui/basics'

export function Machines() {
  const [text, setText] = useState('')
  const go = useNavigate()
  const cache = useQueryClient()
  const { data, error } = useQuery({
    queryKey: ['machines'],
    queryFn: () => answer(client.GET('/api/machines')),
  })
  const take = useMutation({
    mutationFn: (file: File) => upload<Schemas['Imported']>('/api/machines/import', file, file.name),
    onSuccess: () => void cache.invalidateQueries({ queryKey: ['machines'] }),
  })
  const shown =
    data?.filter((m) => `${m.title} ${m.processor} ${m.year}`.toLowerCase().includes(text.toLowerCase())) ?? []
  return (
    <main className="flex-1 overflow-y-auto px-6 py-4">
      <div className="mx-auto max-w-[1000px]">
        <Heading title="The library of machines">
          One line a configuration: the family name is not enough to buy for.
        </Heading>
        <ErrorNote error={error ?? take.error} />
        {take.data && <p className="mb-2">Imported: {take.data.machines.join(', ')}.</p>}
        <div className="mb-2 flex items-center gap-3">
          <input aria-label="Filter" placeholder="Filter" value={text} onChange={(e) => setText(e.target.value)} />
          <FileDrop label="Import a machine file" accept=".json" onFile={(f) => take.mutate(f)} />
        </div>
        <table className="card w-full border-separate border-spacing-0">
          <thead>
            <tr>
              {['Configuration', 'Processor', 'Year', 'Unknown facts'].map((h) => (
                <th key={h} className="px-3 py-2">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((m) => {
              const open = () => void go(`/machines/${m.machine}/${m.configuration}`)
              return (
                <tr
                  key={m.machine + m.configuration}
                  data-row
                  tabIndex={0}
                  onClick={open}
                  onKeyDown={(e) => e.key === 'Enter' && open()}
                  className="hover:bg-gold-soft cursor-pointer [&>td]:border-t [&>td]:border-hair [&>td]:px-3 [&>td]:py-2"
                >
                  <td className="font-semibold">{m.title}</td>
                  <td>{m.processor}</td>
                  <td className="num">{m.year}</td>
                  <td className="num">{m.unknown}</td>
                </tr>
              )
            })}
          </tbody>
        </table>
        {data && !shown.length && (
          <p className="text-ink-2 mt-2">No machine matches. Import a machine file to add one.</p>
        )}
      </div>
    </main>
  )
}
