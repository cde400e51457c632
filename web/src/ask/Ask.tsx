import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { answer, client, type Schemas } from '../api/client'
import { VerdictGlyph } from '../glyphs/VerdictGlyph'
import { Button, ErrorNote, Heading, Note } from '../ui/basics'
import { limitsName, money, partWord, VERDICTS } from '../words'
import { MakeJob } from './MakeJob'

type Answer = Schemas['AskAnswer']

/** One field for a question: a model and a part, in any order. */
export function AskField({ start = '' }: { start?: string }) {
  const [text, setText] = useState(start)
  const go = useNavigate()
  return (
    <form
      role="search"
      className="flex flex-wrap items-center gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        if (text.trim()) void go(`/ask?text=${encodeURIComponent(text.trim())}`)
      }}
    >
      <label htmlFor="ask" className="font-medium">
        Ask what fits
      </label>
      <input
        id="ask"
        placeholder="a model and a part, in any order"
        className="min-h-11 w-[26rem] max-w-full"
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <Button type="submit" className="min-h-11">
        Ask
      </Button>
    </form>
  )
}

/** A question without a job: what it means, the verdict with its reasons, and nothing kept. */
export function Ask() {
  const [params] = useSearchParams()
  const text = params.get('text') ?? ''
  const { data, error, isFetching } = useQuery({
    queryKey: ['ask', text],
    queryFn: () => answer(client.GET('/api/ask', { params: { query: { text } } })),
    enabled: !!text,
    retry: false,
  })
  return (
    <main className="flex-1 overflow-y-auto px-6 py-4">
      <div className="mx-auto max-w-[1000px] space-y-3">
        <Heading title="Does it fit?">A label, a number or words, in any order. Nothing is kept.</Heading>
        <AskField key={text} start={text} />
        <ErrorNote error={error} />
        {isFetching && !data && <p role="status">Looking.</p>}
        <div aria-live="polite" className="space-y-3">
          {data && <Told data={data} />}
        </div>
      </div>
    </main>
  )
}

function Told({ data }: { data: Answer }) {
  const { meaning } = data
  if (meaning.unread?.length || meaning.ways?.length || meaning.says) return <Open meaning={meaning} />
  const one = data.configurations?.length === 1 ? data.configurations[0] : undefined
  return (
    <>
      {data.says && <p className="text-[17px] font-semibold">{data.says}</p>}
      {!data.says && data.title && <h2>{data.title}</h2>}
      {meaning.decoded && (
        <p className="text-ink-2">
          “{meaning.part_text}” was read as a {meaning.decoded}: what it does not say is unknown.
        </p>
      )}
      {!!data.seats?.length && (
        <p className="text-ink-2">
          In the machine as it was delivered, limits as {limitsName(data.limits ?? 'proven')}
          {new Set(data.seats.map((s) => s.part)).size > 1 && '; each part by itself'}.
        </p>
      )}
      {!!data.seats?.length && <Seats data={data} />}
      {!!data.ceilings?.length && (
        <ul>
          {data.ceilings.map((c) => (
            <li key={c}>{c}</li>
          ))}
        </ul>
      )}
      {!!data.places?.length && <Places data={data} />}
      {!!data.machines?.length && <Machines data={data} />}
      {!data.configurations?.length && (data.parts?.length ?? 0) > 1 && <Parts data={data} />}
      {(data.configurations?.length ?? 0) > 1 && !data.seats?.length && !data.says && (
        <Note>
          It comes in {data.configurations!.length} configurations:{' '}
          {data.configurations!.map((c, i) => (
            <span key={c.configuration}>
              {i > 0 && ', '}
              <Link className="underline" to={`/machines/${c.machine}/${c.configuration}/fits`}>
                {c.name}
              </Link>
            </span>
          ))}
          .
        </Note>
      )}
      {!!data.configurations?.length && (
        <div className="flex flex-wrap items-center gap-3">
          <MakeJob
            main
            make={() => answer(client.POST('/api/ask/job', { body: { text: meaning.text, customer: '' } }))}
          />
          {one && (
            <Link className="underline" to={`/machines/${one.machine}/${one.configuration}/fits`}>
              Everything that fits it
            </Link>
          )}
        </div>
      )}
    </>
  )
}

