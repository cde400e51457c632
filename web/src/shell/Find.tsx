import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { answer, client, type Schemas } from '../api/client'

type Found = Schemas['Found']

const asked = (text: string) => ({
  queryKey: ['find', text],
  queryFn: () => answer(client.GET('/api/find', { params: { query: { text } } })),
})

/**
 * Find by label: type or scan. Enter waits for the answer to what stands in the field then, and opens the one thing it
 * can mean; of several none is opened by guess. Arrow keys walk the list.
 */
export function Find() {
  const [text, setText] = useState('')
  const [open, setOpen] = useState(false)
  const [row, setRow] = useState(-1)
  const [waits, setWaits] = useState(false)
  const field = useRef<HTMLInputElement>(null)
  const go = useNavigate()
  const cache = useQueryClient()
  const long = text.trim().length > 1 || /^\d$/.test(text.trim())
  const { data } = useQuery({ ...asked(text.trim()), enabled: long })
  const found: Found[] = data?.found ?? []
  const ask = `/ask?text=${encodeURIComponent(text.trim())}`
  const visit = (link: string) => {
    setOpen(false)
    setText('')
    setRow(-1)
    field.current?.blur()
    void go(link)
  }
  const enter = async () => {
    if (row >= 0) return visit(found[row]?.link ?? ask)
    // A scanner's Enter comes before React has drawn its letters: the field itself knows them.
    const said = field.current?.value.trim() ?? ''
    if (!said) return
    setWaits(true)
    try {
      const told = await cache.fetchQuery({ ...asked(said), staleTime: 5_000 })
      if (field.current?.value.trim() !== said) return // somebody typed on meanwhile
      const sure = told.found.find((f) => f.sure)
      if (sure) visit(sure.link)
      else setOpen(true)
    } finally {
      setWaits(false)
    }
  }
  return (
    <div className="relative min-w-0">
      <div className="border-hair bg-card flex h-[30px] w-[300px] max-w-full items-center rounded-sm border pr-1.5">
        <input
          ref={field}
          id="find"
          role="combobox"
          aria-label="Find by label"
          aria-expanded={open && long}
          aria-controls="find-list"
          aria-activedescendant={row >= 0 ? `find-${row}` : undefined}
          placeholder="Type what the label says"
          className="min-w-0 flex-1 border-0 bg-transparent"
          value={text}
          onFocus={() => setOpen(true)}
          onBlur={() => setTimeout(() => setOpen(false), 150)}
          onChange={(e) => {
            setText(e.target.value)
            setRow(-1)
            setOpen(true)
          }}
          onKeyDown={(e) => {
            if (e.key === 'Enter') void enter()
            if (e.key === 'Escape') field.current?.blur()
            if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
              e.preventDefault()
              setOpen(true)
              setRow((r) => Math.max(-1, Math.min(found.length, r + (e.key === 'ArrowDown' ? 1 : -1))))
            }
          }}
        />
        <kbd className="border-hair bg-mat text-ink-2 num rounded-sm border px-1.5">/</kbd>
      </div>
      {open && long && (data || waits) && (
        <div id="find-list" role="listbox" className="card absolute right-0 z-40 mt-1 w-[360px] max-w-[90vw] p-2">
          {waits && <p className="text-ink-2 px-2 py-1">Looking …</p>}
          {!waits &&
            found.map((f, i) => (
              <button
                key={f.kind + f.link}
                id={`find-${i}`}
                role="option"
                aria-selected={i === row}
                className={`hover:bg-mat flex w-full justify-between gap-3 rounded-sm px-2 py-1 text-left ${i === row ? 'bg-gold-soft' : ''}`}
                onMouseDown={() => visit(f.link)}
              >
                <span>
                  {f.sure && <span className="text-seats">✓ </span>}
                  {f.title}
                </span>
                <span className="text-ink-2 num">{f.detail}</span>
              </button>
            ))}
          {!waits && found.length > 1 && !found.some((f) => f.sure) && (
            <p className="text-ink-2 px-2 pt-1 text-[12px]">
              Nothing is opened by guess: choose, with the arrow keys too.
            </p>
          )}
          {!waits && (
            <button
              id={`find-${found.length}`}
              role="option"
              aria-selected={row === found.length}
              className={`hover:bg-mat border-hair mt-1 w-full border-t px-2 py-1 text-left ${row === found.length ? 'bg-gold-soft' : ''}`}
              onMouseDown={() => visit(ask)}
            >
              Ask what fits: “{text.trim()}”
            </button>
          )}
          {!waits && !found.length && (
            <p className="text-ink-2 px-2 py-1">Nothing carries this text: no part, machine or job, and no label.</p>
          )}
        </div>
      )}
    </div>
  )
}
