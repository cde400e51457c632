import { useState } from 'react'
import { answer, client, type Schemas } from '../../api/client'
import { at, useEdit, useJob, useStation } from '../../api/job'
import { GoOn } from '../../shell/GoOn'
import { Button, ErrorNote, Heading, Note } from '../../ui/basics'
import { CheckField, ChoiceField, NumberField, TextField } from '../../ui/fields'
import { Needs } from '../plan/Needs'
import { asked, type Field } from './asks'
import { DataUsed, Filled, LoadSays, Pages, PeakMemory } from './Load'
import { Purchase } from './Purchase'
import { RouterFields } from './RouterFields'
import { Triage } from './Triage'
import { sign } from '../../words'

export function Intake() {
  const { data, error } = useStation('intake', (number) =>
    answer(client.GET('/api/jobs/{number}/intake', { params: { path: { number } } })),
  )
  if (!data) return <ErrorNote error={error} />
  return (
    <>
      <Heading title="What is the trouble, and what is it used for?">
        A complaint may have a free cause: try those before a part is named.
      </Heading>
      <div className="grid grid-cols-[1.250fr_1fr] gap-4 max-[760px]:grid-cols-1">
        <div className="space-y-3">
          <section className="card p-3">
            <div className="mb-2 grid grid-cols-2 gap-3 max-[440px]:grid-cols-1">
              <TextField path="/customer" label="For whom" />
              <TextField path="/title" label="In a few words" />
            </div>
            <TextField path="/intake/words" label="In the owner’s words" rows={2} />
            <Complaints complaints={data.complaints} />
          </section>
          <Triage complaints={data.complaints} tried={data.tried} cures={data.cures} />
          <section className="card grid grid-cols-3 gap-3 p-3 max-[440px]:block max-[440px]:space-y-2">
            <h2 className="col-span-3">What came in</h2>
            <ChoiceField
              path="/intake/backup"
              label="Backup"
              options={[
                ['unknown', 'not asked'],
                ['none', 'none'],
                ['confirmed', 'confirmed'],
              ]}
            />
            <ChoiceField
              path="/intake/encryption"
              label="Encryption"
              options={[
                ['unknown', 'not known'],
                ['off', 'off'],
                ['on', 'on'],
              ]}
            />
            <TextField path="/intake/key_holder" label="Recovery key with" />
            <ChoiceField
              path="/intake/pack"
              label="The pack"
              options={[
                ['not_looked', 'not looked at'],
                ['sound', 'flat and cool'],
                ['swollen', 'swollen, hot or leaking'],
              ]}
            />
            <TextField path="/intake/came_with" label="Came with it" className="col-span-2" />
            <TextField path="/intake/warranty" label="Warranty" className="col-span-3" />
            <Swollen />
          </section>
        </div>
        <div className="space-y-3">
          <section className="card grid grid-cols-2 gap-3 p-3">
            <ChoiceField path="/intake/use" label="Use" className="col-span-2" options={Object.entries(data.uses)} />
            <NumberField path="/intake/budget_minor" label="Budget" hint={sign()} scale={100} />
            <NumberField path="/intake/years" label="Keeps it" hint="years" whole required />
            <DataUsed />
          </section>
          <AskedFor data={data} />
          <Purchase data={data} />
          <section className="card p-3">
            <h2 className="mb-1">Needs that follow, and who set them</h2>
            <Needs needs={data.needs} today={data.today} figures />
          </section>
          <GoOn to="identify" label="Go on to Identify" />
        </div>
      </div>
    </>
  )
}

function Swollen() {
  const { view } = useJob()
  if (at(view?.job, '/intake/pack') !== 'swollen') return null
  return (
    <div className="col-span-3">
      <Note kind="harm">
        Do not charge it and do not press on it. Move it away from anything that burns; local rules for damaged
        batteries decide what comes next. Prepare does not open this job.
      </Note>
    </div>
  )
}

