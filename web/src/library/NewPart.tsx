import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client } from '../api/client'
import { Button, ErrorNote } from '../ui/basics'
import { Labelled, Words } from '../ui/fields'
import { pieces, sign } from '../words'
import { figureOf, figureProblem, FigureText } from '../ui/figure'

/** A part from its label, decoded as it is typed. */
export function NewPart({ onDone }: { onDone: () => void }) {
  const cache = useQueryClient()
  const [text, setText] = useState('')
  const [form, setForm] = useState({ number: '', name: '', maker: '', shop: '', price: '' })
  const [error, setError] = useState<Error | null>(null)
  const { data } = useQuery({
    queryKey: ['decode', text],
    queryFn: () => answer(client.GET('/api/parts/decode', { params: { query: { text } } })),
    enabled: text.trim().length > 2,
    placeholderData: (previous) => previous,
  })
  const offered = data?.offered as Record<string, unknown> | null | undefined
  const keep = async () => {
    if (!offered) return
    const price = figureOf(form.price)
    const offers = form.shop && price !== null ? [{ shop: form.shop, price_minor: Math.round(price * 100) }] : []
    const name = form.name || String(offered['name'])
    try {
      const part = { ...offered, number: form.number, name, maker: form.maker, offers }
      await answer(client.POST('/api/parts/new', { body: { part } }))
      await cache.invalidateQueries()
      onDone()
    } catch (e) {
      setError(e as Error)
    }
  }
  const field = (name: keyof typeof form, label: string, hint = '') => (
    <Words label={label} hint={hint} value={form[name]} onChange={(t) => setForm({ ...form, [name]: t })} />
  )
  return (
    <form
      className="card mb-2 space-y-2 p-3"
      onSubmit={(e) => {
        e.preventDefault()
        void keep()
      }}
    >
      <ErrorNote error={error} />
      <Labelled label="What the label says" hint="decoded as you type">
        {(id) => (
          <input
            id={id}
            autoFocus
            className="num w-full"
            placeholder="16GB 2Rx8 PC4-3200AA-SE1-11"
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
        )}
      </Labelled>
      {!!data?.known.length && <p>In the catalogue already: {data.known.join(', ')}.</p>}
      {data?.problem && <p className="text-ink-2">{data.problem}</p>}
      {offered && (
        <>
          <p>
            {data?.decoded} proves:{' '}
            <span className="num">
              {Object.entries(offered)
                .filter(([k]) => !['number', 'name', 'kind'].includes(k))
                .map(([k, v]) => `${k.replaceAll('_', ' ')} ${String(v)}`)
                .join(', ')}
            </span>
            {!!data?.missing?.length && <span className="text-measure"> Unknown: {pieces(data.missing)}.</span>}
          </p>
          <div className="grid grid-cols-5 gap-2">
            {field('number', 'Part number')}
            {field('name', 'Name', String(offered['name']))}
            {field('maker', 'Maker')}
            {field('shop', 'Offered by')}
            <FigureText
              label="Price"
              hint={sign()}
              value={form.price}
              onChange={(price) => setForm({ ...form, price })}
            />
          </div>
        </>
      )}
      <Button type="submit" kind="main" disabled={!offered || !form.number.trim() || !!figureProblem(form.price)}>
        Take it in
      </Button>
      <Button kind="quiet" onClick={onDone}>
        Leave
      </Button>
    </form>
  )
}
