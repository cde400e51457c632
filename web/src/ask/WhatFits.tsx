import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams, useSearchParams } from 'react-router'
import { answer, client, type Schemas } from '../api/client'
import { Judged, LimitsChoice } from '../stations/fit/Judged'
import { Schools } from '../stations/fit/Schools'
import { FitContext, type FitSource } from '../stations/fit/source'
import { actSays, closedSays } from '../stations/survey/worth'
import { ErrorNote, Heading } from '../ui/basics'
import { kindFor } from '../words'
import { readAsking, withSlot, written, type Asking } from './asking'
import { MakeJob } from './MakeJob'

/** What fits a machine that is nobody's job: as delivered, empty, or with what somebody says is in it. */
export function WhatFits() {
  const { machine = '', configuration = '' } = useParams()
  return <OfMachine key={`${machine}/${configuration}`} machine={machine} configuration={configuration} />
}

type Shown = { query: Record<string, string>; found: Schemas['FitStation'] }

function OfMachine({ machine, configuration }: { machine: string; configuration: string }) {
  const [params, setParams] = useSearchParams()
  const asking = readAsking(params)
  const query = written(asking)
  const change = (next: Partial<Asking>) => setParams(written({ ...asking, ...next }), { replace: true })
  const path = { slug: machine, configuration }
  const asked = useQuery({
    queryKey: ['what fits', machine, configuration, JSON.stringify(query)],
    queryFn: () =>
      answer(
        client.GET('/api/machines/{slug}/{configuration}/fits', { params: { path, query: { ...query, whole: true } } }),
      ),
    retry: false,
  })
  // While it is asked anew, or asked wrong, what was answered last stays, with what was asked then.
  const [last, setLast] = useState<Shown | null>(null)
  if (asked.data && asked.data !== last?.found) setLast({ query, found: asked.data })
  const shown = asked.data ? { query, found: asked.data } : last
  if (!shown)
    return (
      <main className="flex-1 px-6 py-4">
        <ErrorNote error={asked.error} />
      </main>
    )
  const data = shown.found
  const key = ['what fits', machine, configuration, JSON.stringify(shown.query)]
  const source: FitSource = {
    key,
    why: (slot, part) =>
      answer(
        client.GET('/api/machines/{slug}/{configuration}/fits/why', {
          params: { path, query: { ...shown.query, slot, part } },
        }),
      ),
    compare: (slot, parts) =>
      answer(
        client.GET('/api/machines/{slug}/{configuration}/fits/compare', {
          params: { path, query: { ...shown.query, slot, parts } },
        }),
      ),
    schools: () =>
      answer(client.GET('/api/machines/{slug}/{configuration}/fits/schools', { params: { path, query: shown.query } })),
    makes: asking.makes,
    approve: (makes) => change({ makes }),
  }
  const choose = (slot: string, part: string) =>
    change({ puts: withSlot(asking.puts, slot, asking.puts[slot] === part ? null : part) })
  const address = new URLSearchParams(shown.query).toString()
  const file = (kind: string) => `/api/machines/${machine}/${configuration}/fits.${kind}?${address}`
  return (
    <FitContext value={source}>
      <main className="flex-1 overflow-y-auto px-6 py-4" aria-busy={asked.isFetching}>
        <Heading title={`What fits the ${data.map.title}`}>
          <span>Nothing is kept. Limits taken as</span>
          <LimitsChoice value={asking.limits} onChange={(limits) => change({ limits })} />
          {asked.data ? <Schools limits={data.limits} /> : !asked.error && <span role="status">Looking anew …</span>}
        </Heading>
        <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
          <Link className="underline" to={`/machines/${machine}/${configuration}`}>
            The machine
          </Link>
          <Link className="underline" to={`/machines/${machine}/${configuration}/fits/paper?${address}`}>
            On paper
          </Link>
          <a className="underline" href={file('csv')}>
            CSV
          </a>
          <a className="underline" href={file('json')}>
            JSON
          </a>
          <MakeJob
            make={() =>
              answer(
                client.POST('/api/machines/{slug}/{configuration}/fits/job', { params: { path, query: shown.query } }),
              )
            }
          />
        </div>
        <ErrorNote error={asked.error} />
        <InIt data={data} asking={asking} onChange={change} />
        <Judged data={data} build={asking.puts} onChoose={choose} />
        <Acts machine={machine} configuration={configuration} query={shown.query} />
      </main>
    </FitContext>
  )
}

