import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, type Schemas } from '../api/client'
import { Button, ErrorNote, Heading } from '../ui/basics'
import { Labelled, Words } from '../ui/fields'
import { MACHINES, Tabs } from '../ui/Tabs'

type Line = Schemas['SightingLine']
const LOOKS = { worked: 'text-seats', worked_after: 'text-held', did_not: 'text-refused' } as const

/** What worked and what did not: own outcomes, and what others report. */
export function SightingTable({ lines, wide }: { lines: readonly Line[]; wide?: boolean }) {
  const cache = useQueryClient()
  const forget = async (id: number) => {
    await answer(client.DELETE('/api/sightings/{id}', { params: { path: { id } } }))
    await cache.invalidateQueries()
  }
  if (!lines.length) return <p className="text-ink-2">Nothing yet. What works or fails at Prove is kept here.</p>
  return (
    <table className="w-full">
      <tbody>
        {lines.map((l) => (
          <tr key={l.id} data-row tabIndex={0} className="border-hair border-t align-top first:border-t-0">
            {wide && <td className="py-1 pr-2">{l.title}</td>}
            <td className="py-1 pr-2">
              <span className="font-semibold">{l.sighting.part_name || l.sighting.part}</span>{' '}
              <span className="text-ink-2">in {l.slot_name}</span>
            </td>
            <td className={`py-1 pr-2 ${LOOKS[l.sighting.outcome]}`}>{l.says}</td>
            <td className="text-ink-2 py-1 pr-2 text-[12.5px]">
              {l.sighting.note} {l.sighting.date} {l.sighting.job && `job ${l.sighting.job}`}
            </td>
            <td className="py-1 text-right">
              <Button kind="quiet" onClick={() => void forget(l.id)}>
                take back
              </Button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

const EMPTY = {
  slot: '',
  part: '',
  outcome: 'worked',
  firmware: '',
  after: '',
  note: '',
  hearsay: false,
  who: '',
  where: '',
}

/** Record an outcome by hand; hearsay says who and where. */
export function SightingForm({
  machine,
  configuration,
  slots,
}: {
  machine: string
  configuration: string
  slots: readonly Schemas['SlotView'][]
}) {
  const cache = useQueryClient()
  const [open, setOpen] = useState(false)
  const [form, setForm] = useState({ ...EMPTY, slot: slots[0]?.id ?? '' })
  const [error, setError] = useState<Error | null>(null)
  if (!open)
    return (
      <Button className="mt-2" onClick={() => setOpen(true)}>
        Record an outcome
      </Button>
    )
  const send = async () => {
    try {
      const outcome = form.outcome as Schemas['Sighting']['outcome']
      await answer(
        client.POST('/api/sightings', {
          body: {
            machine,
            configuration,
            ...form,
            outcome,
            part_name: '',
            date: '',
            job: null,
            proves: {},
            cause: 'unknown',
            accessories: [],
            showed: [],
          },
        }),
      )
      await cache.invalidateQueries()
      setForm({ ...EMPTY, slot: form.slot })
      setOpen(false)
    } catch (e) {
      setError(e as Error)
    }
  }
  const text = (name: 'part' | 'firmware' | 'after' | 'note' | 'who' | 'where', label: string) => (
    <Words label={label} value={form[name]} onChange={(t) => setForm({ ...form, [name]: t })} />
  )
  return (
    <form
      className="border-hair mt-2 grid grid-cols-3 gap-2 border-t pt-2"
      onSubmit={(e) => {
        e.preventDefault()
        void send()
      }}
    >
      <div className="col-span-3">
        <ErrorNote error={error} />
      </div>
      <Labelled label="Slot">
        {(id) => (
          <select
            id={id}
            className="w-full"
            value={form.slot}
            onChange={(e) => setForm({ ...form, slot: e.target.value })}
          >
            {slots.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        )}
      </Labelled>
      {text('part', 'Part number')}
      <Labelled label="Outcome">
        {(id) => (
          <select
            id={id}
            className="w-full"
            value={form.outcome}
            onChange={(e) => setForm({ ...form, outcome: e.target.value })}
          >
            <option value="worked">worked</option>
            <option value="did_not">did not work</option>
            <option value="worked_after">worked after …</option>
          </select>
        )}
      </Labelled>
      {text('firmware', 'Firmware')}
      {form.outcome === 'worked_after' ? text('after', 'After what') : <span />}
      {text('note', 'Note')}
      <label className="flex items-center gap-2 self-end">
        <input
          type="checkbox"
          checked={form.hearsay}
          onChange={(e) => setForm({ ...form, hearsay: e.target.checked })}
        />
        others report it
      </label>
      {form.hearsay ? text('who', 'Who says so') : <span />}
      {form.hearsay ? text('where', 'Where') : <span />}
      <div className="col-span-3">
        <Button type="submit" disabled={!form.part.trim()}>
          Keep
        </Button>
        <Button kind="quiet" onClick={() => setOpen(false)}>
          Leave
        </Button>
      </div>
    </form>
  )
}

export function SightingsPage() {
  const { data, error } = useQuery({ queryKey: ['sightings'], queryFn: () => answer(client.GET('/api/sightings')) })
  return (
    <main className="flex-1 overflow-y-auto px-6 py-4">
      <div className="mx-auto max-w-[1100px]">
        <Tabs label="The library of machines" tabs={MACHINES} />
        <Heading title="Sightings">What worked and what did not, in which configuration, under which firmware.</Heading>
        <ErrorNote error={error} />
        <div className="card p-3">{data && <SightingTable lines={data} wide />}</div>
      </div>
    </main>
  )
}
