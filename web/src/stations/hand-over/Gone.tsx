import { useState } from 'react'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../../api/client'
import { useAct } from '../../api/job'
import { Button, ErrorNote } from '../../ui/basics'

type Fate = Schemas['Gone']['fate']
const FATES: [Fate, string][] = [
  ['returned', 'returned to the owner'],
  ['shelf', 'to the shelf'],
  ['erased', 'erased'],
]

/** What became of what was taken out; nothing else can go anywhere. */
export function Gone({
  removed,
  gone,
}: {
  removed: readonly Schemas['Event'][]
  gone: Readonly<Record<string, Schemas['Gone']>>
}) {
  const open = removed.filter((e) => !gone[e.slot ?? ''])
  if (!open.length) return null
  return (
    <section className="card mb-3 p-3">
      <h2 className="mb-1">Taken out: what becomes of it</h2>
      {open.map((e) => (
        <One key={e.slot} event={e} />
      ))}
      <p className="text-ink-2 text-[12.5px]">
        A drive is erased, and how is written, before it goes on the <Link to="/parts/shelf">shelf</Link>.
      </p>
    </section>
  )
}

function One({ event: e }: { event: Schemas['Event'] }) {
  const [fate, setFate] = useState<Fate>('returned')
  const [note, setNote] = useState('')
  const say = useAct<{ fate: Fate; note: string }>((number, body) =>
    answer(
      client.POST('/api/jobs/{number}/gone', { params: { path: { number } }, body: { slot: e.slot ?? '', ...body } }),
    ),
  )
  return (
    <form
      className="border-hair flex flex-wrap items-center gap-2 border-t py-1.5 first:border-t-0"
      onSubmit={(event) => {
        event.preventDefault()
        say.mutate({ fate, note })
      }}
    >
      <span className="min-w-48 flex-1">{e.says}</span>
      <select aria-label={`What becomes of ${e.says}`} value={fate} onChange={(x) => setFate(x.target.value as Fate)}>
        {FATES.map(([key, name]) => (
          <option key={key} value={key}>
            {name}
          </option>
        ))}
      </select>
      <input
        aria-label={`Note on ${e.says}`}
        placeholder={fate === 'returned' ? 'note' : 'how erased, by whom'}
        className="w-52"
        value={note}
        onChange={(x) => setNote(x.target.value)}
      />
      <Button type="submit" disabled={say.isPending}>
        Write it down
      </Button>
      <ErrorNote error={say.error} />
    </form>
  )
}
