import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client } from '../../api/client'
import { useJobNumber } from '../../api/job'
import type { Fact } from '../../machine/Facts'
import { Button, ErrorNote } from '../../ui/basics'
import { vocabulary } from '../../words'

/** Who may say so from a job: the bench, the maker, others; what proves itself is recorded as an outcome. */
const SAYING = ['measured', 'read', 'documented', 'reported']

type Props = { fact?: Fact; attribute?: string; typed?: string; source?: string }

/** "Not what the library says": recorded against the configuration, for review. */
export function ClaimButton({ fact, attribute = fact?.attribute ?? '', typed = '', source = 'measured' }: Props) {
  const number = useJobNumber()
  const cache = useQueryClient()
  const [open, setOpen] = useState(false)
  const [form, setForm] = useState({ typed, source, note: '' })
  const [error, setError] = useState<Error | null>(null)
  if (!open)
    return (
      <Button
        kind="quiet"
        onClick={() => setOpen(true)}
        aria-label={fact ? `${fact.label}: the library is wrong` : `Record it for review: ${attribute}`}
        title="Not what the library says: record a claim for review"
      >
        {fact ? 'the library is wrong' : 'Record it for review'}
      </Button>
    )
  const send = async () => {
    try {
      await answer(
        client.POST('/api/jobs/{number}/survey/claim', { params: { path: { number } }, body: { attribute, ...form } }),
      )
      await cache.invalidateQueries({ queryKey: ['job', number, 'station'] })
      setOpen(false)
    } catch (e) {
      setError(e as Error)
    }
  }
  return (
    <form
      className="ml-auto w-52 text-left whitespace-normal"
      onSubmit={(e) => {
        e.preventDefault()
        void send()
      }}
    >
      <p className="text-ink-2 text-[12px]">Not what the library says. It goes to review for this configuration.</p>
      <ErrorNote error={error} />
      <input
        aria-label={`What it is: ${fact?.label ?? attribute}`}
        placeholder={fact?.options?.join(' or ') || `value ${fact?.unit ?? ''}`}
        className="num mb-1 w-full"
        value={form.typed}
        onChange={(e) => setForm({ ...form, typed: e.target.value })}
      />
      <select
        aria-label="Who says so"
        className="mb-1 w-full"
        value={form.source}
        onChange={(e) => setForm({ ...form, source: e.target.value })}
      >
        {vocabulary()
          .sources.filter((s) => SAYING.includes(s.id))
          .map(({ id, says: name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
      </select>
      <input
        aria-label="Note"
        placeholder="where seen"
        className="mb-1 w-full"
        value={form.note}
        onChange={(e) => setForm({ ...form, note: e.target.value })}
      />
      <Button type="submit" disabled={!form.typed}>
        Record
      </Button>
      <Button kind="quiet" onClick={() => setOpen(false)}>
        Leave
      </Button>
    </form>
  )
}
