import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { answer, client } from '../api/client'

/** What a workshop does first, each in one act; what is done is gone, and all of it once a machine, parts and a job are there. */
export function FirstThings({ onStart }: { onStart: () => void }) {
  const closed = useQuery({
    queryKey: ['jobs', 'any'],
    queryFn: () => answer(client.GET('/api/jobs', { params: { query: { which: 'closed' } } })),
  })
  // A workshop that has worked is not new: its whole catalogue is not sent to say so.
  const enabled = closed.data?.total === 0
  const machines = useQuery({
    queryKey: ['machines'],
    queryFn: () => answer(client.GET('/api/machines')),
    enabled,
  })
  const parts = useQuery({ queryKey: ['parts'], queryFn: () => answer(client.GET('/api/parts')), enabled })
  if (!enabled || !machines.data || !parts.data) return null
  const todo = [
    !parts.data.length && {
      to: '/parts',
      does: 'Bring in a price list',
      why: 'A supplier’s CSV as it is: what each row is gets read out of its words.',
    },
    !machines.data.lines.length && {
      to: '/machines/edit',
      does: 'Write down a machine',
      why: 'From its label, its maker’s page or a reading; what nobody knows stays open.',
    },
  ].filter((x) => !!x)
  return (
    <section className="card mb-3 p-3" aria-label="What to do first">
      <h2 className="mb-1.5">What to do first</h2>
      <ol className="grid gap-3 sm:grid-cols-3">
        {todo.map((t) => (
          <li key={t.to}>
            <Link to={t.to} className="font-semibold underline">
              {t.does}
            </Link>
            <p className="text-ink-2 text-[13px]">{t.why}</p>
          </li>
        ))}
        <li>
          <button type="button" className="font-semibold underline" onClick={onStart}>
            Start a job
          </button>
          <p className="text-ink-2 text-[13px]">For whom, and in a few words what it is about; the rest is asked.</p>
        </li>
      </ol>
    </section>
  )
}
