import { useState } from 'react'
import { Link } from 'react-router'
import { answer, client, upload, type JobView, type Schemas } from '../../api/client'
import { at, useAct, useEdit, useJob, useJobNumber, useStation } from '../../api/job'
import { Facts } from '../../machine/Facts'
import { MakerWords } from '../../machine/MakerWords'
import { MachineMap } from '../../map/MachineMap'
import { GoOn } from '../../shell/GoOn'
import { Button, ErrorNote, Heading, Note } from '../../ui/basics'
import { NumberField, TextField } from '../../ui/fields'
import { sign } from '../../words'
import { ClaimButton } from './Claim'
import { MeasureButton } from './Measure'
import { QuickEntry } from './QuickEntry'
import { Reading } from './Reading'
import { NextActs, useWorth } from './NextActs'
import { worthSays } from './worth'

type Survey = Schemas['SurveyView']

export function Survey() {
  const [selected, setSelected] = useState('')
  const worth = useWorth()
  const jobNumber = useJobNumber()
  const { data, error } = useStation('survey', (n) =>
    answer(client.GET('/api/jobs/{number}/survey', { params: { path: { number: n } } })),
  )
  const take = useAct<File>((n, file) => upload<JobView>(`/api/jobs/${n}/reading/survey`, file, file.name))
  if (!data) return <ErrorNote error={error} />
  const slot = data.map.slots.find((s) => s.id === selected) ?? data.map.slots[0]
  return (
    <>
      <Heading title="What is inside, and how do we know?">
        Drawn to scale. Scan what is fitted, measure what is unknown.{' '}
        <Link to="walk" className="underline">
          Walk through it with the cover off
        </Link>
      </Heading>
      <ErrorNote error={take.error} />
      <MachineMap map={data.map} height={272} selected={slot?.id} onSelect={setSelected} />
      <div className="mt-3 grid grid-cols-1 gap-4 min-[1000px]:grid-cols-[1.150fr_1fr]">
        <div className="min-w-0">
          <SlotTable data={data} selected={slot?.id ?? ''} onSelect={setSelected} />
          {slot && slot.form !== 'soldered' && <QuickEntry key={slot.id} slot={slot} />}
          <div id="typed" className="mt-3 grid grid-cols-2 gap-3">
            <TextField path="/survey/firmware" label="Firmware version" />
            <TextField path="/survey/notes" label="Found on the way" />
            <TextField path="/survey/numbers/board" label="Board number" hint="identifies too" />
            <TextField path="/survey/numbers/battery" label="Pack number" hint="identifies too" />
          </div>
          <Reading data={data} onFile={(f) => take.mutate(f)} busy={take.isPending} />
          <div id="makers-words" className="mt-3">
            <MakerWords machine={data.machine} beside={data.words_beside} job={jobNumber} />
          </div>
        </div>
        <div className="min-w-0 space-y-3">
          <Contradictions data={data} />
          <NextActs data={data} onSlot={setSelected} />
          {data.soldered.map((line) => (
            <p key={line} className="text-ink-2 px-1 text-[13px]">
              {line}
            </p>
          ))}
          {slot && <SlotCard key={slot.id} slot={slot} />}
          <div className="card p-3">
            <h2 className="mb-1.5">The memory system</h2>
            <Facts
              facts={data.map.board}
              action={(f) => (
                <>
                  <MeasureButton fact={f} says={opens(f.attribute, worth)} />
                  <ClaimButton fact={f} />
                </>
              )}
            />
          </div>
          <div className="card p-3">
            <h2 className="mb-1.5">What it starts from</h2>
            <Facts
              facts={data.map.starts}
              action={(f) => <MeasureButton fact={f} says={opens(f.attribute, worth)} />}
            />
          </div>
          <GoOn to="fit" label="Go on to Fit" />
        </div>
      </div>
    </>
  )
}

