import { useQuery } from '@tanstack/react-query'
import { answer, client } from '../api/client'
import { ErrorNote, Heading } from '../ui/basics'

/** Every word of ours in one line. */
export function Words() {
  const { data, error } = useQuery({
    queryKey: ['glossary'],
    queryFn: () => answer(client.GET('/api/glossary')),
    staleTime: Infinity,
  })
  return (
    <main className="flex-1 overflow-y-auto px-6 py-4">
      <div className="mx-auto max-w-[900px]">
        <Heading title="Our words">What they say on a screen or a paper, in one line each.</Heading>
        <ErrorNote error={error} />
        <dl className="card px-3 py-1">
          {data?.map((w) => (
            <div
              key={w.word}
              className="border-hair grid grid-cols-[11rem_1fr] gap-3 border-t py-1.5 first:border-t-0 max-[640px]:grid-cols-1"
            >
              <dt className="font-semibold">{w.word}</dt>
              <dd>{w.means}</dd>
            </div>
          ))}
        </dl>
      </div>
    </main>
  )
}
