import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, type Schemas } from '../api/client'
import { Button } from '../ui/basics'
import { ENDS, titled } from './supplier-list'

type Ended = Schemas['Ended']
type Props = { ends: readonly Ended[]; onAnswer: (why: string, cells: Record<string, string>) => void }
/** Rows shown of a group before somebody asks for the rest. */
const SHOWN = 12

/** Every row of a list, by how it ends and why; what is asked of many rows for one reason is answered once. */
export function Rows({ ends, onAnswer }: Props) {
  const [only, setOnly] = useState('')
  const outcomes = Object.fromEntries(
    ENDS.map(([end]) => [end, ends.filter((e) => e.outcome === end).reduce((n, e) => n + e.rows.length, 0)]),
  )
  if (!ends.length) return null
  return (
    <section aria-label="Rows of the list">
      <div className="mb-1 flex flex-wrap items-center gap-2">
        <span>Show</span>
        {[['', 'all'] as const, ...ENDS.filter(([end]) => outcomes[end])].map(([end, words]) => (
          <button
            key={end}
            type="button"
            aria-pressed={only === end}
            className={`border-hair rounded border px-2 py-0.5 ${only === end ? 'bg-gold-soft font-semibold' : ''}`}
            onClick={() => setOnly(end)}
          >
            {words} {end ? outcomes[end] : ends.reduce((n, e) => n + e.rows.length, 0)}
          </button>
        ))}
      </div>
      <ul className="border-hair max-h-72 overflow-y-auto border-t">
        {ends
          .filter((e) => !only || e.outcome === only)
          .map((e) => (
            <Group key={`${e.outcome} ${e.reason}`} ended={e} onAnswer={onAnswer} />
          ))}
      </ul>
    </section>
  )
}

function Group({ ended, onAnswer }: { ended: Ended; onAnswer: Props['onAnswer'] }) {
  const [all, setAll] = useState(false)
  const [answering, setAnswering] = useState(false)
  const shown = all ? ended.rows : ended.rows.slice(0, SHOWN)
  return (
    <li className="border-hair border-b py-1">
      <div className="flex items-baseline gap-2">
        <span className="font-semibold">{titled(ended)}</span>
        {ended.outcome === 'asked' && ended.answerable && (
          <Button kind="quiet" className="py-0" onClick={() => setAnswering(!answering)}>
            {answering ? 'Leave' : ended.rows.length > 1 ? `Answer for all ${ended.rows.length}` : 'Answer'}
          </Button>
        )}
      </div>
      {answering && <Answer onAnswer={(cells) => onAnswer(ended.reason, cells)} />}
      <div className="text-ink-2">
        {shown.map(([line, number], i) => (
          <span key={i} className="mr-3 inline-block">
            row {line} <span className="num text-ink">{number}</span>
          </span>
        ))}
        {ended.rows.length > shown.length && (
          <button type="button" className="underline" onClick={() => setAll(true)}>
            {ended.rows.length - shown.length} more
          </button>
        )}
      </div>
    </li>
  )
}

/** What the rows of one group are: the kind of part, and what is the same of all of them. Empty stays as the title says. */
function Answer({ onAnswer }: { onAnswer: (cells: Record<string, string>) => void }) {
  const { data: kinds } = useQuery({ queryKey: ['part form'], queryFn: () => answer(client.GET('/api/parts/form')) })
  const [cells, setCells] = useState<Record<string, string>>({})
  const fields = kinds?.[cells['kind'] ?? ''] ?? []
  const set = (name: string, value: string) => setCells({ ...cells, [name]: value })
  const said = Object.fromEntries(Object.entries(cells).filter(([, v]) => v.trim()))
  return (
    <form
      className="my-1 flex flex-wrap items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        onAnswer(said)
      }}
    >
      <label>
        <span className="block">They are</span>
        <select value={cells['kind'] ?? ''} onChange={(e) => setCells({ kind: e.target.value })}>
          <option value="">as the titles say</option>
          {Object.keys(kinds ?? {}).map((k) => (
            <option key={k} value={k}>
              {k.replaceAll('_', ' ')}
            </option>
          ))}
        </select>
      </label>
      {fields.map((f) => (
        <label key={f.name}>
          <span className="block">
            {f.label} {f.unit}
          </span>
          <input
            className="num w-24"
            list={f.options?.length ? `of-${f.name}` : undefined}
            value={cells[f.name] ?? ''}
            onChange={(e) => set(f.name, e.target.value)}
          />
          {!!f.options?.length && (
            <datalist id={`of-${f.name}`}>
              {f.options.map((o) => (
                <option key={o} value={o} />
              ))}
            </datalist>
          )}
        </label>
      ))}
      <Button type="submit" kind="main" className="py-0.5" disabled={!Object.keys(said).length}>
        Take them so
      </Button>
    </form>
  )
}
