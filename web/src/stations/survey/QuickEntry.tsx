import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, type Schemas } from '../../api/client'
import { useAct, useJobNumber } from '../../api/job'
import { Button, ErrorNote } from '../../ui/basics'
import { pieces } from '../../words'

/** Type or scan the label of what is fitted: the catalogue's part, or a new one with what the label proves. */
export function QuickEntry({ slot }: { slot: Schemas['SlotView'] }) {
  const number = useJobNumber()
  const [text, setText] = useState('')
  const [own, setOwn] = useState('')
  const cache = useQueryClient()
  const recognise = (said: string) => ({
    queryKey: ['job', number, 'recognise', slot.id, said],
    queryFn: () =>
      answer(
        client.POST('/api/jobs/{number}/survey/recognise', {
          params: { path: { number } },
          body: { slot: slot.id, text: said },
        }),
      ),
  })
  const { data } = useQuery({
    ...recognise(text),
    enabled: text.trim().length > 2,
    placeholderData: (previous) => previous,
  })
  const name = useAct<string>((n, part) =>
    answer(
      client.POST('/api/jobs/{number}/survey/fitted', {
        params: { path: { number: n } },
        body: { slot: slot.id, number: part, state: 'found' },
      }),
    ),
  )
  const add = useAct<Record<string, unknown>>((n, offered) =>
    answer(
      client.POST('/api/jobs/{number}/survey/new-part', {
        params: { path: { number: n } },
        body: { slot: slot.id, number: String(offered['number'] ?? own.trim()), offered },
      }),
    ),
  )
  const numbered = !!data?.offered?.['number'] || !!own.trim()
  const known = text.trim().length > 2 ? data : undefined
  const done = {
    onSuccess: () => {
      setText('')
      setOwn('')
    },
  }
  // A scanner sends Enter at once: what it sent is asked for, whatever has been answered meanwhile.
  const take = async (said: string) => {
    if (said.trim().length < 3) return
    const found = await cache.fetchQuery({ ...recognise(said), staleTime: 5000 }).catch(() => undefined)
    if (found?.known[0]) name.mutate(found.known[0], done)
    else if (found?.offered && (found.offered['number'] || own.trim())) add.mutate(found.offered, done)
  }
  return (
    <form
      className="card mt-3 p-3"
      onSubmit={(e) => {
        e.preventDefault()
        void take(text)
      }}
    >
      <label className="font-medium">
        Label of what is in {slot.name}
        <span className="text-ink-2 ml-1.5 text-[12.5px] font-normal">type or scan, enter takes the first</span>
        <input
          data-scan
          className="num mt-0.5 w-full"
          placeholder="part number, 16GB 2Rx8 PC4-3200AA…, 1TB NVMe 2280-S3-M"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
      </label>
      <ErrorNote error={name.error ?? add.error} />
      {known && (
        <div className="mt-1.5 space-y-1">
          {known.known.map((n) => (
            <Button key={n} className="mr-1.5" onClick={() => name.mutate(n, done)}>
              <span className="num">{n}</span>
            </Button>
          ))}
          {known.offered && (
            <p>
              Read as a {known.decoded}: <span className="font-semibold">{String(known.offered['name'])}</span>.{' '}
              {!!known.missing?.length && <span className="text-measure">Not on it: {pieces(known.missing)}. </span>}
              {!known.offered['number'] && (
                <input
                  aria-label="Its own number"
                  placeholder="its own number"
                  className="num mr-1.5 w-40"
                  value={own}
                  onChange={(e) => setOwn(e.target.value)}
                />
              )}
              <Button disabled={!numbered} onClick={() => add.mutate(known.offered!, done)}>
                Take it in as a new part
              </Button>
            </p>
          )}
          {known.problem && <p className="text-ink-2">{known.problem}</p>}
        </div>
      )}
    </form>
  )
}
