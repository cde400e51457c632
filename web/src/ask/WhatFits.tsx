import { skipToken, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams, useSearchParams } from 'react-router'
import { answer, client, type Schemas } from '../api/client'
import { MachineMap } from '../map/MachineMap'
import { Compare } from '../stations/fit/Compare'
import { previewOf } from '../stations/fit/facts'
import { Matrix } from '../stations/fit/Matrix'
import { opensOn, type Looked } from '../stations/fit/rows'
import { Schools } from '../stations/fit/Schools'
import { FitContext, type FitSource } from '../stations/fit/source'
import { Why } from '../stations/fit/Why'
import { actSays } from '../stations/survey/worth'
import { ErrorNote, Heading } from '../ui/basics'
import { kindFor, vocabulary } from '../words'
import { readAsking, withSlot, written, type Asking } from './asking'
import { MakeJob } from './MakeJob'

/** What fits a machine that is nobody's job: as delivered, empty, or with what somebody says is in it. */
export function WhatFits() {
  const { machine = '', configuration = '' } = useParams()
  const [params, setParams] = useSearchParams()
  const [seen, setSeen] = useState<Looked | null>(null)
  const [kind, setKind] = useState(params.get('kind') ?? '')
  const [picked, setPicked] = useState<readonly string[]>([])
  const asking = readAsking(params)
  const query = written(asking)
  const change = (next: Partial<Asking>) => setParams(written({ ...asking, ...next }), { replace: true })
  const path = { slug: machine, configuration }
  const cache = useQueryClient()
  // What is asked wrong says so, and what was shown before stays to be mended.
  const last = ['what fits', machine, configuration, 'last']
  const { error } = useQuery({
    queryKey: ['what fits', machine, configuration, JSON.stringify(query)],
    queryFn: async () => {
      const found = await answer(
        client.GET('/api/machines/{slug}/{configuration}/fits', { params: { path, query: { ...query, whole: true } } }),
      )
      cache.setQueryData(last, { query, found })
      return found
    },
    retry: false,
    staleTime: 0,
  })
  const { data: good } = useQuery<{ query: typeof query; found: Schemas['FitStation'] }>({
    queryKey: last,
    queryFn: skipToken,
  })
  const data = good?.found
  const shown = good?.query ?? query
  const key = ['what fits', machine, configuration, JSON.stringify(shown)]
  const source: FitSource = {
    key,
    why: (slot, part) =>
      answer(
        client.GET('/api/machines/{slug}/{configuration}/fits/why', {
          params: { path, query: { ...shown, slot, part } },
        }),
      ),
    compare: (slot, parts) =>
      answer(
        client.GET('/api/machines/{slug}/{configuration}/fits/compare', {
          params: { path, query: { ...shown, slot, parts } },
        }),
      ),
    schools: () =>
      answer(client.GET('/api/machines/{slug}/{configuration}/fits/schools', { params: { path, query: shown } })),
    makes: asking.makes,
    approve: (makes) => change({ makes }),
  }
  if (!data)
    return (
      <main className="flex-1 px-6 py-4">
        <ErrorNote error={error} />
      </main>
    )
  const looked = seen ?? opensOn(data, asking.puts)
  const choose = (slot: string, part: string) =>
    change({ puts: withSlot(asking.puts, slot, asking.puts[slot] === part ? null : part) })
  const pick = (number: string) =>
    setPicked(picked.includes(number) ? picked.filter((n) => n !== number) : [...picked, number].slice(-4))
  const address = new URLSearchParams(query).toString()
  const file = (kind: string) => `/api/machines/${machine}/${configuration}/fits.${kind}?${address}`
  return (
    <FitContext value={source}>
      <main className="flex-1 overflow-y-auto px-6 py-4">
        <Heading title={`What fits the ${data.map.title}`}>
          <span>Nothing is kept. Limits taken as</span>
          <select
            aria-label="Whose limit counts"
            className="text-ink py-0 font-semibold"
            value={asking.limits}
            onChange={(e) => change({ limits: e.target.value })}
          >
            {vocabulary().limits.map(({ id, says }) => (
              <option key={id} value={id}>
                {says}
              </option>
            ))}
          </select>
          <Schools limits={asking.limits} />
        </Heading>
        <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
          <Link to={`/machines/${machine}/${configuration}`}>The machine</Link>
          <Link to={`/machines/${machine}/${configuration}/fits/paper?${address}`}>On paper</Link>
          <a href={file('csv')}>CSV</a>
          <a href={file('json')}>JSON</a>
          <MakeJob text={[data.map.title, ...Object.values(asking.puts)].join(', ')} />
        </div>
        <ErrorNote error={error} />
        <InIt data={data} asking={asking} onChange={change} />
        <div className="grid grid-cols-1 items-start gap-3 min-[1100px]:grid-cols-[minmax(0,1fr)_292px]">
          <div className="grid grid-cols-[minmax(0,280px)_minmax(0,1fr)] gap-3 min-[1100px]:order-2 min-[1100px]:grid-cols-1">
            <MachineMap
              compact
              map={data.map}
              height={248}
              preview={previewOf(looked, data)}
              selected={looked?.slot}
              onSelect={(id) => setKind(kindFor(data.map.slots.find((s) => s.id === id)?.kind ?? ''))}
            />
            <Why
              looked={looked}
              data={data}
              chosen={!!looked && asking.puts[looked.slot] === looked.row.number}
              onChoose={choose}
            />
          </div>
          <Matrix
            kind={kind}
            onKind={setKind}
            data={data}
            build={asking.puts}
            onLook={setSeen}
            onChoose={choose}
            looked={looked}
            picked={picked}
            onPick={pick}
          />
        </div>
        {picked.length > 0 && <Compare picked={picked} data={data} onClear={() => setPicked([])} onChoose={choose} />}
        <Acts machine={machine} configuration={configuration} query={shown} />
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
                <summary className="cursor-pointer">
                  {act.asks.length === 1 ? 'its question' : `its ${act.asks.length} questions`}
                </summary>
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
