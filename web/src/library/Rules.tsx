import { useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { useLocation } from 'react-router'
import { answer, client } from '../api/client'
import { Heading } from '../ui/basics'
import { MACHINES, Tabs } from '../ui/Tabs'

/** Every rule a finding may name: its sentence and its source. */
export function Rules() {
  const { hash } = useLocation()
  const { data } = useQuery({
    queryKey: ['rules'],
    queryFn: () => answer(client.GET('/api/rules')),
    staleTime: Infinity,
  })
  useEffect(() => {
    if (data && hash) document.getElementById(hash.slice(1))?.scrollIntoView({ block: 'center' })
  }, [data, hash])
  return (
    <main tabIndex={0} className="flex-1 overflow-y-auto px-6 py-4">
      <div className="mx-auto max-w-[1000px]">
        <Tabs label="The library of machines" tabs={MACHINES} />
        <Heading title="The rules">{data?.length ?? 0} rules. Every finding names the one that speaks.</Heading>
        <table className="card w-full border-separate border-spacing-0">
          <thead>
            <tr>
              {['Rule', 'What it says', 'Source'].map((h) => (
                <th key={h} className="px-3 py-2">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {data?.map((r) => (
              <tr
                key={r.id}
                id={r.id}
                className={`[&>td]:border-hair align-top [&>td]:border-t [&>td]:px-3 [&>td]:py-1.5 ${hash === `#${r.id}` ? 'bg-gold-soft' : ''}`}
              >
                <td className="num whitespace-nowrap">{r.id}</td>
                <td>{r.sentence}</td>
                <td className="text-ink-2 text-[12.5px]">{r.source}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </main>
  )
}
