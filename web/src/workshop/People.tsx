import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, type Schemas } from '../api/client'
import { Button, ErrorNote, Heading, Note } from '../ui/basics'
import { Labelled } from '../ui/fields'
import { moment } from '../words'

type Role = Schemas['PersonView']['role']
const ROLES: [Role, string][] = [
  ['bench', 'bench: works on jobs'],
  ['library', 'library: machines, parts, claims and triage too'],
  ['owner', 'owner: prices, settings, people and removals too'],
]

/** Who may come in and what they may do. Passwords are made here and handed over once. */
export function People() {
  const cache = useQueryClient()
  const { data, error } = useQuery({ queryKey: ['people'], queryFn: () => answer(client.GET('/api/people')) })
  const [shown, setShown] = useState<Schemas['PasswordShown'] | null>(null)
  const [problem, setProblem] = useState<Error | null>(null)
  const act = async (call: () => Promise<unknown>) => {
    try {
      setProblem(null)
      const done = await call()
      if (done && typeof done === 'object' && 'password' in done) setShown(done as Schemas['PasswordShown'])
      await cache.invalidateQueries({ queryKey: ['people'] })
    } catch (e) {
      setProblem(e as Error)
    }
  }
  return (
    <>
      <Heading title="People">{data && `${data.filter((p) => p.active).length} get in`}</Heading>
      <ErrorNote error={problem ?? error} />
      {shown && (
        <Note kind="measure_first">
          Hand this over to <b>{shown.name}</b>, it is shown once: <b className="num">{shown.password}</b>{' '}
          <Button kind="quiet" onClick={() => setShown(null)}>
            handed over
          </Button>
        </Note>
      )}
      <table className="card w-full">
        <thead>
          <tr className="text-ink-2 text-left">
            {['Name', 'May', 'Last seen'].map((h) => (
              <th key={h} className="px-3 py-1.5 font-medium">
                {h}
              </th>
            ))}
            <td />
          </tr>
        </thead>
        <tbody>
          {data?.map((p) => (
            <Row key={p.name} person={p} act={act} />
          ))}
        </tbody>
      </table>
      <Add act={act} />
    </>
  )
}

type Act = (call: () => Promise<unknown>) => Promise<void>

function Row({ person: p, act }: { person: Schemas['PersonView']; act: Act }) {
  const path = { params: { path: { name: p.name } } }
  const change = (body: { role: Role; active: boolean }) =>
    act(() => answer(client.PUT('/api/people/{name}', { ...path, body })))
  return (
    <tr className={`border-hair border-t ${p.active ? '' : 'text-ink-2'}`}>
      <td className="px-3 py-1.5 font-semibold">
        {p.name}
        {p.handed_over && <span className="text-ink-2 block text-[12px] font-normal">password not changed yet</span>}
      </td>
      <td className="px-3 py-1.5">
        <select
          aria-label={`What ${p.name} may do`}
          value={p.role}
          onChange={(e) => void change({ role: e.target.value as Role, active: p.active })}
        >
          {ROLES.map(([role, words]) => (
            <option key={role} value={role}>
              {words}
            </option>
          ))}
        </select>
      </td>
      <td className="num px-3 py-1.5">{p.last_seen ? moment(p.last_seen) : 'never'}</td>
      <td className="px-3 py-1.5 text-right whitespace-nowrap max-[900px]:whitespace-normal">
        <Button kind="quiet" onClick={() => void act(() => answer(client.POST('/api/people/{name}/password', path)))}>
          new password
        </Button>
        <Button kind="quiet" onClick={() => void act(() => answer(client.DELETE('/api/people/{name}/sessions', path)))}>
          end sessions
        </Button>
        <Button kind="quiet" onClick={() => void change({ role: p.role, active: !p.active })}>
          {p.active ? 'no longer gets in' : 'gets in again'}
        </Button>
      </td>
    </tr>
  )
}

function Add({ act }: { act: Act }) {
  const [name, setName] = useState('')
  const [role, setRole] = useState<Role>('bench')
  return (
    <form
      className="card mt-3 flex flex-wrap items-end gap-3 p-3"
      onSubmit={(e) => {
        e.preventDefault()
        void act(async () => {
          const made = await answer(client.POST('/api/people', { body: { name: name.trim(), role } }))
          setName('')
          return made
        })
      }}
    >
      <Labelled label="Somebody new">
        {(id) => <input id={id} required value={name} onChange={(e) => setName(e.target.value)} />}
      </Labelled>
      <Labelled label="may">
        {(id) => (
          <select id={id} value={role} onChange={(e) => setRole(e.target.value as Role)}>
            {ROLES.map(([r, words]) => (
              <option key={r} value={r}>
                {words}
              </option>
            ))}
          </select>
        )}
      </Labelled>
      <Button type="submit">Add</Button>
    </form>
  )
}
