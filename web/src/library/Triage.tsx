import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, isConflict, upload, type Schemas } from '../api/client'
import { Seen } from '../machine/Tried'
import { Button, ErrorNote, FileDrop, Heading, Tag } from '../ui/basics'
import { Labelled } from '../ui/fields'
import { FigureInput } from '../ui/figure'
import { May } from '../shell/May'
import { lowered, partWord, vocabulary } from '../words'
import { WorkshopTabs } from '../workshop/WorkshopPage'

type Complaint = Schemas['Complaint']
type Part = NonNullable<Complaint['then']>[number]

/** What triage may send somebody to look at: whatever goes into a slot, and a few things besides. */
const partIds = () =>
  [...vocabulary().kinds.filter((k) => k.slots.length), ...vocabulary().other_parts].map((p) => p.id as Part)

/** The workshop's own triage list: complaints, free causes with their tests, parts last. */
export function TriagePage() {
  const cache = useQueryClient()
  const { data, error } = useQuery({ queryKey: ['triage'], queryFn: () => answer(client.GET('/api/triage')) })
  const [editing, setEditing] = useState<Complaint | null>(null)
  const [problem, setProblem] = useState<Error | null>(null)
  const done = async (call: Promise<Schemas['TriageView']>) => {
    try {
      cache.setQueryData(['triage'], await call)
      await cache.invalidateQueries({ queryKey: ['job'] })
      setEditing(null)
      setProblem(null)
    } catch (e) {
      setProblem(e as Error)
    }
  }
  const complaints = data?.triage.complaints ?? []
  const blank = { id: 'new', name: '', causes: [{ id: 'new.1', cause: '', test: '', cure: '' }], then: [], weights: {} }
  return (
    <main className="flex-1 overflow-y-auto px-6 py-4">
      <div className="mx-auto max-w-[1100px]">
        <WorkshopTabs />
        <Heading title="Complaints and their free causes">
          {complaints.length} complaints · <a href="/api/triage/file">export</a>
        </Heading>
        <ErrorNote error={error ?? problem} />
        <div className="mb-3 flex gap-3">
          <May role="library" does="The list is kept by">
            <Button onClick={() => setEditing(blank)}>New complaint</Button>
          </May>
          <May role="library">
            <FileDrop
              label="Import a list"
              accept=".json"
              onFile={(f) => void done(upload<Schemas['TriageView']>('/api/triage/import', f, f.name))}
            />
          </May>
        </div>
        {editing && data && (
          <Editor
            key={editing.id}
            complaint={editing}
            needs={data.needs}
            cures={data.cures}
            onLeave={() => setEditing(null)}
            onSave={(complaint) =>
              void done(
                answer(
                  client.PUT('/api/triage/complaints', {
                    body: {
                      complaint,
                      base: editing.id === 'new' || isConflict(problem) ? null : editing,
                    },
                  }),
                ),
              )
            }
          />
        )}
        {complaints.map((c) => (
          <section key={c.id} data-row tabIndex={0} className="card mb-2 p-3">
            <div className="flex items-baseline justify-between gap-3">
              <h2>{c.name}</h2>
              <span className="flex items-baseline gap-2">
                {(c.then ?? []).map((p) => (
                  <Tag key={p}>{partWord(p)}</Tag>
                ))}
                <May role="library">
                  <Button kind="quiet" onClick={() => setEditing(c)}>
                    edit
                  </Button>
                </May>
                <May role="owner">
                  <Button
                    kind="quiet"
                    onClick={() =>
                      void done(
                        answer(client.DELETE('/api/triage/complaints/{slug}', { params: { path: { slug: c.id } } })),
                      )
                    }
                  >
                    remove
                  </Button>
                </May>
              </span>
            </div>
            <table className="w-full">
              <tbody>
                {c.causes.map((x) => (
                  <tr key={x.id} className="border-hair border-t align-top first:border-t-0">
                    <td className="w-[34%] py-1 pr-3 font-medium">
                      {x.cause}
                      <Seen tried={data?.tried[x.id]} />
                    </td>
                    <td className="py-1">
                      {x.test}
                      {x.cure && <span className="text-ink-2"> Mended by: {lowered(data?.cures[x.cure] ?? '')}.</span>}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        ))}
      </div>
    </main>
  )
}

function Editor({
  complaint,
  needs,
  cures,
  onSave,
  onLeave,
}: {
  complaint: Complaint
  needs: Record<string, string>
  cures: Record<string, string>
  onSave: (complaint: Complaint) => void
  onLeave: () => void
}) {
  const [c, setC] = useState(complaint)
  const fresh = complaint.id === 'new'
  const numbered = (id: string, causes: Complaint['causes']) => causes.map((x, i) => ({ ...x, id: `${id}.${i + 1}` }))
  const rename = (name: string) => {
    const id = fresh
      ? name
          .toLowerCase()
          .replace(/[^a-z0-9]+/g, '_')
          .replace(/^_|_$/g, '')
          .slice(0, 40) || 'new'
      : c.id
    setC({ ...c, name, id, causes: numbered(id, c.causes) })
  }
  const cause = (i: number, change: Partial<Complaint['causes'][number]>) =>
    setC({ ...c, causes: c.causes.map((x, n) => (n === i ? { ...x, ...change } : x)) })
  return (
    <form
      className="card border-gold mb-3 space-y-2 p-3"
      onSubmit={(e) => {
        e.preventDefault()
        onSave(c)
      }}
    >
      <Labelled label="What the customer says">
        {(id) => <input id={id} autoFocus className="w-full" value={c.name} onChange={(e) => rename(e.target.value)} />}
      </Labelled>
      {c.causes.map((x, i) => (
        <div key={x.id} className="grid grid-cols-[1fr_1.600fr_170px_auto] gap-2">
          <input
            aria-label={`Free cause ${i + 1}`}
            placeholder="free cause"
            value={x.cause}
            onChange={(e) => cause(i, { cause: e.target.value })}
          />
          <input
            aria-label={`Test ${i + 1}`}
            placeholder="the test that tells"
            value={x.test}
            onChange={(e) => cause(i, { test: e.target.value })}
          />
          <select
            aria-label={`What mends cause ${i + 1}`}
            value={x.cure ?? ''}
            onChange={(e) => cause(i, { cure: e.target.value })}
          >
            <option value="">mends for nothing</option>
            {Object.entries(cures).map(([id, name]) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
          <Button
            kind="quiet"
            disabled={c.causes.length === 1}
            onClick={() =>
              setC({
                ...c,
                causes: numbered(
                  c.id,
                  c.causes.filter((_, n) => n !== i),
                ),
              })
            }
          >
            remove
          </Button>
        </div>
      ))}
      <Button
        onClick={() => setC({ ...c, causes: numbered(c.id, [...c.causes, { id: '', cause: '', test: '', cure: '' }]) })}
      >
        One more cause
      </Button>
      <fieldset className="flex flex-wrap gap-3">
        <legend className="font-medium">Only then a part</legend>
        {partIds().map((p) => (
          <label key={p} className="flex items-center gap-1">
            <input
              type="checkbox"
              checked={c.then?.includes(p) ?? false}
              onChange={(e) =>
                setC({ ...c, then: e.target.checked ? [...(c.then ?? []), p] : (c.then ?? []).filter((x) => x !== p) })
              }
            />
            {partWord(p)}
          </label>
        ))}
      </fieldset>
      <fieldset className="grid grid-cols-6 gap-2">
        <legend className="font-medium">What it adds to the weight of each need</legend>
        {Object.entries(needs).map(([kind, label]) => (
          <Labelled key={kind} label={label}>
            {(id) => (
              <FigureInput
                id={id}
                className="w-full"
                value={(c.weights as Record<string, number> | undefined)?.[kind]}
                onFigure={(value) => {
                  const weights = { ...(c.weights as Record<string, number>) }
                  if (value !== null) weights[kind] = value
                  else delete weights[kind]
                  setC({ ...c, weights })
                }}
              />
            )}
          </Labelled>
        ))}
      </fieldset>
      <Button type="submit" kind="main">
        Keep
      </Button>
      <Button kind="quiet" onClick={onLeave}>
        Leave
      </Button>
    </form>
  )
}