type InItProps = { data: Schemas['FitStation']; asking: Asking; onChange: (next: Partial<Asking>) => void }

/** What is in the machine: as delivered, nothing, or what somebody says of single places. */
function InIt({ data, asking, onChange }: InItProps) {
  const places = data.map.slots.filter((s) => s.form !== 'soldered')
  const said = Object.keys(asking.has).length
  return (
    <div className="mb-2 flex flex-wrap items-start gap-x-4 gap-y-1">
      <label className="flex items-center gap-1.5">
        In it is
        <select value={asking.holds} onChange={(e) => onChange({ holds: e.target.value as Asking['holds'], has: {} })}>
          <option value="delivered">what it was delivered with</option>
          <option value="empty">nothing</option>
        </select>
      </label>
      <details open={said > 0}>
        <summary className="cursor-pointer">
          {said
            ? `but for ${said} ${said === 1 ? 'place' : 'places'} somebody told of`
            : 'something else, as I was told'}
        </summary>
        <div className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(min(100%,18rem),1fr))] gap-x-4 gap-y-1">
          {places.map((s) => (
            <InPlace
              key={`${s.id} ${asking.has[s.id] ?? '–'}`}
              slot={s}
              start={asking.has[s.id]}
              rows={data.rows}
              onSay={(number) => onChange({ has: withSlot(asking.has, s.id, number) })}
            />
          ))}
        </div>
      </details>
    </div>
  )
}

type InPlaceProps = {
  slot: Schemas['SlotView']
  start: string | undefined
  rows: Schemas['FitStation']['rows']
  onSay: (number: string | null) => void
}

function InPlace({ slot, start, rows, onSay }: InPlaceProps) {
  const [typed, setTyped] = useState(start ?? '')
  const list = `in-${slot.id}`
  const say = () => typed.trim() !== (start ?? '') && onSay(typed.trim() || null)
  return (
    <div className="flex items-center gap-1.5">
      <label className="flex min-w-0 flex-1 items-center gap-1.5">
        <span className="w-28 shrink-0 truncate">{slot.name}</span>
        <input
          list={list}
          placeholder={start === '' ? 'empty' : slot.fitted_name}
          className="num min-w-0 flex-1"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={say}
          onKeyDown={(e) => e.key === 'Enter' && say()}
        />
      </label>
      <datalist id={list}>
        {rows
          .filter((r) => r.kind === kindFor(slot.kind))
          .map((r) => (
            <option key={r.number} value={r.number}>
              {r.name}
            </option>
          ))}
      </datalist>
      <label className="flex items-center gap-1 whitespace-nowrap">
        <input
          type="checkbox"
          aria-label={`${slot.name} is empty`}
          checked={start === ''}
          onChange={(e) => onSay(e.target.checked ? '' : null)}
        />
        empty
      </label>
    </div>
  )
}

type ActsProps = { machine: string; configuration: string; query: Record<string, string> }

/** What is not known, as things one would do: nobody's job has no bench to do them at. */
function Acts({ machine, configuration, query }: ActsProps) {
  const path = { slug: machine, configuration }
  const { data } = useQuery({
    queryKey: ['what fits', machine, configuration, JSON.stringify(query), 'acts'],
    queryFn: () => answer(client.GET('/api/machines/{slug}/{configuration}/fits/acts', { params: { path, query } })),
  })
  if (!data?.length) return null
  return (
    <section className="card mt-3 p-3" aria-label="What would tell more">
      <h2 className="mb-1">What would tell more</h2>
      <ul>
        {data.map((act) => (
          <li key={act.id} className="border-hair border-t py-1 first:border-t-0">
            <span className="font-semibold">{act.name}</span> <span className="text-ink-2">{actSays(act)}</span>
            {!!act.asks?.length && (
              <details className="text-[13px]">
                <summary className="cursor-pointer">{closedSays(act.asks.length)}</summary>
                {act.asks.map((w) => (
                  <p key={w.attribute}>
                    {w.label}. {w.how}
                  </p>
                ))}
              </details>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}
