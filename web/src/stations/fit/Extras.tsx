import type { Schemas } from '../../api/client'
import { at, step, useEdit, useJob } from '../../api/job'
import { money } from '../../words'

/** What the build wants beside its parts, offered with prices; a tick takes it into the tally. */
export function Extras({ extras }: { extras: readonly Schemas['Extra'][] }) {
  const { view } = useJob()
  const edit = useEdit()
  if (!extras.length) return null
  const taken = (at(view?.job, '/fit/extras') ?? {}) as Record<string, boolean>
  return (
    <section className="card mb-2 p-3">
      <h2 className="mb-1">Besides the parts</h2>
      {extras.map((x) => {
        const number = x.offers.find((o) => taken[o]) ?? x.offers[0]
        return (
          <label key={x.what} className="flex items-start gap-2 py-0.5">
            <input
              type="checkbox"
              className="mt-1"
              disabled={!number}
              checked={!!number && !!taken[number]}
              onChange={(e) => number && edit(`/fit/extras/${step(number)}`, e.target.checked)}
            />
            <span>
              <span className="font-semibold">{x.what}</span> {number ? money(x.price_minor) : 'not in the catalogue'}
              <span className="text-ink-2 block text-[12.5px]">
                {x.why} {x.have && `(${x.have})`} {number && <span className="num">{number}</span>}
              </span>
            </span>
          </label>
        )
      })}
    </section>
  )
}
