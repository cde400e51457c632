import { useQuery } from '@tanstack/react-query'
import { useParams, useSearchParams } from 'react-router'
import { answer, client, type Schemas } from '../api/client'
import { actSays } from '../stations/survey/worth'
import { Button, ErrorNote } from '../ui/basics'
import { day, limitsName, money, VERDICTS } from '../words'
import { readAsking, written } from './asking'
import { alike } from './fits-paper'
import { Paper } from '../ui/Paper'

type Paper = Schemas['FitsPaper']

/** "What goes into a …" on paper: place by place with numbers, limits and cautions. */
export function FitsPaper() {
  const { machine = '', configuration = '' } = useParams()
  const [params] = useSearchParams()
  const query = written(readAsking(params))
  const path = { slug: machine, configuration }
  const { data, error } = useQuery({
    queryKey: ['what fits', machine, configuration, JSON.stringify(query), 'paper'],
    queryFn: () => answer(client.GET('/api/machines/{slug}/{configuration}/fits/paper', { params: { path, query } })),
    retry: false,
  })
  if (!data)
    return (
      <main className="flex-1 px-6 py-4">
        <ErrorNote error={error} />
      </main>
    )
  const places = alike(data)
  const nothing = Object.keys(data.holds).filter((p) => !data.lines.some((l) => l.place === p))
  return (
    <main className="flex-1 overflow-y-auto px-6 py-4">
      <div className="no-print mb-2">
        <Button kind="main" data-main-action onClick={() => window.print()}>
          Print it
        </Button>
      </div>
      <Paper head={`What goes into a ${data.title}`} wide>
        <header className="border-hair border-b pb-2">
          <h1>What goes into a {data.title}</h1>
          <p>
            {data.processor} · limits: {limitsName(data.limits)} · prices of {day(new Date().toISOString())}
          </p>
          {data.ceilings.map((c) => (
            <p key={c}>{c}</p>
          ))}
        </header>
        {places.map((same) => (
          <Place key={same[0]} places={same} data={data} />
        ))}
        {!!nothing.length && (
          <p className="mt-3">
            {nothing.join(', ')}: nothing of the catalogue goes in, and nothing waits for an answer.
          </p>
        )}
        {!!data.acts.length && (
          <section className="mt-3 break-inside-avoid">
            <h2>What would tell more</h2>
            <ul className="list-disc pl-5">
              {data.acts.map((a) => (
                <li key={a.id}>
                  {a.name}: {actSays(a)}
                </li>
              ))}
            </ul>
          </section>
        )}
        <footer className="text-ink-2 mt-4 text-[12px]">
          {data.refused} pairs of a part and a place are refused and not listed. Isolate power before anything is
          touched; local rules and the makers’ terms decide.
        </footer>
      </Paper>
    </main>
  )
}

function Place({ places, data }: { places: readonly string[]; data: Paper }) {
  const lines = data.lines.filter((l) => l.place === places[0])
  return (
    <section className="mt-3">
      <h2>
        {places.join(', ')}{' '}
        <span className="text-ink-2 font-normal normal-case">
          {data.takes[places[0]!]} · in it: {places.map((p) => data.holds[p] ?? 'not known').join('; ')}
        </span>
      </h2>
      <table className="w-full text-[13px]">
        <thead>
          <tr className="text-left">
            <th className="py-1 font-medium">Part</th>
            <th className="py-1 font-medium">Number</th>
            <th className="py-1 font-medium">Verdict</th>
            <th className="py-1 text-right font-medium">Price</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((l) => (
            <tr key={l.number} className="border-hair break-inside-avoid border-t align-top">
              <td className="py-1 pr-2">
                {l.name}
                {l.says && <div className="text-ink-2 text-[12px]">{l.says}</div>}
                {l.caution && <div className="text-[12px] font-semibold">{l.caution}</div>}
              </td>
              <td className="num py-1 pr-2 whitespace-nowrap">{l.number}</td>
              <td className="py-1 pr-2">
                {VERDICTS[l.verdict].word}
                {l.asks && <div className="text-ink-2 text-[12px]">waits for {l.asks}</div>}
              </td>
              <td className="num py-1 text-right whitespace-nowrap">
                {money(l.price_minor, data.currency)}
                {l.with_minor > 0 && <div className="text-[12px]">+ {money(l.with_minor, data.currency)}</div>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
