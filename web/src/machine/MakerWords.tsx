import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, type Schemas } from '../api/client'
import { Button, ErrorNote, Note } from '../ui/basics'
import { grouped, isTicked, sharedDoubt, whatGoesIn } from './words-page'
import { May } from '../shell/May'

type Page = Schemas['WordsPage']

/** A maker's page, pasted: each claim beside the phrase it came from, taken in one by one or all at once. */
export function MakerWords({ machine, beside = '', job }: { machine: string; beside?: string; job?: number }) {
  const cache = useQueryClient()
  const [text, setText] = useState('')
  const [where, setWhere] = useState('')
  const [places, setPlaces] = useState<Record<string, string>>({})
  const [page, setPage] = useState<Page | null>(null)
  const [ticked, setTicked] = useState<Record<string, boolean>>({})
  const [error, setError] = useState<Error | null>(null)
  const [busy, setBusy] = useState(false)
  const [kept, setKept] = useState('')

  const ask = async (said: string, named: Record<string, string>) => {
    setText(said)
    setPlaces(named)
    setError(null)
    if (!said.trim()) return setPage(null)
    try {
      const body = { text: said, places: named }
      setPage(await answer(client.POST('/api/words/{slug}', { params: { path: { slug: machine } }, body })))
    } catch (e) {
      setError(e as Error)
    }
  }
  const take = async (chosen: string[]) => {
    setBusy(true)
    setError(null)
    try {
      const body = { text, where, places, chosen }
      setPage(await answer(client.POST('/api/words/{slug}/taken', { params: { path: { slug: machine } }, body })))
      await cache.invalidateQueries({
        predicate: (q) => ['job', 'machine', 'machines'].includes(String(q.queryKey[0])),
      })
    } catch (e) {
      setError(e as Error)
    } finally {
      setBusy(false)
    }
  }
  const takeHere = async (chosen: string[]) => {
    if (!job) return
    setBusy(true)
    setError(null)
    try {
      const body = { text, where, places, chosen }
      await answer(client.POST('/api/jobs/{number}/words/taken', { params: { path: { number: job } }, body }))
      setKept(`Taken on this job, and proposed to the library: ${chosen.length}.`)
      await cache.invalidateQueries({ predicate: (q) => ['job', 'machine'].includes(String(q.queryKey[0])) })
    } catch (e) {
      setError(e as Error)
    } finally {
      setBusy(false)
    }
  }
  const chosen = page ? whatGoesIn(page.rows, ticked) : []
  return (
    <section className="card p-3" aria-label="The maker’s words">
      <h2 className="mb-1">The maker’s words</h2>
      <textarea
        aria-label="Specification page or manual’s page"
        placeholder="Paste the specification page or a page of the manual"
        className="num h-20 w-full text-[12px]"
        value={text}
        onChange={(e) => void ask(e.target.value, places)}
      />
      {beside && !text && (
        <Button kind="quiet" onClick={() => void ask(beside, {})}>
          Take the page that lies beside this job
        </Button>
      )}
      <ErrorNote error={error} />
      {page?.asked.map((a) => (
        <label key={a.place} className="mt-1 block text-[12.5px]">
          Which slot is “{a.phrase}”?{' '}
          <select
            value={places[a.place] ?? ''}
            onChange={(e) => void ask(text, { ...places, [a.place]: e.target.value })}
          >
            <option value="">not known: left out</option>
            {Object.entries(a.slots).map(([id, name]) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
      ))}
      {page && (
        <>
          {!page.rows.length && <p className="text-ink-2 text-[12.5px]">It states nothing that can be claimed.</p>}
          {!!page.rows.length && (
            <div className="mt-2 flex flex-wrap items-center gap-2">
              <input
                aria-label="Where the page is from"
                placeholder="where from: address, manual, page"
                className="min-w-0 flex-1"
                value={where}
                onChange={(e) => setWhere(e.target.value)}
              />
              {job && (
                <Button kind="main" disabled={busy || !chosen.length} onClick={() => void takeHere(chosen)}>
                  {chosen.length ? `Take ${chosen.length} on this job` : 'Nothing to take on'}
                </Button>
              )}
              <May role="library" does="Claims are taken into the library by">
                <Button disabled={busy || !chosen.length} onClick={() => void take(chosen)}>
                  {chosen.length
                    ? `Take ${chosen.length} ${chosen.length === 1 ? 'claim' : 'claims'} in`
                    : 'Nothing to take in'}
                </Button>
              </May>
            </div>
          )}
          {kept && (
            <p role="status" className="text-seats mt-1 text-[12.5px]">
              {kept}
            </p>
          )}
          <ul className="mt-2">
            {grouped(page.rows).map((group) => (
              <li key={group.phrase + group.rows[0]!.id} className="border-hair border-t py-1.5">
                <q className="text-ink-2 block text-[12px] italic">{group.phrase}</q>
                <span className="text-measure block text-[12.5px]">{sharedDoubt(group)}</span>
                {group.rows.map((r) => (
                  <label key={r.id} className="flex items-baseline gap-2 text-[12.5px]">
                    <input
                      type="checkbox"
                      className="accent-copper"
                      disabled={r.goes !== 'in'}
                      checked={isTicked(r, ticked)}
                      onChange={(e) => setTicked({ ...ticked, [r.id]: e.target.checked })}
                    />
                    <span className="min-w-0 flex-1">
                      {r.label}
                      {r.configuration && <span className="text-ink-2"> · {r.configuration}</span>}
                      {r.doubt && !sharedDoubt(group) && <span className="text-measure block">{r.doubt}</span>}
                    </span>
                    <span className="num font-semibold">
                      {r.value} {r.unit}
                    </span>
                    <span className="text-ink-2 w-36 text-right">{SAYS[r.goes](r)}</span>
                  </label>
                ))}
              </li>
            ))}
          </ul>
          {page.questions.map((q) => (
            <Note key={q.label + q.phrase} kind="measure_first">
              <span className="font-semibold">{q.label}:</span> {q.says} <q className="text-ink-2 italic">{q.phrase}</q>
            </Note>
          ))}
          {!!page.unread?.length && (
            <details className="mt-2 text-[12.5px]">
              <summary className="text-ink-2 cursor-pointer">
                Not understood, and nothing taken from it: {page.unread.length}
              </summary>
              <ul>
                {page.unread.map((u) => (
                  <li key={u}>
                    <q className="text-ink-2 italic">{u}</q>
                  </li>
                ))}
              </ul>
            </details>
          )}
        </>
      )}
    </section>
  )
}

const SAYS: Record<Schemas['WordsRow']['goes'], (r: Schemas['WordsRow']) => string> = {
  in: (r) => (r.now ? `library: ${r.now}` : 'new'),
  there: () => 'the library has it',
  which: () => 'which slot?',
  shown: (r) => (r.now ? `library: ${r.now}` : 'shown only'),
}
