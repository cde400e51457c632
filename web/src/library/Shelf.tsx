import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, type Schemas } from '../api/client'
import { Button, ErrorNote, Heading } from '../ui/basics'
import { day, sign } from '../words'
import { FigureInput } from '../ui/figure'
import { PARTS, Tabs } from '../ui/Tabs'

type View = Schemas['ShelfView']

/** Parts taken out: where from, in what condition, and what became of the data on a drive. */
export function Shelf() {
  const cache = useQueryClient()
  const { data, error } = useQuery({ queryKey: ['shelf'], queryFn: () => answer(client.GET('/api/shelf')) })
  const [form, setForm] = useState({ number: '', origin: '', condition: 'untested' })
  const [problem, setProblem] = useState<Error | null>(null)
  const done = async (call: Promise<View>) => {
    try {
      cache.setQueryData(['shelf'], await call)
      setProblem(null)
      await cache.invalidateQueries()
      return true
    } catch (e) {
      setProblem(e as Error)
      return false
    }
  }
  return (
    <main className="flex-1 overflow-y-auto px-6 py-4">
      <div className="mx-auto max-w-[1100px]">
        <Tabs label="The catalogue" tabs={PARTS} />
        <Heading title="The shelf of parts taken out">
          A drive taken out holds somebody’s data: returned, or erased and recorded, before any credit.
        </Heading>
        <ErrorNote error={error ?? problem} />
        <form
          className="card mb-3 flex items-end gap-2 p-3"
          onSubmit={(e) => {
            e.preventDefault()
            void done(answer(client.POST('/api/shelf', { body: { ...form, note: '' } }))).then(
              (ok) => ok && setForm({ ...form, number: '', origin: '' }),
            )
          }}
        >
          <label className="flex-1">
            Part number
            <input
              className="num block h-[30px] w-full"
              value={form.number}
              onChange={(e) => setForm({ ...form, number: e.target.value })}
            />
          </label>
          <label className="flex-1">
            Where it came from
            <input
              className="block h-[30px] w-full"
              value={form.origin}
              onChange={(e) => setForm({ ...form, origin: e.target.value })}
            />
          </label>
          <label>
            Condition
            <select
              className="block h-[30px]"
              value={form.condition}
              onChange={(e) => setForm({ ...form, condition: e.target.value })}
            >
              {data?.conditions.map((c) => (
                <option key={c}>{c}</option>
              ))}
            </select>
          </label>
          <Button type="submit" disabled={!form.number.trim()}>
            Put it on the shelf
          </Button>
        </form>
        {data && !data.parts.length && (
          <p className="text-ink-2">Nothing lies here. Put a part on it above, or at Hand over.</p>
        )}
        {data?.parts.map((p) => (
          <Lying key={p.id} part={p} view={data} onChange={(call) => void done(call)} />
        ))}
      </div>
    </main>
  )
}

function Lying({
  part,
  view,
  onChange,
}: {
  part: Schemas['OnShelf']
  view: View
  onChange: (call: Promise<View>) => void
}) {
  const [note, setNote] = useState(part.erased_note)
  const send = (change: Partial<Schemas['OnShelfChange']>) => {
    const { condition, erased, state, note: said, price_minor } = part
    const body = { condition, erased, erased_note: note, state, note: said, price_minor, ...change }
    onChange(answer(client.POST('/api/shelf/{id}', { params: { path: { id: part.id } }, body })))
  }
  const choice = (name: 'condition' | 'erased' | 'state', label: string, options: readonly string[]) => (
    <select
      aria-label={`${part.number}: ${label}`}
      value={part[name]}
      onChange={(e) => send({ [name]: e.target.value })}
    >
      {options.map((o) => (
        <option key={o}>{o}</option>
      ))}
    </select>
  )
  const drive = part.erased !== 'no data'
  return (
    <div data-row tabIndex={0} className="card mb-1.5 flex flex-wrap items-center gap-3 px-3 py-2">
      <div className="min-w-40 flex-1">
        <div className="truncate font-semibold">{part.name}</div>
        <div className="text-ink-2 truncate text-[12.5px]">
          <span className="num">{part.number}</span> · {part.origin || 'origin not said'} · {day(part.at)} {part.note}
        </div>
      </div>
      <label className="flex items-center gap-1 whitespace-nowrap">
        {sign()}
        <FigureInput
          aria-label={`${part.number}: price`}
          placeholder="no price"
          className="w-20"
          late
          scale={100}
          value={part.price_minor}
          onFigure={(price_minor) => send({ price_minor })}
        />
      </label>
      {choice('condition', 'condition', view.conditions)}
      {drive && (
        <>
          <input
            aria-label={`${part.number}: how it was erased`}
            placeholder="how erased, by whom"
            className="w-44"
            value={note}
            onChange={(e) => setNote(e.target.value)}
            onBlur={() => note !== part.erased_note && send({ erased_note: note })}
          />
          {choice('erased', 'data', view.erased)}
        </>
      )}
      {choice('state', 'state', view.states)}
    </div>
  )
}
