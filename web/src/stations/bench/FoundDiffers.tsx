import { useState } from 'react'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../../api/client'
import { useAct, useJobNumber, useStation } from '../../api/job'
import { Button, ErrorNote, Note } from '../../ui/basics'
import { Labelled } from '../../ui/fields'
import { Chosen } from '../plan/Chosen'
import { QuickEntry } from '../survey/QuickEntry'

/** What was found is not what the plan was made for: corrected here, priced anew, and asked of the owner before the
 * steps go on. */
export function FoundDiffers({
  slots,
  differs,
}: {
  slots: readonly Schemas['SlotView'][]
  differs: readonly string[]
}) {
  const [at, setAt] = useState('')
  const slot = slots.find((s) => s.id === at)
  const empty = useAct<string>((number, slot) =>
    answer(
      client.POST('/api/jobs/{number}/survey/fitted', {
        params: { path: { number } },
        body: { slot, number: '', state: 'found' },
      }),
    ),
  )
  return (
    <details className="card p-3" open={!!differs.length}>
      <summary className="cursor-pointer">
        <h2 className="inline">Found differs</h2>{' '}
        <span className="text-ink-2 text-[12.5px]">
          {differs.length ? 'the steps wait for the owner’s word' : 'what is in the machine is not what was announced'}
        </span>
      </summary>
      <ErrorNote error={empty.error} />
      <div className="mt-2 grid grid-cols-[220px_1fr] items-start gap-3 max-[820px]:grid-cols-1">
        <Labelled label="Where">
          {(id) => (
            <select id={id} className="h-11 w-full" value={at} onChange={(e) => setAt(e.target.value)}>
              <option value="">choose the slot</option>
              {slots
                .filter((s) => s.form !== 'soldered')
                .map((s) => (
                  <option key={s.id} value={s.id}>
                    {s.name}: {s.fitted_name}
                  </option>
                ))}
            </select>
          )}
        </Labelled>
        {slot && (
          <div>
            <QuickEntry key={slot.id} slot={slot} />
            <Button className="mt-2 min-h-11" onClick={() => empty.mutate(slot.id)}>
              {slot.name} is empty
            </Button>
          </div>
        )}
      </div>
      {!!differs.length && <Anew differs={differs} />}
    </details>
  )
}

function Anew({ differs }: { differs: readonly string[] }) {
  const number = useJobNumber()
  const { data, error } = useStation('plan', (n) =>
    answer(client.GET('/api/jobs/{number}/plan', { params: { path: { number: n } } })),
  )
  const again = useAct<void>((n) =>
    answer(client.POST('/api/jobs/{number}/plan', { params: { path: { number: n } }, body: { stance: 'again' } })),
  )
  return (
    <div className="mt-2 space-y-2">
      <Note kind="held_back">
        {differs.map((d) => (
          <div key={d}>{d}.</div>
        ))}
      </Note>
      <ErrorNote error={again.error ?? error} />
      {data && <Chosen difference={data.difference} />}
      <div className="flex flex-wrap items-center gap-3">
        <Button className="min-h-11" disabled={again.isPending || !data} onClick={() => again.mutate()}>
          The same parts, at today’s price
        </Button>
        <Link className="underline" to={`/jobs/${number}/plan`}>
          another plan
        </Link>
        <span className="text-ink-2">Then the owner’s word at Prepare, and the steps go on.</span>
      </div>
    </div>
  )
}
