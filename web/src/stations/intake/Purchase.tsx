import type { Schemas } from '../../api/client'
import { Advice } from '../../machine/Advice'

export function Purchase({ data }: { data: Schemas['IntakeView'] }) {
  if (!data.advice.length) return null
  return (
    <section className="card p-3">
      <h2 className="mb-1">Before it is bought</h2>
      <Advice advice={data.advice} />
    </section>
  )
}
