import { useEffect, useRef, useState } from 'react'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../../api/client'
import { at, jobNow, step, useEdit, useJob, useJobNumber } from '../../api/job'
import { GoOn } from '../../shell/GoOn'
import { Button, ErrorNote, Heading, Note } from '../../ui/basics'
import { MachineMap } from '../../map/MachineMap'
import { TextField } from '../../ui/fields'
import { AGAIN_MS, useOnce } from '../../ui/once'
import { minutes } from '../../words'
import { TasksBeside } from '../plan/TasksBeside'
import { Tick } from '../prepare/Prepare'
import { useBench } from './bench'
import { FoundDiffers } from './FoundDiffers'
import { Noted } from './Noted'
import { PHASES } from './phases'
import { ScrewTray } from './ScrewTray'
import { elapsed } from './tray'
import { Ways } from './Ways'

export function Bench() {
  const { view } = useJob()
  const number = useJobNumber()
  const edit = useEdit()
  const { data, error } = useBench()
  const now = useNow()
  const once = useOnce()
  if (!data) return <ErrorNote error={error} />
  const done = (at(view?.job, '/bench/done') ?? {}) as Record<string, string>
  const steps = data.sheet.steps
  const next = steps.find((s) => !done[s.id])
  const locked = data.locked
  const ran = elapsed(steps, done, now)
  /** The step that is ticked is the one that was shown: what it should be is said, never turned over. */
  const set = (id: string, to: boolean) => {
    const place = `/bench/done/${step(id)}`
    if (!!at(jobNow(number), place) === to) return
    edit(place, to ? new Date().toISOString() : null, { op: to ? 'set' : 'remove' })
  }
  return (
    <>
      <Heading title={next ? 'The next step at the bench' : 'Every step is done'}>
        <span>
          {steps.filter((s) => done[s.id]).length} of {steps.length} · {minutes(data.sheet.seconds)} expected
          {ran !== null && `, ${minutes(ran)} on the clock`} · tools: {data.sheet.tools.join(', ') || 'none'}
        </span>
        <Link className="no-print underline" to={`/jobs/${number}/sheet`}>
          the bench sheet
        </Link>
      </Heading>
      <ErrorNote error={error} />
      {locked && <Note kind="harm">{locked} Nothing can be ticked before.</Note>}
      {!steps.length && <p className="card p-4">This plan changes nothing in the machine. Go on to Prove.</p>}
      {!!steps.length && (
        <div className="no-print mb-3 grid grid-cols-[1fr_300px] items-start gap-3 max-[820px]:grid-cols-1">
          <div className="space-y-2">
            {next && (
              <AtHand
                step={next}
                index={steps.indexOf(next) + 1}
                disabled={!!locked}
                onTick={() => once(next.id, () => set(next.id, true))}
              />
            )}
            {!locked && <Scan steps={steps} onTick={(id) => set(id, true)} />}
          </div>
          <div className="space-y-2">
            <ScrewTray steps={steps} done={done} />
            {next && <MachineMap map={data.map} height={190} compact selected={next.slot || undefined} />}
          </div>
        </div>
      )}
      <ol className="card">
        {steps.map((s, i) => (
          <StepRow
            key={s.id}
            index={i + 1}
            step={s}
            first={i === 0 || steps[i - 1]!.phase !== s.phase}
            done={!!done[s.id]}
            next={s === next}
            disabled={!!locked}
            onTick={() => once(s.id, () => set(s.id, !done[s.id]))}
          />
        ))}
      </ol>
      <div className="no-print mt-3 grid grid-cols-[1fr_auto] items-end gap-4">
        <TextField path="/bench/notes" label="Found on the way" rows={2} />
        <GoOn to="prove" label="Go on to Prove" disabled={!!next} />
      </div>
      <div className="no-print mt-3 space-y-3">
        <FoundDiffers slots={data.map.slots} differs={data.differs} />
        <TasksBeside title="More work found" />
        <Ways />
      </div>
    </>
  )
}

/** The time, every half minute: enough for a clock of minutes. */
function useNow(): number {
  const [now, setNow] = useState(Date.now)
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 30_000)
    return () => clearInterval(timer)
  }, [])
  return now
}

/** The step at hand, large, with what to heed and one big target. */
function AtHand({
  step: s,
  index,
  disabled,
  onTick,
}: {
  step: Schemas['Step']
  index: number
  disabled: boolean
  onTick: () => void
}) {
  const fresh = useFresh(s.id)
  return (
    <section className="card border-t-gold border-t-3 p-4" aria-label="The step at hand">
      <div className="text-ink-2 num text-[12.5px]">
        step {index} · {PHASES[s.phase]?.toLowerCase()}
        {s.tool && ` · ${s.tool}`}
        {s.place && ` · ${s.place}`}
      </div>
      <p className="my-1.5 text-[21px] leading-snug font-semibold">{s.text}</p>
      {!!s.lines?.length && (
        <ol className="mb-1.5 list-decimal space-y-1 pl-6 text-[16px]">
          {s.lines.map((l) => (
            <li key={l}>{l}</li>
          ))}
        </ol>
      )}
      {s.number && <p className="num text-[15px]">{s.number}</p>}
      {s.hint && <p className="text-ink-2">{s.hint}</p>}
      {s.caution && <p className="text-refused">{s.caution}</p>}
      <Button
        kind="main"
        data-main-action
        disabled={disabled}
        aria-disabled={fresh}
        className="mt-3 min-h-14 w-full text-[17px]"
        onClick={() => !fresh && onTick()}
      >
        Done{s.seconds ? ` · about ${minutes(s.seconds)}` : ''}
      </Button>
      <Noted step={s.id} />
    </section>
  )
}

