import type { Schemas } from '../../api/client'
import { at, useEdit, useJob } from '../../api/job'

/** Free causes of the chosen complaints, each with the test that tells. */
export function Triage({ complaints }: { complaints: readonly Schemas['Complaint'][] }) {
  const { view } = useJob()
  const edit = useEdit()
  const chosen = (at(view?.job, '/intake/complaints') as string[] | undefined) ?? []
  const mine = complaints.filter((c) => chosen.includes(c.id))
  return (
    <section className="card p-3">
      <h2 className="mb-1">Free causes first</h2>
      {!mine.length && (
        <p className="text-ink-2">
          Choose a complaint: what may cost nothing to mend stands here, with the test that tells.
        </p>
      )}
      <table className="w-full">
        <tbody>
          {mine.flatMap((c) =>
            c.causes.map((cause) => (
              <tr key={cause.id} className="border-hair border-t align-top first:border-t-0">
                <td className="w-[36%] py-1.5 pr-3 font-medium">{cause.cause}</td>
                <td className="py-1.5 pr-3">{cause.test}</td>
                <td className="py-1.5">
                  <select
                    aria-label={`${cause.cause}: outcome`}
                    value={String(at(view?.job, `/intake/triage/${cause.id}`) ?? 'untried')}
                    onChange={(e) => edit(`/intake/triage/${cause.id}`, e.target.value)}
                  >
                    <option value="untried">untried</option>
                    <option value="helped">helped</option>
                    <option value="no_help">no help</option>
                  </select>
                </td>
              </tr>
            )),
          )}
        </tbody>
      </table>
      {!!mine.length && (
        <p className="text-ink-2 mt-1.5 text-[12.5px]">
          Only then a part: {[...new Set(mine.flatMap((c) => c.then))].join(', ')}.
        </p>
      )}
    </section>
  )
}
