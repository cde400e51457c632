import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, isConflict, type Schemas } from '../api/client'
import { Button, ErrorNote } from '../ui/basics'
import { Labelled, Words } from '../ui/fields'
import { partWord } from '../words'

type Cells = Record<string, string>
type Props = {
  fields: readonly Schemas['PartField'][]
  /** What stays as it is, where only some of a part is asked for. */
  others?: readonly Schemas['PartField'][]
  start: Cells
  isNew?: boolean
  onDone: () => void
}

/** A part typed as its label or data sheet has it; what stays empty is unknown. */
export function PartForm({ fields, others = [], start, isNew = false, onDone }: Props) {
  const cache = useQueryClient()
  const [cells, setCells] = useState(start)
  const save = useMutation({
    mutationFn: (mine: boolean) => {
      const typed = ['kind', 'number', 'maker', 'name', ...[...fields, ...others].map((f) => f.name)]
      const of = (from: Cells) => Object.fromEntries(typed.map((n) => [n, from[n] ?? '']))
      const body = { cells: of(cells), base: isNew || mine ? null : of(start), new: isNew }
      return answer(client.PUT('/api/parts/saved', { body }))
    },
    onSuccess: async () => {
      await cache.invalidateQueries()
      onDone()
    },
  })
  const set = (name: string, value: string) => setCells({ ...cells, [name]: value })
  return (
    <form
      className="space-y-2"
      aria-label={isNew ? 'A new part' : `Correct ${start['number']}`}
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate(false)
      }}
    >
      <div className="grid grid-cols-2 gap-x-3 gap-y-2">
        {isNew && <Words label="Part number" value={cells['number'] ?? ''} onChange={(t) => set('number', t)} />}
        {!others.length && (
          <>
            <Words label="Name" value={cells['name'] ?? ''} onChange={(t) => set('name', t)} />
            <Words label="Maker" value={cells['maker'] ?? ''} onChange={(t) => set('maker', t)} />
          </>
        )}
        {fields.map((f) => (
          <Labelled key={f.name} label={f.label} hint={f.unit}>
            {(id) =>
              f.options?.length ? (
                <select
                  id={id}
                  className="w-full"
                  value={cells[f.name] ?? ''}
                  onChange={(e) => set(f.name, e.target.value)}
                >
                  <option value="">unknown</option>
                  {f.options.map((o) => (
                    <option key={o} value={o}>
                      {o.replaceAll('_', ' ')}
                    </option>
                  ))}
                </select>
              ) : (
                <input
                  id={id}
                  className="num w-full"
                  value={cells[f.name] ?? ''}
                  onChange={(e) => set(f.name, e.target.value)}
                />
              )
            }
          </Labelled>
        ))}
      </div>
      <ErrorNote error={save.error} labels={Object.fromEntries(fields.map((f) => [f.name, f.label]))} />
      {isConflict(save.error) && <Button onClick={() => save.mutate(true)}>Keep mine all the same</Button>}
      <Button type="submit" kind="main" disabled={save.isPending || !(cells['number'] ?? '').trim()}>
        {isNew ? 'Take it in' : 'Keep it'}
      </Button>{' '}
      <Button kind="quiet" onClick={onDone}>
        Leave
      </Button>
    </form>
  )
}

/** Any kind of part, typed by hand. */
export function TypedPart({ onDone }: { onDone: () => void }) {
  const [kind, setKind] = useState('radio')
  const { data, error } = useQuery({
    queryKey: ['part form'],
    queryFn: () => answer(client.GET('/api/parts/form')),
    staleTime: Infinity,
  })
  if (!data) return <ErrorNote error={error} />
  return (
    <section className="card mb-2 space-y-2 p-3">
      <label className="flex items-center gap-2">
        Kind of part
        <select value={kind} onChange={(e) => setKind(e.target.value)}>
          {Object.keys(data).map((k) => (
            <option key={k} value={k}>
              {partWord(k)}
            </option>
          ))}
        </select>
      </label>
      <PartForm key={kind} isNew fields={data[kind] ?? []} start={{ kind }} onDone={onDone} />
    </section>
  )
}