/** What a measurement would decide, in parts and prices. */
function opens(attribute: string, all: readonly Schemas['Worth'][] | undefined): string {
  const worth = all?.find((w) => w.attribute === attribute)
  if (!worth) return ''
  const says = worthSays(worth)
  return `${says[0]?.toUpperCase()}${says.slice(1)}.`
}

function SlotTable({ data, selected, onSelect }: { data: Survey; selected: string; onSelect: (slot: string) => void }) {
  const number = useJobNumber()
  type Body = { slot: string; number: string; state: 'found' | 'unknown' | 'as_delivered' }
  const set = useAct<Body>((_, body) =>
    answer(client.POST('/api/jobs/{number}/survey/fitted', { params: { path: { number } }, body })),
  )
  return (
    <>
      <ErrorNote error={set.error} />
      <table className="card w-full border-separate border-spacing-0">
        <thead>
          <tr>
            {['Slot', 'Fitted', 'How known'].map((h) => (
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
              data-row
              tabIndex={0}
              aria-selected={selected === s.id}
              onKeyDown={(e) => e.key === 'Enter' && e.target === e.currentTarget && onSelect(s.id)}
              onClick={() => onSelect(s.id)}
              className={`[&>td]:border-hair cursor-pointer align-top [&>td]:border-t [&>td]:px-2.5 [&>td]:py-1.5 ${selected === s.id ? 'bg-gold-soft' : ''}`}
            >
              <td>
                <span className="font-semibold">{s.name}</span>
                <span className="text-ink-2 block text-[12px]">{s.summary}</span>
              </td>
              <td className="min-w-0">
                {s.form === 'soldered' ? (
                  s.fitted_name
                ) : (
                  <select
                    aria-label={`Fitted in ${s.name}`}
                    className="w-48"
                    value={s.fitted_name === 'unknown' ? '?' : s.fitted_number}
                    onChange={(e) => {
                      const said = e.target.value
                      const state = said === '?' ? 'unknown' : said === '=' ? 'as_delivered' : 'found'
                      set.mutate({ slot: s.id, number: state === 'found' ? said : '', state })
                    }}
                  >
                    <option value="">empty</option>
                    <option value="?">unknown: nobody has looked</option>
                    <option value="=">as delivered</option>
                    {s.fitted_number && !data.choices[s.id]?.some((c) => c.number === s.fitted_number) && (
                      <option value={s.fitted_number}>{s.fitted_name}</option>
                    )}
                    {data.choices[s.id]?.map((c) => (
                      <option key={c.number} value={c.number}>
                        {c.name}
                      </option>
                    ))}
                    {data.more_by_label.includes(s.id) && <option disabled>others by their label, below</option>}
                  </select>
                )}
                {data.observed[s.id]?.map((line) => (
                  <span
                    key={line}
                    className={`block max-w-48 text-[12px] ${line.includes(': ') ? 'text-held' : 'text-ink-2'}`}
                  >
                    {line}
                  </span>
                ))}
              </td>
              <td>
                <span className="text-[12.5px]">{s.fitted_how}</span>
                <Since data={data} slot={s} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}

/** Who said so and when: by hand for this slot, or with the reading. */
function Since({ data, slot }: { data: Survey; slot: Schemas['SlotView'] }) {
  const read = slot.fitted_how.startsWith('read')
  const since = data.since[`/survey/fitted/${slot.id}`] ?? (read ? data.since['/survey/reading'] : undefined)
  if (!since) return null
  return (
    <span className="text-ink-2 block text-[12px]">
      {new Date(since.at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}
      {since.who && `, ${since.who}`}
    </span>
  )
}

function SlotCard({ slot }: { slot: Schemas['SlotView'] }) {
  const worth = useWorth()
  return (
    <div className="card p-3">
      <h2 className="mb-1.5">{slot.name}</h2>
      {slot.notes.map((n) => (
        <Note key={n}>{n}</Note>
      ))}
      {slot.form === 'soldered' && <p className="text-ink-2 mb-1">Soldered to the board: nothing is bought for it.</p>}
      <Facts
        facts={slot.facts.filter((f) => slot.form !== 'soldered' || f.known)}
        action={(f) => (
          <>
            <MeasureButton fact={f} says={opens(f.attribute, worth)} />
            <ClaimButton fact={f} />
          </>
        )}
      />
      {slot.fitted_number && slot.form === 'm2' && <LookedAt slot={slot} />}
      {slot.fitted_number && slot.form !== 'soldered' && (
        <NumberField
          path={`/plan/credits/${slot.id}`}
          label="Credit when it comes out"
          hint={sign()}
          scale={100}
          required
          className="mt-2 w-48"
        />
      )}
    </div>
  )
}

/** What was seen with the cover off: it proves the room there is, and no pad. */
function LookedAt({ slot }: { slot: Schemas['SlotView'] }) {
  const { view } = useJob()
  const edit = useEdit()
  const path = `/survey/looked/${slot.id}`
  const kept = at(view?.job, path) as Schemas['Looked'] | undefined
  // What was seen of another card is of that one.
  const said = kept?.part === slot.fitted_number ? kept : undefined
  const keep = (more: object) =>
    edit(path, { lies_flat: null, leads: null, ...said, part: slot.fitted_number, ...more })
  const aerials = slot.kind === 'radio' || slot.kind === 'cellular'
  return (
    <fieldset className="border-hair mt-2 border-t pt-1.5 text-[12.5px]">
      <legend className="font-label text-ink-2">Seen with the cover off</legend>
      <label className="flex items-start gap-1.5">
        <input
          type="checkbox"
          className="mt-0.5"
          checked={said?.lies_flat === true}
          onChange={(e) => keep({ lies_flat: e.target.checked ? true : null })}
        />
        <span>The card lies flat, nothing is beneath it, and the cover closes over it without touching</span>
      </label>
      {aerials && (
        <label className="mt-1 flex items-center gap-1.5">
          Antenna leads that end here
          <select
            value={said?.leads ?? ''}
            onChange={(e) => keep({ leads: e.target.value === '' ? null : Number(e.target.value) })}
          >
            <option value="">not counted</option>
            {[0, 1, 2, 3, 4].map((n) => (
              <option key={n}>{n}</option>
            ))}
          </select>
        </label>
      )}
    </fieldset>
  )
}

function Contradictions({ data }: { data: Survey }) {
  const number = useJobNumber()
  const believe = useAct<{ id: string; right: 'reading' | 'library' }>((_, body) =>
    answer(client.POST('/api/jobs/{number}/survey/believe', { params: { path: { number } }, body })),
  )
  return (
    <>
      <ErrorNote error={believe.error} />
      {data.contradictions.map((c) => {
        const right = data.believed[c.id]
        return (
          <Note key={c.id} kind={right ? 'plain' : 'refused'}>
            <span className="font-semibold">{c.says}</span>
            <span className="block">
              Library: <span className="num">{c.library}</span> ({c.source}) · read here:{' '}
              <span className="num">{c.read}</span>
            </span>
            <span className="mt-1 flex flex-wrap gap-2">
              {(['reading', 'library'] as const).map((side) => (
                <Button
                  key={side}
                  kind={right === side ? 'main' : 'plain'}
                  onClick={() => believe.mutate({ id: c.id, right: side })}
                >
                  {right === side ? `The ${side} is believed` : `Believe the ${side}`}
                </Button>
              ))}
            </span>
            {right === 'reading' && (
              <span className="mt-1 block text-[12.5px]">
                {c.mend || 'It counts on this job, and goes to the library for review.'}
              </span>
            )}
            {right === 'library' && (
              <span className="mt-1 block text-[12.5px]">The library’s description stands on this job.</span>
            )}
          </Note>
        )
      })}
      {data.claims.map((c) => (
        <Note key={c.id} kind="measure_first">
          Waits for review: {c.label} {c.value} ({c.source}); the library says {c.library}. {c.note}
        </Note>
      ))}
    </>
  )
}
