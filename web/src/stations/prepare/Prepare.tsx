import { useState } from 'react'
import { answer, client, type Schemas } from '../../api/client'
import { at, useEdit, useJob, useStation } from '../../api/job'
import { GoOn } from '../../shell/GoOn'
import { Button, ErrorNote, Heading, Note } from '../../ui/basics'
import { inHouse, minutes, moment } from '../../words'
import { Agree } from '../plan/Chosen'
import { useOnce } from '../../ui/once'
import { OnTheMat } from './OnTheMat'

type GateState = Schemas['GateState']
const WAIVER_WORDS = 12
const SAID_WORDS = 2

export function Prepare() {
  const { view } = useJob()
  const { data, error } = useStation('prepare', (number) =>
    answer(client.GET('/api/jobs/{number}/prepare', { params: { path: { number } } })),
  )
  if (!data) return <ErrorNote error={error} />
  const states = (at(view?.job, '/prepare/gates') ?? {}) as Record<string, GateState>
  const ticks = (at(view?.job, '/prepare/ticks') ?? {}) as Record<string, Schemas['GateTick']>
  const stopped = states.battery?.state === 'blocked'
  return (
    <>
      <Heading title="Is everything ready before a screw is touched?">
        {data.sheet.screws} screws, {minutes(data.sheet.seconds)} at the bench. Local rules and licensed practice go
        before anything here.
      </Heading>
      <ErrorNote error={error} />
      {stopped && (
        <Note kind="harm">
          Stop. {states.battery?.words || 'The pack is not sound.'} Do not charge it, move it away from anything that
          burns, follow local rules for damaged batteries.
        </Note>
      )}
      <div className="card">
        {data.gates.map((g) => (
          <GateRow
            key={g.id}
            gate={g}
            state={states[g.id]}
            tick={ticks[g.id]}
            numbers={g.id === 'parts' ? data.numbers : []}
          />
        ))}
      </div>
      <div className="mt-3 flex items-center justify-between">
        <p>
          {data.open.length ? (
            <>
              Safety key shut: <b>{data.open.length}</b> open.
            </>
          ) : (
            'The safety key is in.'
          )}
        </p>
        <GoOn to="bench" label="Turn the key: go on to Bench" disabled={!!data.open.length} />
      </div>
    </>
  )
}

function GateRow({
  gate: g,
  state,
  tick,
  numbers,
}: {
  gate: Schemas['Gate']
  state: GateState | undefined
  tick: Schemas['GateTick'] | undefined
  numbers: readonly string[]
}) {
  const edit = useEdit()
  const once = useOnce()
  const [words, setWords] = useState(state?.words ?? '')
  const [waiving, setWaiving] = useState(false)
  const kind = g.asks ? 'done' : g.waivable ? 'waived' : 'blocked'
  const set = (s: GateState['state'], w = '') => edit(`/prepare/gates/${g.id}`, { state: s, words: w, who: '' })
  const said = state?.state ?? 'open'
  // What an event does is done by that event, whatever was ticked.
  const now = g.derived ? (g.settled ? 'done' : 'open') : said
  const mark = {
    open: 'border-ink-2',
    done: 'bg-gold border-gold',
    waived: 'border-gold bg-gold-soft',
    blocked: 'bg-harm border-harm-bg',
  }[now]
  return (
    <div className="border-hair grid grid-cols-[44px_minmax(0,1fr)_auto] items-start gap-3 border-t px-3 py-2.5 first:border-t-0">
      <button
        data-row
        type="button"
        role="checkbox"
        aria-checked={now === 'done'}
        aria-label={g.title}
        disabled={g.derived}
        className="grid h-11 w-11 place-items-center disabled:opacity-40"
        onClick={() =>
          once(g.id, () => {
            if (now === 'done') set('open')
            else if (g.asks) setWaiving(true)
            else set('done')
          })
        }
      >
        <span className={`block h-6 w-6 rounded-sm border-2 ${mark}`}>{now === 'done' && <Tick />}</span>
      </button>
      <div>
        <div className="font-semibold">{g.title}</div>
        <div className="text-ink-2">{g.why}</div>
        {!!g.items?.length && <div className="text-[13px]">{inHouse(g.items.filter(Boolean).join(' · '))}</div>}
        {g.caution && <div className="text-refused text-[13px]">{g.caution}</div>}
        {g.id === 'found' && (
          <div className="text-held text-[13px]">Settled at Plan or at Bench, under “Found differs”.</div>
        )}
        {g.id === 'looked' && !g.settled && (
          <div className="text-held text-[13px]">Settled at Survey, or by another plan.</div>
        )}
        {g.id === 'consent' && !g.settled && <Agree />}
        <OnTheMat numbers={numbers} onAll={() => set('done')} />
        {now === 'waived' && <div className="text-held text-[13px]">Waived: {state?.words}</div>}
        {now === 'done' && g.asks && <div className="text-[13px]">{state?.words}</div>}
        {tick && now !== 'open' && !g.derived && (
          <div className="text-ink-2 text-[12.5px]">
            {tick.who || 'nobody named'}, {moment(tick.at)}
          </div>
        )}
        {waiving && (
          <form
            className="mt-1.5 flex gap-2"
            onSubmit={(e) => {
              e.preventDefault()
              set(kind, words.trim())
              setWaiving(false)
            }}
          >
            <input
              autoFocus
              aria-label={g.asks || (g.waivable ? 'The owner’s waiver, in words' : 'What was found')}
              placeholder={g.asks || (g.waivable ? 'Who waived it, and in which words' : 'What was found')}
              className="w-full"
              value={words}
              onChange={(e) => setWords(e.target.value)}
            />
            <Button type="submit" disabled={words.trim().length < (g.asks ? SAID_WORDS : WAIVER_WORDS)}>
              {kind === 'blocked' ? 'Stop the job' : 'Write it down'}
            </Button>
          </form>
        )}
      </div>
      <div className="text-right">
        <div className="text-ink-2">{{ open: 'open', done: 'done', waived: 'waived', blocked: 'stopped' }[now]}</div>
        {now !== 'done' && !g.derived && (
          <Button kind="quiet" onClick={() => setWaiving(!waiving)}>
            {g.asks ? 'take it down' : g.waivable ? 'owner waives' : 'not flat or cool'}
          </Button>
        )}
      </div>
    </div>
  )
}

export function Tick() {
  return (
    <svg viewBox="0 0 20 20" aria-hidden className="stroke-mask fill-none" strokeWidth={3}>
      <path d="M4 10l4 5 8-10" />
    </svg>
  )
}
