import { day } from '../words'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { answer, client, type Schemas } from '../api/client'
import { Button, ErrorNote } from '../ui/basics'
import { May } from '../shell/May'

/** What benches found beside what the library says: accepted into it, or refused. */
export function Reviews({ reviews }: { reviews: readonly Schemas['Review'][] }) {
  const cache = useQueryClient()
  const decide = useMutation({
    mutationFn: ({ id, accept }: { id: number; accept: boolean }) =>
      answer(client.POST('/api/claims/{claim}', { params: { path: { claim: id } }, body: { accept } })),
    onSuccess: () => void cache.invalidateQueries(),
  })
  return (
    <>
      <ErrorNote error={decide.error} />
      <table className="card w-full border-separate border-spacing-0">
        <thead>
          <tr>
            {['Configuration', 'What', 'The bench found', 'The library says', 'Who, when', ''].map((h) => (
              <th key={h} className="px-2.5 py-1.5">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {reviews.map((r) => (
            <tr
              key={r.id}
              data-row
              tabIndex={0}
              className="[&>td]:border-hair align-top [&>td]:border-t [&>td]:px-2.5 [&>td]:py-1.5"
            >
              <td>{r.title}</td>
              <td>
                {r.label}{' '}
                {!r.attribute.startsWith('number.') && (
                  <span className="text-ink-2 num text-[11.5px]">{r.attribute.split('.')[0]}</span>
                )}
              </td>
              <td>
                <span className="num font-semibold">{r.value}</span> {r.source}
                {r.note && <span className="text-ink-2 block text-[12px]">{r.note}</span>}
              </td>
              <td className="num">{r.library}</td>
              <td className="text-ink-2 text-[12.5px]">
                {r.who} {day(r.at)} {r.job && `job ${r.job}`}
              </td>
              <td className="whitespace-nowrap">
                <May role="library">
                  <Button onClick={() => decide.mutate({ id: r.id, accept: true })}>Accept</Button>{' '}
                  <Button kind="quiet" onClick={() => decide.mutate({ id: r.id, accept: false })}>
                    refuse
                  </Button>
                </May>{' '}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}