/** Has this step just come to be the one at hand? A press that was meant for the one before it is not meant for it. */
function useFresh(id: string): boolean {
  const [seen, setSeen] = useState(id)
  useEffect(() => {
    const timer = setTimeout(() => setSeen(id), AGAIN_MS)
    return () => clearTimeout(timer)
  }, [id])
  return seen !== id
}

/**
 * A label scanner types here and sends Enter: the right part ticks its step, a wrong one says so. The same code later goes to
 * the next open step of that number, but not where its serial says that it is the same piece.
 */
function Scan({ steps, onTick }: { steps: readonly Schemas['Step'][]; onTick: (id: string) => void }) {
  const [text, setText] = useState('')
  const [said, setSaid] = useState<{ ok: boolean; says: string } | null>(null)
  const number = useJobNumber()
  const once = useOnce()
  const edit = useEdit()
  const turn = useRef<Promise<void>>(Promise.resolve())
  // The server reads the label: a longer number is another part, though the planned one's stands inside it.
  const read = async (label: string) => {
    try {
      const found = await answer(
        client.POST('/api/jobs/{number}/bench/scan', { params: { path: { number } }, body: { text: label } }),
      )
      const job = jobNow(number)
      const mine = steps.filter((s) => s.number && s.number === found.number)
      const serial = (s: Schemas['Step']) => at(job, `/bench/said/${step(s.id)}/serial`)
      const same = found.serial ? mine.find((s) => serial(s) === found.serial) : undefined
      const open = same ? undefined : mine.find((s) => !at(job, `/bench/done/${step(s.id)}`))
      if (open) {
        onTick(open.id)
        if (found.serial) edit(`/bench/said/${step(open.id)}/serial`, found.serial)
      }
      setSaid({
        ok: found.outcome === 'planned' && !same,
        says: open
          ? `${found.says}: ticked “${open.text}”`
          : same
            ? `This very piece was scanned before, serial ${found.serial}: “${same.text}”.`
            : mine.length
              ? `${found.number} is fitted already.`
              : found.says,
      })
    } catch (e) {
      setSaid({ ok: false, says: (e as Error).message })
    }
  }
  const scan = (label: string) => {
    setText('')
    // One after the other: which step is open is known once the one before is ticked.
    once(label, () => void (turn.current = turn.current.then(() => read(label))))
  }
  if (!steps.some((s) => s.number)) return null
  return (
    <form
      className="no-print mb-2 flex items-center gap-3"
      onSubmit={(e) => {
        e.preventDefault()
        if (text.trim()) scan(text.trim())
      }}
    >
      <input
        data-scan
        aria-label="Scan a part as it goes in"
        placeholder="Scan a part as it goes in"
        className="num h-11 w-72"
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      {said && (
        <span role="alert" className={said.ok ? 'text-seats' : 'text-refused font-semibold'}>
          {said.says}
        </span>
      )}
    </form>
  )
}

type RowProps = {
  index: number
  step: Schemas['Step']
  first: boolean
  done: boolean
  next: boolean
  disabled: boolean
  onTick: () => void
}

function StepRow({ index, step: s, first, done, next, disabled, onTick }: RowProps) {
  return (
    <>
      {first && (
        <li className="border-hair border-t px-3 pt-2 first:border-t-0">
          <h2>{PHASES[s.phase]}</h2>
        </li>
      )}
      <li
        className={`border-hair grid grid-cols-[44px_28px_1fr_auto] items-start gap-2 px-3 py-1 ${next ? 'bg-gold-soft shadow-[inset_3px_0_0_var(--gold)]' : ''} ${done ? 'text-ink-2' : ''}`}
      >
        <button
          data-row
          type="button"
          role="checkbox"
          aria-checked={done}
          aria-label={s.text}
          disabled={disabled}
          className="grid h-11 w-11 place-items-center disabled:opacity-40"
          onClick={onTick}
        >
          <span className={`block h-6 w-6 rounded-sm border-2 ${done ? 'bg-gold border-gold' : 'border-ink-2'}`}>
            {done && <Tick />}
          </span>
        </button>
        <span className="num text-ink-2 pt-3">{index}</span>
        <div className="py-2.5">
          <div className={done ? '' : 'font-medium'}>{s.text}</div>
          {s.lines?.map((l) => (
            <div key={l} className="text-[13px]">
              {l}
            </div>
          ))}
          {s.hint && <div className="text-ink-2 text-[13px]">{s.hint}</div>}
          {s.caution && <div className="text-refused text-[13px]">{s.caution}</div>}
          {!next && <Noted step={s.id} small />}
        </div>
        <div className="num text-ink-2 pt-3 text-right whitespace-nowrap">
          {s.screws ? `${s.screws > 0 ? '+' : '−'}${Math.abs(s.screws)} screws ` : ''}
          {s.loosened ? `${Math.abs(s.loosened)} captive ` : ''}
          {s.tool} {s.source && s.source !== 'documented' ? `· ${s.source}` : ''}
        </div>
      </li>
    </>
  )
}