/** What these complaints need, each with why; all the rest in one fold that says how much of it is filled in. */
function AskedFor({ data }: { data: Schemas['IntakeView'] }) {
  const { view } = useJob()
  const chosen = (at(view?.job, '/intake/complaints') as string[] | undefined) ?? []
  const asks = asked(data.complaints.filter((c) => chosen.includes(c.id)))
  const shown = new Set(asks.flatMap((a) => a.fields))
  const rest = FIELDS.filter(([name]) => !shown.has(name))
  const filled = rest.filter(([, path]) => told(at(view?.job, path))).length
  const render = (name: Field) => fieldOf(name, data)
  return (
    <section className="card p-3">
      <h2 className="mb-1">What this complaint needs</h2>
      {!asks.length && <p className="text-ink-2">Choose a complaint: what it needs is asked here.</p>}
      {asks.map((a) => (
        <div key={a.why} className="mb-2">
          <p className="text-ink-2 text-[12.5px]">{a.why}</p>
          <div className="grid grid-cols-2 gap-3">{a.fields.map(render)}</div>
        </div>
      ))}
      <LoadSays data={data} />
      <details>
        <summary className="cursor-pointer py-1 font-medium">
          Everything else <span className="text-ink-2">{filled ? `${filled} filled in` : 'none filled in'}</span>
        </summary>
        <div className="grid grid-cols-2 gap-3 pt-1">
          {rest.map(([name]) => render(name))}
          <NumberField path="/intake/growth_percent" label="Needs grow" hint="% a year" required />
          <ChoiceField
            path="/intake/owned"
            label="The machine"
            options={[
              ['owned', 'is there'],
              ['not_bought', 'is not bought yet'],
            ]}
          />
        </div>
      </details>
    </section>
  )
}

const FIELDS: readonly (readonly [Field, string])[] = [
  ['peak', '/intake/peak_memory_gb'],
  ['pages', '/intake/pages'],
  ['filled', '/intake/drive_filled_percent'],
  ['limit', '/intake/processor_at_limit'],
  ['draw', '/intake/average_w'],
  ['line', '/intake/line_mbit_s'],
  ['router', '/intake/router'],
  ['broken', '/intake/fault_slot'],
]

const told = (value: unknown) => value !== null && value !== undefined && value !== '' && value !== false

function fieldOf(name: Field, data: Schemas['IntakeView']) {
  switch (name) {
    case 'peak':
      return <PeakMemory key={name} />
    case 'pages':
      return <Pages key={name} />
    case 'filled':
      return <Filled key={name} />
    case 'limit':
      return (
        <div key={name} className="col-span-2">
          <CheckField path="/intake/processor_at_limit" label="The processor is at its limit under this load" />
        </div>
      )
    case 'draw':
      return <NumberField key={name} path="/intake/average_w" label="Draw" hint="W, measured" />
    case 'line':
      return <NumberField key={name} path="/intake/line_mbit_s" label="Line" hint="Mb/s" whole />
    case 'router':
      return <RouterFields key={name} />
    case 'broken':
      return (
        <ChoiceField
          key={name}
          path="/intake/fault_slot"
          label="Broken part in"
          options={[
            ['', Object.keys(data.slots).length ? 'nothing broken' : 'not identified yet'],
            ...Object.entries(data.slots),
          ]}
        />
      )
  }
}

/** What is chosen, and what matches the words typed; all of the list on request. */
function Complaints({ complaints }: { complaints: readonly Schemas['Complaint'][] }) {
  const { view } = useJob()
  const edit = useEdit()
  const [text, setText] = useState('')
  const [all, setAll] = useState(false)
  const chosen = (at(view?.job, '/intake/complaints') as string[] | undefined) ?? []
  const wanted = text.toLowerCase()
  const matching = complaints.filter((c) => c.name.toLowerCase().includes(wanted))
  const shown = complaints.filter(
    (c) => chosen.includes(c.id) || (matching.includes(c) && (all || text || matching.indexOf(c) < 8)),
  )
  return (
    <fieldset className="mt-2">
      <legend className="mb-1 font-medium">Complaints</legend>
      <div className="mb-1.5 flex items-center gap-3">
        <input
          aria-label="Find a complaint"
          placeholder="find a complaint"
          className="w-48"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <Button kind="quiet" onClick={() => setAll(!all)}>
          {all ? 'the usual ones' : `all ${complaints.length}`}
        </Button>
      </div>
      <div className="flex flex-wrap gap-1.5">
        {shown.map((c) => {
          const on = chosen.includes(c.id)
          return (
            <label
              key={c.id}
              className={`cursor-pointer rounded-sm border px-2 py-0.5 has-focus-visible:outline-2 ${on ? 'border-gold bg-gold-soft' : 'border-hair'}`}
            >
              <input
                type="checkbox"
                className="sr-only"
                checked={on}
                onChange={() => edit('/intake/complaints', on ? chosen.filter((x) => x !== c.id) : [...chosen, c.id])}
              />
              {c.name}
            </label>
          )
        })}
        {!shown.length && <span className="text-ink-2">No such complaint. The workshop’s list can be added to.</span>}
      </div>
    </fieldset>
  )
}
