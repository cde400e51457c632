import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { useEdit } from '../../api/job'
import { Button } from '../../ui/basics'

type Props = { usual: readonly Schemas['Usual'][]; word: Schemas['AsUsual'] | null }

/** Returnable unknowns taken as usual in one act, in the owner's name, all of them or some; nothing of size, key or voltage
 *  is among them. */
export function AsUsual({ usual, word }: Props) {
  const edit = useEdit()
  const [open, setOpen] = useState(false)
  const [owner, setOwner] = useState('')
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set())
  if (!usual.length && !word) return null
  const named = word?.only?.length ? usual.filter((u) => word.only!.includes(u.place)) : usual
  const only = left.size ? usual.filter((u) => !left.has(u.place)).map((u) => u.place) : []
  const choose = (
    <ul className="text-ink-2 text-[12.5px]">
      {usual.map((u) => (
        <li key={u.place}>
          <label className="flex items-baseline gap-1.5">
            <input
              type="checkbox"
              checked={!left.has(u.place)}
              onChange={(e) => {
                const rest = new Set(left)
                if (e.target.checked) rest.delete(u.place)
                else rest.add(u.place)
                setLeft(rest)
              }}
            />
            <span>
              {u.label}: <span className="num">{u.assumed}</span>
            </span>
          </label>
        </li>
      ))}
    </ul>
  )
  const things = (
    <ul className="text-ink-2 text-[12.5px]">
      {named.map((u) => (
        <li key={u.place}>
          {u.label}: <span className="num">{u.assumed}</span>
        </li>
      ))}
    </ul>
  )
  if (word)
    return (
      <section className="card p-3" aria-label="Taken as usual">
        <h2>Taken as usual on the word of {word.owner}</h2>
        {things}
        <p className="text-[12.5px]">
          Unproven: the old part is kept, with the right to return. Prepare asks for the owner’s word.
        </p>
        <Button kind="quiet" onClick={() => edit('/survey/as_usual', null)}>
          Take it back
        </Button>
      </section>
    )
  return (
    <section className="card p-3" aria-label="Take the usual things as usual">
      <h2>
        {usual.length} {usual.length === 1 ? 'thing' : 'things'} could be taken as usual
      </h2>
      {open ? (
        <form
          onSubmit={(e) => {
            e.preventDefault()
            edit('/survey/as_usual', { owner: owner.trim(), at: new Date().toISOString(), only })
            setOpen(false)
          }}
        >
          {choose}
          <p className="text-[12.5px]">
            At worst such a part does not work and goes back. It never covers size, key, voltage or a connector.
          </p>
          <div className="mt-1 flex gap-1">
            <input
              aria-label="The owner who says so"
              placeholder="the owner’s name"
              className="min-w-0 flex-1"
              value={owner}
              onChange={(e) => setOwner(e.target.value)}
              autoFocus
            />
            <Button type="submit" disabled={!owner.trim() || left.size === usual.length}>
              Take as usual
            </Button>
            <Button kind="quiet" onClick={() => setOpen(false)}>
              Leave
            </Button>
          </div>
        </form>
      ) : (
        <Button onClick={() => setOpen(true)}>Take them as usual, on the owner’s word …</Button>
      )}
    </section>
  )
}