/** What is not understood, or may be meant several ways: asked, and never answered past. */
function Open({ meaning }: { meaning: Schemas['Meaning'] }) {
  const unread = meaning.unread?.length ? `Nothing here says what “${meaning.unread.join(' ')}” is.` : ''
  return (
    <Note kind="measure_first">
      <p>{meaning.says || `${unread} It may be another model or part: no verdict is given past it.`}</p>
      {!!meaning.ways?.length && (
        <ul className="mt-1">
          {meaning.ways.map((w) => (
            <li key={w.ask}>
              <Link className="inline-block py-1 underline" to={`/ask?text=${encodeURIComponent(w.ask)}`}>
                {w.says}
              </Link>
            </li>
          ))}
        </ul>
      )}
    </Note>
  )
}

function Seats({ data }: { data: Answer }) {
  return (
    <ul className="space-y-2">
      {data.seats!.map((s, i) => (
        <li key={i} className="card p-3">
          <div className="flex flex-wrap items-center gap-2 font-semibold">
            <VerdictGlyph verdict={s.verdict} small />
            <span className={VERDICTS[s.verdict].text}>{VERDICTS[s.verdict].word}</span>
            <span>
              {s.name} in {s.places.join(', ')}
            </span>
            <span className="num ml-auto">{money(s.price_minor)}</span>
          </div>
          {!!s.configurations?.length && <p className="text-ink-2">{s.configurations.join(', ')}</p>}
          {!!s.accessories.length && (
            <p>
              With {s.accessories.join(', ')}, + {money(s.extra_minor)}.
            </p>
          )}
          <ul className="text-[13px]">
            {s.findings.map((f, n) => (
              <li key={n}>
                <span className={VERDICTS[f.verdict].text}>{f.says}</span> {f.remedy}{' '}
                <span className="font-semibold">{f.caution}</span> {f.how}
              </li>
            ))}
          </ul>
        </li>
      ))}
    </ul>
  )
}

function Places({ data }: { data: Answer }) {
  return (
    <table className="card w-full">
      <thead>
        <tr className="text-left">
          {['Place', 'Takes', 'In it as delivered', 'Adds most'].map((h) => (
            <th key={h} className="px-3 py-1.5 font-medium">
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {data.places!.map((p) => (
          <tr key={`${p.name} ${p.configurations?.join()}`} className="border-hair border-t align-top">
            <td className="px-3 py-1.5 font-semibold">
              {p.name}
              {!!p.configurations?.length && (
                <span className="text-ink-2 block text-[12.5px] font-normal">{p.configurations.join(', ')}</span>
              )}
            </td>
            <td className="px-3 py-1.5">{p.takes}</td>
            <td className="px-3 py-1.5">{p.holds}</td>
            <td className="px-3 py-1.5">
              {p.buys.map((b) => (
                <div key={b.part} className="flex gap-2">
                  <VerdictGlyph verdict={b.verdict} small />
                  <span className="min-w-0 flex-1">{b.name}</span>
                  <span className="num">{money(b.price_minor)}</span>
                </div>
              ))}
              {!p.buys.length && (
                <span className="text-ink-2">
                  nothing that is known to go in adds to it
                  {!!p.waiting && `; ${p.waiting} ${p.waiting === 1 ? 'part waits' : 'parts wait'} for a look`}
                </span>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function Machines({ data }: { data: Answer }) {
  return (
    <section className="card p-3">
      <h2 className="mb-1">Machines of this library it goes in, or waits for an answer about</h2>
      <ul>
        {data.machines!.map((m) => (
          <li key={`${m.machine} ${m.configuration} ${m.place}`} className="flex flex-wrap items-center gap-2 py-0.5">
            <VerdictGlyph verdict={m.verdict} small />
            <span className={VERDICTS[m.verdict].text}>{VERDICTS[m.verdict].word}</span>
            <Link to={`/machines/${m.machine}/${m.configuration}/fits`}>{m.title}</Link>
            <span>{m.place}</span>
            <span className="text-ink-2 text-[12.5px]">{m.short}</span>
          </li>
        ))}
      </ul>
      {!!data.more && <p className="text-ink-2">{data.more} more places.</p>}
    </section>
  )
}

function Parts({ data }: { data: Answer }) {
  return (
    <section className="card p-3">
      <h2 className="mb-1">
        {data.parts!.length} parts answer to “{data.meaning.part_text}”
        {data.meaning.kind && `, ${partWord(data.meaning.kind)}`}. Say which machine, too.
      </h2>
      <ul>
        {data.parts!.map((p) => (
          <li key={p.number} className="flex gap-2 py-0.5">
            <Link className="min-w-0 flex-1" to={`/ask?text=${encodeURIComponent(p.number)}`}>
              {p.name}
            </Link>
            <span className="num text-ink-2">{p.number}</span>
            <span className="num">{money(p.price_minor)}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}
