import { useState } from 'react'
import { answer, client, upload, type JobView, type Schemas } from '../../api/client'
import { at, useAct, useJob, useJobNumber, useStation } from '../../api/job'
import { Facts, type Fact } from '../../library/Facts'
import { MachineMap } from '../../map/MachineMap'
import { GoOn } from '../../shell/GoOn'
import { Button, ErrorNote, FileDrop, Heading, Tag } from '../../ui/basics'
import { NumberField, TextField } from '../../ui/fields'

export function Survey() {
  const number = useJobNumber()
  const [selected, setSelected] = useState('')
  const { data, error } = useStation('survey', (n) =>
    answer(client.GET('/api/jobs/{number}/survey', { params: { path: { number: n } } })),
  )
  const take = useAct<File>((n, file) => upload<JobView>(`/api/jobs/${n}/reading/survey`, file, file.name))
  if (!data) return <ErrorNote error={error} />
  const slot = data.map.slots.find((s) => s.id === selected) ?? data.map.slots[0]
  return (
    <>
      <Heading title="What is inside, and how do we know?">
        Drawn to scale. Correct what is fitted, measure what is unknown.
      </Heading>
      <ErrorNote error={take.error} />
      <MachineMap map={data.map} height={300} selected={slot?.id} onSelect={setSelected} />
      <div className="mt-3 grid grid-cols-[1.150fr_1fr] gap-4">
        <div>
          <SlotTable data={data} selected={slot?.id ?? ''} onSelect={setSelected} />
          <div className="mt-3 grid grid-cols-2 gap-3">
            <TextField path="/survey/firmware" label="Firmware version" />
            <TextField path="/survey/notes" label="Found on the way" hint="board, fan, panel numbers" />
          </div>
          <div className="mt-3 flex flex-wrap items-center gap-3">
            <FileDrop label="Drop a reading of the running system" accept=".json,.zip" onFile={(f) => take.mutate(f)} />
            <a className="text-ink-2 text-[12.5px] underline" href={`/api/jobs/${number}/simulated/survey`}>
              the simulated laptop’s reading
            </a>
          </div>
          <ReadSummary />
        </div>
        <div className="space-y-3">
          {slot && <SlotCard key={slot.id} slot={slot} />}
          <div className="card p-3">
            <h2 className="mb-1.5">The memory system</h2>
            <Facts facts={data.map.board} action={(f) => <MeasureButton fact={f} />} />
          </div>
          <GoOn to="fit" label="Go on to Fit" />
        </div>
      </div>
    </>
  )
}

function ReadSummary() {
  const { view } = useJob()
  const reading = at(view?.job, '/survey/reading') as Schemas['Reading'] | null | undefined
  if (!reading) return null
  return (
    <p className="text-ink-2 mt-2 text-[12.5px]">
      Read: {reading.understood?.join(', ')}.{' '}
      {reading.not_understood?.length
        ? `Not understood: ${reading.not_understood.join('; ')}.`
        : 'All of it was understood.'}
    </p>
  )
}

function SlotTable({
  data,
  selected,
  onSelect,
}: {
  data: Schemas['SurveyView']
  selected: string
  onSelect: (id: string) => void
}) {
  const set = useAct<{ slot: string; number: string }>((number, body) =>
    answer(client.POST('/api/jobs/{number}/survey/fitted', { params: { path: { number } }, body })),
  )
  return (
    <>
      <ErrorNote error={set.error} />
      <table className="card w-full border-separate border-spacing-0">
        <thead>
          <tr>
            {['Slot', 'Fitted today', 'How known'].map((h) => (
              <th key={h} className="px-2.5 py-1.5">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {data.map.slots.map((s) => (
            <tr
              key={s.id}
              className={`[&>td]:border-hair [&>td]:border-t [&>td]:px-2.5 [&>td]:py-1.5 ${s.id === selected ? 'bg-gold-soft shadow-[inset_3px_0_0_var(--gold)]' : ''}`}
            >
              <td>
                <button data-row type="button" className="text-left font-semibold" onClick={() => onSelect(s.id)}>
                  {s.name}
                  <span className="text-ink-2 block text-[12px] font-normal">{s.summary}</span>
                </button>
              </td>
              <td>
                <select
                  aria-label={`Fitted in ${s.name}`}
                  className="w-full max-w-56"
                  value={s.fitted_number}
                  onChange={(e) => set.mutate({ slot: s.id, number: e.target.value })}
                >
                  <option value="">empty</option>
                  {!!s.fitted_number && !data.choices[s.id]?.some((c) => c.number === s.fitted_number) && (
                    <option value={s.fitted_number}>{s.fitted_name}</option>
                  )}
                  {data.choices[s.id]?.map((c) => (
                    <option key={c.number} value={c.number}>
                      {c.name}
                    </option>
                  ))}
                </select>
              </td>
              <td>
                <Tag>{s.fitted_how}</Tag>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}

function SlotCard({ slot }: { slot: Schemas['SlotView'] }) {
  return (
    <div className="card p-3">
      <h2 className="mb-1.5">{slot.name}</h2>
      <Facts facts={slot.facts} action={(f) => <MeasureButton fact={f} />} />
      {slot.fitted_number && (
        <NumberField
          path={`/plan/credits/${slot.id}`}
          label="Credit when it comes out"
          hint="€"
          scale={100}
          required
          className="mt-2 w-48"
        />
      )}
    </div>
  )
}

/** Unknown is measured here: the tool, the way, and the figure in the unit shown. */
function MeasureButton({ fact }: { fact: Fact }) {
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState(fact.options[0] ?? '')
  const set = useAct<string>((number, value) =>
    answer(
      client.POST('/api/jobs/{number}/survey/measured', {
        params: { path: { number } },
        body: { attribute: fact.attribute, typed: value },
      }),
    ),
  )
  if (!open)
    return (
      <Button kind="quiet" onClick={() => setOpen(true)} aria-label={`Measure ${fact.label}`}>
        {fact.known ? 'correct' : 'measure'}
      </Button>
    )
  return (
    <form
      className="w-44 text-left"
      onSubmit={(e) => {
        e.preventDefault()
        set.mutate(typed, { onSuccess: () => setOpen(false) })
      }}
    >
      <p className="text-ink-2 text-[12px]">{fact.measure}</p>
      <ErrorNote error={set.error} />
      <div className="flex items-center gap-1">
        {fact.options.length ? (
          <select
            aria-label={fact.label}
            className="min-w-0 flex-1"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          >
            {fact.options.map((o) => (
              <option key={o}>{o}</option>
            ))}
          </select>
        ) : (
          <input
            autoFocus
            aria-label={`${fact.label} ${fact.unit}`}
            className="num w-16 flex-1"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
        )}
        <span className="text-ink-2">{fact.unit}</span>
        <Button type="submit" disabled={!typed}>
          Keep
        </Button>
      </div>
    </form>
  )
}
