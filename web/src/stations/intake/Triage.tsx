import { Link } from 'react-router'
import type { Schemas } from '../../api/client'
import { at, useEdit, useJob } from '../../api/job'
import { Seen } from '../../machine/Tried'
import { lowered, partWord } from '../../words'

/** Free causes of the chosen complaints, each with the test that tells. */
export function Triage({
  complaints,
  tried,
  cures,
}: {
  complaints: readonly Schemas['Complaint'][]
  tried: Record<string, Schemas['Tried']>
  cures: Record<string, string>
}) {
  const { view } = useJob()
  const edit = useEdit()
  const chosen = (at(view?.job, '/intake/complaints') as string[] | undefined) ?? []
  const mine = complaints.filter((c) => chosen.includes(c.id))
  return (
    <section className="card p-3">
      <div className="mb-1 flex items-baseline justify-between">
        <h2>Free causes first</h2>
        <Link className="text-ink-2 text-[12.5px] underline" to="/triage">
          the workshop’s list
        </Link>
      </div>
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
                <td className="w-[36%] py-1.5 pr-3 font-medium">
                  {cause.cause}
                  <Seen tried={tried[cause.id]} />
                </td>
                <td className="py-1.5 pr-3">
                  {cause.test}
                  {cause.cure && (
                    <span className="text-ink-2 block text-[12.5px]">
                      If it is this: {lowered(cures[cause.cure] ?? '')}, no part sold for it.
                    </span>
                  )}
                </td>
                <td className="py-1.5">
                  <select
                    aria-label={`${cause.cause}: outcome`}
                    value={String(at(view?.job, `/intake/triage/${cause.id}`) ?? 'untried')}
                    onChange={(e) => edit(`/intake/triage/${cause.id}`, e.target.value)}
                  >
                    <option value="untried">untried</option>
                    <option value="helped">{cause.cure ? 'mended' : 'helped'}</option>
                    {cause.cure && <option value="found">found, to be mended</option>}
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
          Only then a part: {[...new Set(mine.flatMap((c) => c.then ?? []))].map(partWord).join(', ')}.
        </p>
      )}
    </section>
  )
}
