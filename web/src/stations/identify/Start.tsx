import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { answer, client, type Schemas } from '../../api/client'
import { useAct, useJobNumber } from '../../api/job'
import { Button, ErrorNote } from '../../ui/basics'
import { Labelled } from '../../ui/fields'
import { vocabulary } from '../../words'

type Mark = Schemas['Mark']

/** What a text on a label may be: the processor has a field of its own. */
const markKinds = () => vocabulary().marks.filter((m) => m.id !== 'processor')

/** A machine the library lacks is started here: the job goes on at once, the library has it as a draft. */
export function Start({ stamp, read }: { stamp: string; read: boolean }) {
  const number = useJobNumber()
  const { data, error } = useQuery({
    queryKey: ['start', number, stamp],
    queryFn: () => answer(client.GET('/api/jobs/{number}/identify/start', { params: { path: { number } } })),
  })
  if (!data) return <ErrorNote error={error} />
  // Filled in anew when something else was read, and never over what somebody types meanwhile.
  return <Form key={JSON.stringify(data)} data={data} read={read} />
}

function Form({ data, read }: { data: Schemas['StartView']; read: boolean }) {
  const number = useJobNumber()
  const go = useNavigate()
  const [said, setSaid] = useState<Schemas['Started']>({
    maker: data.maker,
    name: data.name,
    processor: data.processor,
    marks: data.marks,
    seen: data.seen,
    of: '',
  })
  const start = useAct<Schemas['Started']>((_, body) =>
    answer(client.POST('/api/jobs/{number}/identify/start', { params: { path: { number } }, body })),
  )
  const set = (change: Partial<Schemas['Started']>) => setSaid({ ...said, ...change })
  const mark = (i: number, change: Partial<Mark> | null) =>
    set({ marks: said.marks.flatMap((m, n) => (n === i ? (change ? [{ ...m, ...change }] : []) : [m])) })
  const field = (name: 'maker' | 'name' | 'processor', label: string) => (
    <Labelled label={label}>
      {(id) => (
        <input id={id} className="w-full" value={said[name]} onChange={(e) => set({ [name]: e.target.value })} />
      )}
    </Labelled>
  )
  const shells = Object.entries(data.shells)
  return (
    <form
      className="card space-y-2 p-3"
      aria-label="Start this machine here"
      onSubmit={(e) => {
        e.preventDefault()
        start.mutate(said, { onSuccess: () => void go(`/jobs/${number}/survey`) })
      }}
    >
      <h2>Start this machine here</h2>
      <p className="text-ink-2 text-[12.5px]">
        What you leave out stays unknown and is asked when it decides something. The library has it as a draft.
      </p>
      {data.simulated && !read && (
        <p className="text-[12.5px]">
          Its reading lies beside the job:{' '}
          <a className="underline" href={`/api/jobs/${number}/simulated/survey?busy=true`}>
            the simulated laptop’s bundle
          </a>
          , to drop on the left.
        </p>
      )}
      {shells.length > 0 && (
        <Labelled label="Is it a shell the library has, with another processor?">
          {(id) => (
            <select id={id} className="w-full" value={said.of} onChange={(e) => set({ of: e.target.value })}>
              <option value="">no, a machine of its own</option>
              {shells.map(([machine, name]) => (
                <option key={machine} value={machine}>
                  another configuration of {name}
                </option>
              ))}
            </select>
          )}
        </Labelled>
      )}
      <div className="grid grid-cols-[repeat(auto-fill,minmax(min(100%,11rem),1fr))] gap-2">
        {!said.of && field('maker', 'Maker')}
        {field('name', said.of ? 'Name of this configuration' : 'Name')}
        {field('processor', 'Processor')}
      </div>
      {said.marks.map((m, i) => (
        <div key={i} className="flex items-center gap-2">
          <span className="num min-w-0 flex-1 truncate">{m.text}</span>
          <select
            aria-label={`What is ${m.text}?`}
            value={m.kind}
            onChange={(e) => mark(i, { kind: e.target.value as Mark['kind'] })}
          >
            {markKinds().map((k) => (
              <option key={k.id} value={k.id}>
                {k.says}
              </option>
            ))}
          </select>
          <Button kind="quiet" aria-label={`Leave ${m.text} out`} onClick={() => mark(i, null)}>
            leave out
          </Button>
        </div>
      ))}
      {!said.of && (
        <fieldset>
          <legend className="mb-1 text-[12.5px] font-medium">What is seen inside, as far as anybody has looked</legend>
          <div className="grid grid-cols-[repeat(auto-fill,minmax(min(100%,12rem),1fr))] gap-x-4 gap-y-1">
            {Object.entries(data.templates).map(([t, name]) => (
              <Stepper
                key={t}
                label={name}
                value={said.seen[t] ?? 0}
                onChange={(n) => set({ seen: { ...said.seen, [t]: n } })}
              />
            ))}
          </div>
        </fieldset>
      )}
      <ErrorNote error={start.error} />
      <div className="flex flex-wrap items-center gap-3">
        <Button
          kind="main"
          type="submit"
          disabled={start.isPending || (!said.of && !(said.maker.trim() && said.name.trim()))}
        >
          {start.isPending ? 'Starting' : 'Start it and go on'}
        </Button>
        <Link className="underline" to={read ? `/machines/edit?job=${number}` : '/machines/edit'}>
          in the editor instead
        </Link>
      </div>
    </form>
  )
}

function Stepper({ label, value, onChange }: { label: string; value: number; onChange: (n: number) => void }) {
  return (
    <div className="flex items-center justify-between gap-2">
      <span className="text-[12.5px]">{label}</span>
      <span className="flex items-center gap-1">
        <Button
          type="button"
          aria-label={`One ${label} less`}
          disabled={value === 0}
          onClick={() => onChange(value - 1)}
        >
          −
        </Button>
        <span className="num w-5 text-center">{value}</span>
        <Button
          type="button"
          aria-label={`One ${label} more`}
          disabled={value >= 8}
          onClick={() => onChange(value + 1)}
        >
          +
        </Button>
      </span>
    </div>
  )
}
