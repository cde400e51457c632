import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams, useSearchParams } from 'react-router'
import { answer, client, type Schemas } from '../api/client'
import { VerdictGlyph } from '../glyphs/VerdictGlyph'
import { Button, ErrorNote, Heading } from '../ui/basics'
import { Because } from '../ui/Because'
import { money, offered, VERDICTS, vocabulary } from '../words'
import { PartForm } from './PartForm'
import { SightingTable } from './Sightings'
import { May, useMay } from '../shell/May'

/** One part: what it is, what it costs and has cost, and which of our machines it goes in. */
export function PartPage() {
  const { number = '' } = useParams()
  // What a seller was asked of it: its answers alone are typed then.
  const [search, setSearch] = useSearchParams()
  const answered = (search.get('answered') ?? '').split(',').filter(Boolean)
  const mayCorrect = useMay('library')
  const [asked, setCorrecting] = useState(answered.length > 0)
  const correcting = asked && mayCorrect
  const [limits, setLimits] = useState<string>('proven')
  const { data, error } = useQuery({
    queryKey: ['part', number],
    queryFn: () => answer(client.GET('/api/parts/{number}', { params: { path: { number } } })),
    retry: false,
  })
  const goes = useQuery({
    queryKey: ['part', number, 'machines', limits],
    queryFn: () =>
      answer(
        client.GET('/api/parts/{number}/machines', {
          params: { path: { number }, query: { limits: limits as 'proven' } },
        }),
      ),
    placeholderData: (previous) => previous,
    retry: false,
  })
  const seen = useQuery({
    queryKey: ['sightings', number],
    queryFn: () => answer(client.GET('/api/sightings', { params: { query: { part: number } } })),
  })
  if (!data)
    return (
      <main className="flex-1 px-6 py-4">
        <ErrorNote error={error} />
      </main>
    )
  const some = data.fields.filter((f) => answered.includes(f.name))
  return (
    <main className="flex-1 overflow-y-auto px-6 py-4">
      <div className="mx-auto max-w-[1100px]">
        <Heading title={data.line.name}>
          <span className="num">{data.line.number}</span> {data.line.maker} · {data.line.detail}{' '}
          {data.line.on_shelf > 0 && `· ${data.line.on_shelf} on the shelf`}
        </Heading>
        <div className="grid grid-cols-[1.600fr_1fr] items-start gap-4">
          <div className="space-y-3">
            <section className="card p-3">
              <div className="mb-1 flex items-center gap-2">
                <h2>Which of our machines it goes in</h2>
                <select aria-label="Whose limit counts" value={limits} onChange={(e) => setLimits(e.target.value)}>
                  {vocabulary().limits.map(({ id, says }) => (
                    <option key={id} value={id}>
                      {says}
                    </option>
                  ))}
                </select>
              </div>
              <ErrorNote error={goes.error} />
              <GoesIn lines={goes.data ?? []} part={number} limits={limits} />
              {goes.data && !goes.data.length && <p className="text-ink-2">No slot of this kind in the library.</p>}
            </section>
            <section className="card p-3">
              <h2 className="mb-1">Seen</h2>
              {seen.data && <SightingTable lines={seen.data} wide />}
            </section>
          </div>
          <div className="space-y-3">
            <section className="card p-3">
              <div className="mb-1 flex items-center justify-between">
                <h2>What is known of it</h2>
                <May role="library">
                  <Button kind="quiet" onClick={() => setCorrecting(!correcting)}>
                    {correcting ? 'leave it as it is' : 'correct'}
                  </Button>
                </May>
              </div>
              {correcting ? (
                <PartForm
                  key={data.line.number}
                  fields={some.length ? some : data.fields}
                  others={some.length ? data.fields.filter((f) => !some.includes(f)) : []}
                  start={data.cells}
                  onDone={() => {
                    setCorrecting(false)
                    setSearch({}, { replace: true })
                  }}
                />
              ) : (
                data.fields.map((f) => (
                  <div key={f.name} className="flex justify-between gap-3">
                    <span className="text-ink-2">{f.label}</span>
                    <span className={`num text-right ${data.cells[f.name] ? '' : 'text-measure'}`}>
                      {data.cells[f.name]
                        ? `${data.cells[f.name]} ${f.name === 'selling' ? '' : f.unit}`
                        : f.name === 'selling'
                          ? 'by the mark-up'
                          : 'unknown'}
                    </span>
                  </div>
                ))
              )}
            </section>
            <section className="card p-3">
              <h2 className="mb-1">Offers, and what they asked</h2>
              {data.line.offers.map((o) => (
                <History key={o.shop} offer={o} points={data.history.filter((h) => h.shop === o.shop)} />
              ))}
              {!data.line.offers.length && <p className="text-ink-2">No offer. {data.line.note}</p>}
            </section>
          </div>
        </div>
      </div>
    </main>
  )
}

