import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client } from '../api/client'
import { Button, ErrorNote } from '../ui/basics'
import { moment } from '../words'

/** Keys another program asks with: made here, shown once, taken back at any time. */
export function AskKeys() {
  const cache = useQueryClient()
  const [name, setName] = useState('')
  const { data, error } = useQuery({
    queryKey: ['ask keys'],
    queryFn: () => answer(client.GET('/api/workshop/keys')),
  })
  const anew = () => cache.invalidateQueries({ queryKey: ['ask keys'] })
  const make = useMutation({
    mutationFn: () => answer(client.POST('/api/workshop/keys', { body: { name } })),
    onSuccess: () => {
      setName('')
      return anew()
    },
  })
  const takeBack = useMutation({
    mutationFn: (id: number) => answer(client.DELETE('/api/workshop/keys/{id}', { params: { path: { id } } })),
    onSuccess: anew,
  })
  return (
    <section className="card mt-4 p-3" aria-label="Keys for questions">
      <h2 className="mb-1">Keys for questions</h2>
      <p className="mb-2">
        The workshop’s own web page or script asks <span className="num">/api/ask?text=…</span> with one, as{' '}
        <span className="num">Authorization: Bearer</span>. It reads answers, and nothing else of the house.
      </p>
      <ErrorNote error={error ?? make.error ?? takeBack.error} />
      <form
        className="flex flex-wrap items-center gap-2"
        onSubmit={(e) => {
          e.preventDefault()
          make.mutate()
        }}
      >
        <input
          aria-label="What will ask with it"
          placeholder="the workshop's page"
          maxLength={60}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <Button type="submit" disabled={make.isPending || !name.trim()}>
          Make a key
        </Button>
      </form>
      {make.data && (
        <p role="status" className="mt-2">
          The key of {make.data.name}, shown this once: <span className="num select-all">{make.data.key}</span>
        </p>
      )}
      <ul className="mt-2">
        {data?.map((k) => (
          <li key={k.id} className="border-hair flex flex-wrap items-center gap-3 border-t py-1">
            <span className={k.taken_back_at ? 'text-ink-2 line-through' : 'font-semibold'}>{k.name}</span>
            <span className="text-ink-2">
              made by {k.made_by || 'somebody'} {moment(k.made_at)}
              {k.taken_back_at && `, taken back ${moment(k.taken_back_at)}`}
            </span>
            {!k.taken_back_at && (
              <Button kind="quiet" aria-label={`Take back the key of ${k.name}`} onClick={() => takeBack.mutate(k.id)}>
                take back
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}
