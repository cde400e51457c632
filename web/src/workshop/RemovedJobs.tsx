import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client } from '../api/client'
import { Button, ErrorNote, Heading } from '../ui/basics'

/** Jobs taken off the board: brought back for thirty days, or removed for good when a customer asks. */
export function RemovedJobs() {
  const cache = useQueryClient()
  const { data, error } = useQuery({ queryKey: ['removed'], queryFn: () => answer(client.GET('/api/jobs/removed')) })
  const [problem, setProblem] = useState<Error | null>(null)
  const [sure, setSure] = useState(0)
  const act = async (call: () => Promise<unknown>) => {
    try {
      setProblem(null)
      await call()
      await cache.invalidateQueries()
    } catch (e) {
      setProblem(e as Error)
    }
  }
  return (
    <>
      <Heading title="Removed jobs">they can be brought back for thirty days</Heading>
      <ErrorNote error={problem ?? error} />
      <div className="card">
        {data?.map((j) => {
          const path = { params: { path: { number: j.number } } }
          return (
            <div key={j.number} className="border-hair flex items-center gap-3 border-t px-3 py-1.5 first:border-t-0">
              <span className="num">{j.number}</span>
              <span className="flex-1">
                {j.title} <span className="text-ink-2">{j.customer}</span>
              </span>
              <Button onClick={() => void act(() => answer(client.DELETE('/api/jobs/{number}/removed', path)))}>
                Bring it back
              </Button>
              {sure === j.number ? (
                <Button
                  className="text-refused"
                  onClick={() => void act(() => answer(client.POST('/api/jobs/{number}/erased', path)))}
                >
                  Words, photographs and log: remove for good
                </Button>
              ) : (
                <Button kind="quiet" onClick={() => setSure(j.number)}>
                  remove for good…
                </Button>
              )}
            </div>
          )
        })}
        {!!data?.length && (
          <p className="text-ink-2 border-hair border-t px-3 py-1.5">
            Backups and exports made before still hold what is removed for good: delete them, or keep them locked away
            until newer ones take their place.
          </p>
        )}
        {data && !data.length && <p className="p-3">No job was taken off the board.</p>}
      </div>
    </>
  )
}
