import type { Schemas } from '../../api/client'
import { at, useEdit, useJob } from '../../api/job'
import { CheckField, ChoiceField, NumberField } from '../../ui/fields'
import { sign } from '../../words'

/** What the job allows, and how its workshop goes about it. */
export function Terms({ slots, approved }: { slots: Schemas['PlanStation']['slots']; approved: readonly string[] }) {
  return (
    <section className="card grid grid-cols-2 gap-2 p-3">
      <NumberField path="/intake/budget_minor" label="Budget" hint={sign()} scale={100} />
      <NumberField path="/plan/threshold" label="Stop below" hint={`points a ${sign()}`} required />
      <NumberField path="/plan/rate_minor_per_hour" label="Bench" hint={`${sign()} an hour`} scale={100} required />
      <div className="self-end">
        <CheckField path="/plan/allow_loss" label="A need may fall" />
      </div>
      <details className="col-span-2">
        <summary className="cursor-pointer">How it is gone about</summary>
        <div className="mt-2 grid grid-cols-1 gap-2">
          <CheckField path="/plan/clean_install" label="The system is installed anew: nothing is copied" />
          <ChoiceField
            path="/plan/schools/memory"
            label="Memory"
            options={[
              ['free', 'as it comes'],
              ['add', 'add to what is there'],
              ['pair', 'a matched pair'],
            ]}
          />
          <ChoiceField
            path="/plan/schools/grade"
            label="Grade"
            options={[
              ['free', 'any'],
              ['running', 'none above what it runs'],
              ['newest', 'the newest common one'],
            ]}
          />
          <ChoiceField
            path="/plan/schools/drive"
            label="Drives"
            options={[
              ['free', 'as it comes'],
              ['replace', 'the old one leaves'],
              ['keep', 'keep it and add'],
            ]}
          />
          <CheckField path="/plan/schools/spinning" label="Spinning drives too" />
          {!!approved.length && <Makes approved={approved} />}
          <MayEmpty slots={slots} />
        </div>
      </details>
    </section>
  )
}

function Makes({ approved }: { approved: readonly string[] }) {
  const { view } = useJob()
  const edit = useEdit()
  const own = (at(view?.job, '/fit/makes') ?? []) as readonly string[]
  return (
    <label className="flex items-center gap-2">
      <input
        type="checkbox"
        checked={!!own.length}
        onChange={(e) => edit('/fit/makes', e.target.checked ? approved : [])}
      />
      Approved makes only: {approved.join(', ')}
    </label>
  )
}

function MayEmpty({ slots }: { slots: Schemas['PlanStation']['slots'] }) {
  const { view } = useJob()
  const edit = useEdit()
  const may = (at(view?.job, '/plan/may_empty') ?? []) as readonly string[]
  const all = may.includes('*')
  return (
    <fieldset>
      <legend className="mb-0.5 font-medium">May be left empty</legend>
      {Object.entries(slots).map(([id, name]) => (
        <label key={id} className="mr-3 inline-flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={all || may.includes(id)}
            onChange={(e) => {
              const now = all ? Object.keys(slots) : may
              edit('/plan/may_empty', e.target.checked ? [...now, id] : now.filter((s) => s !== id))
            }}
          />
          {name}
        </label>
      ))}
    </fieldset>
  )
}
