import { useQuery } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { answer, client } from '../api/client'

/** Find by label: type or scan; Enter opens the first thing found. */
export function Find() {
  const [text, setText] = useState('')
  const [open, setOpen] = useState(false)
  const field = useRef<HTMLInputElement>(null)
  const go = useNavigate()
  const { data } = useQuery({
    queryKey: ['find', text],
    queryFn: () => answer(client.GET('/api/find', { params: { query: { text } } })),
    enabled: text.trim().length > 1,
  })
  const visit = (link: string) => {
    setOpen(false)
    setText('')
    field.current?.blur()
    void go(link)
  }
  return (
    <div className="relative">
      <div className="border-hair bg-card flex h-[30px] w-[300px] items-center rounded-sm border pr-1.5">
        <input
          ref={field}
          id="find"
          aria-label="Find by label"
          placeholder="Type what the label says"
          className="min-w-0 flex-1 border-0 bg-transparent"
          value={text}
          onFocus={() => setOpen(true)}
          onBlur={() => setTimeout(() => setOpen(false), 150)}
          onChange={(e) => {
            setText(e.target.value)
            setOpen(true)
          }}
          onKeyDown={(e) => {
            if (e.key === 'Enter' && data?.found[0]) visit(data.found[0].link)
            if (e.key === 'Enter' && data && !data.found[0] && data.decoded)
              visit(`/gauges?text=${encodeURIComponent(text)}`)
            if (e.key === 'Escape') field.current?.blur()
          }}
        />
        <kbd className="border-hair bg-mat text-ink-2 num rounded-sm border px-1.5">/</kbd>
      </div>
      {open && text.trim().length > 1 && data && (
        <div className="card absolute right-0 z-40 mt-1 w-[360px] p-2">
          {data.found.map((f) => (
            <button
              key={f.kind + f.link}
              className="hover:bg-mat flex w-full justify-between gap-3 rounded-sm px-2 py-1 text-left"
              onMouseDown={() => visit(f.link)}
            >
              <span>{f.title}</span>
              <span className="text-ink-2 num">{f.detail}</span>
            </button>
          ))}
          {data.decoded && (
            <button
              className="hover:bg-mat w-full rounded-sm px-2 py-1 text-left"
              onMouseDown={() => visit(`/gauges?text=${encodeURIComponent(text)}`)}
            >
              Read as a {String(data.decoded.kind).replace('_', ' ').replace('m2', 'M.2')}
            </button>
          )}
          {!data.found.length && !data.decoded && (
            <p className="text-ink-2 px-2 py-1">Nothing carries this text: no part, machine or job, and no label.</p>
          )}
        </div>
      )}
    </div>
  )
}