type Where = { lines: readonly Schemas['GoesIn'][]; part: string; limits: string }

function GoesIn({ lines, part, limits }: Where) {
  const [open, setOpen] = useState('')
  return (
    <table className="w-full">
      <tbody>
        {lines.map((g) => (
          <tr
            key={g.machine + g.configuration + g.slot}
            data-row
            tabIndex={0}
            className="border-hair border-t first:border-t-0"
          >
            <td className="py-1 pr-2 align-top">
              <Link to={`/machines/${g.machine}/${g.configuration}`}>{g.title}</Link>
            </td>
            <td className="text-ink-2 py-1 pr-2 align-top">{g.slot_name}</td>
            <td className="py-1">
              <span className="flex items-center gap-1.5">
                <VerdictGlyph verdict={g.verdict} small />
                <span className={VERDICTS[g.verdict].text}>{VERDICTS[g.verdict].word}</span>
                <span className="text-ink-2 text-[12.5px]">
                  {g.short}
                  {g.extra_minor > 0 && `, + ${money(g.extra_minor)}`}
                </span>
                <Button
                  kind="quiet"
                  aria-expanded={open === keyOf(g)}
                  aria-label={`Why in ${g.title}, ${g.slot_name}`}
                  onClick={() => setOpen(open === keyOf(g) ? '' : keyOf(g))}
                >
                  why
                </Button>
              </span>
              {open === keyOf(g) && <WhyHere line={g} part={part} limits={limits} />}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** An offer with the line of its past prices. */
function History({ offer, points }: { offer: Schemas['OfferView']; points: readonly Schemas['PriceSeen'][] }) {
  const prices = points.map((p) => p.price_minor)
  const low = Math.min(...prices)
  const span = Math.max(...prices) - low || 1
  const x = (i: number) => (points.length > 1 ? (i / (points.length - 1)) * 150 : 150)
  const line = prices.map((p, i) => `${x(i)},${30 - ((p - low) / span) * 24}`).join(' ')
  return (
    <div className="border-hair border-t py-1 first:border-t-0">
      <div className="flex justify-between">
        <span>{offer.shop}</span>
        <span className="num">
          {offered({ ...offer, shop: '' }).trim()}{' '}
          {offer.stock !== null && <span className="text-ink-2">×{offer.stock}</span>}
        </span>
      </div>
      {points.length > 1 && (
        <div className="text-ink-2 flex items-center gap-2 text-[12px]">
          <svg
            viewBox="-2 0 156 34"
            className="h-8 w-40"
            role="img"
            aria-label={`from ${money(low)} to ${money(low + span)}`}
          >
            <polyline points={line} className="stroke-copper fill-none" strokeWidth={1.5} />
          </svg>
          {money(low)} to {money(Math.max(...prices))}, {points.length} times seen
        </div>
      )}
    </div>
  )
}

const keyOf = (g: Schemas['GoesIn']) => `${g.machine}/${g.configuration}/${g.slot}`

/** Every finding of a part in one slot of the library, and the claims it rests on. */
function WhyHere({ line, part, limits }: { line: Schemas['GoesIn']; part: string; limits: string }) {
  const { machine, configuration, slot } = line
  const { data, error } = useQuery({
    queryKey: ['part', part, 'why', machine, configuration, slot, limits],
    queryFn: () =>
      answer(
        client.GET('/api/parts/{number}/why', {
          params: { path: { number: part }, query: { machine, configuration, slot, limits: limits as 'proven' } },
        }),
      ),
  })
  if (!data) return <ErrorNote error={error} />
  return (
    <div className="mt-1 text-[12.5px]">
      <ul>
        {data.judgement.findings?.map((f, i) => (
          <li key={i}>
            <span className={VERDICTS[f.verdict].text}>{f.says}</span> {f.remedy}{' '}
            <span className="text-ink-2 num">{(f.evidence ?? []).join(' · ')}</span>{' '}
            <Link className="text-ink-2 num text-[11px] underline" to={`/rules#${f.rule}`}>
              {f.rule}
            </Link>
          </li>
        ))}
      </ul>
      <Because because={data.because} aside={data.aside} />
    </div>
  )
}
