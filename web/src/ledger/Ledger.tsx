import { Popover } from 'radix-ui'
import { useLocation } from 'react-router'
import { useSyncExternalStore, type ReactNode } from 'react'
import { answer, client, type JobView, type Schemas } from '../api/client'
import { useStation } from '../api/job'
import { Note } from '../ui/basics'
import { minutes, money } from '../words'

type Tally = Schemas['Tally']

/** The running consequences, always there; every figure opens its sum. On a narrow screen one line that unfolds. */
export function Ledger({ view, children }: { view: JobView; children?: ReactNode }) {
  const known = !!view.job.identify?.configuration
  const narrow = useNarrow()
  const inside = known ? (
    <Known />
  ) : (
    <p className="text-ink-2">Once the machine is identified, money, minutes and what it becomes stand here.</p>
  )
  if (narrow)
    return (
      <aside aria-label="Ledger" className="no-print bg-panel border-hair shrink-0 border-t">
        <details>
          <summary className="flex min-h-11 cursor-pointer items-center px-3.5 font-semibold">
            {known ? <InOneLine /> : 'Tally'}
          </summary>
          <div className="max-h-[50vh] overflow-y-auto px-3.5 pb-3.5">
            {children}
            {inside}
          </div>
        </details>
      </aside>
    )
  return (
    <aside
      aria-label="Ledger"
      className="no-print bg-panel border-hair w-[236px] shrink-0 overflow-y-auto border-l p-3.5"
    >
      {children}
      {inside}
    </aside>
  )
}

const NARROW = window.matchMedia('(max-width: 900px)')

const useNarrow = () =>
  useSyncExternalStore(
    (changed) => {
      NARROW.addEventListener('change', changed)
      return () => NARROW.removeEventListener('change', changed)
    },
    () => NARROW.matches,
  )

function InOneLine() {
  const { data } = useTally()
  if (!data) return <>Tally</>
  const budget = data.budget_minor !== null ? ` of ${money(data.budget_minor, data.currency)}` : ''
  return (
    <span className="num">
      {money(data.total_minor, data.currency)}
      {budget}, {minutes(data.bench_seconds)}
    </span>
  )
}

function useTally() {
  // Up to Plan the ledger follows the build in hand; from Prepare on, the plan that was chosen.
  const planned = /(prepare|bench|prove|hand-over)$/.test(useLocation().pathname)
  const { data } = useStation(planned ? 'tally-planned' : 'tally', (number) =>
    answer(client.GET('/api/jobs/{number}/tally', { params: { path: { number }, query: { planned } } })),
  )
  return { data, planned }
}

function Known() {
  const { data, planned } = useTally()
  if (!data) return null
  return (
    <>
      <h2 className="mb-2">Tally</h2>
      <Money tally={data} />
      <h2 className="mt-4 mb-2">{planned ? 'What the plan makes of it' : 'After this build'}</h2>
      <Becomes tally={data} />
      <h2 className="mt-4 mb-2">Read before buying</h2>
      {data.advice.map((a, i) => (
        <Note key={i} kind={a.verdict}>
          {a.says}
        </Note>
      ))}
      {!data.advice.length && <p className="text-ink-2">Nothing stands against this build.</p>}
    </>
  )
}

function Line({ label, figure, strong }: { label: string; figure: string; strong?: boolean }) {
  return (
    <div className={`flex justify-between py-[3px] ${strong ? 'border-hair mt-1 border-t pt-1.5 font-semibold' : ''}`}>
      <span>{label}</span>
      <span className="num whitespace-nowrap">{figure}</span>
    </div>
  )
}

function Money({ tally: t }: { tally: Tally }) {
  const over = t.budget_minor !== null && t.total_minor > t.budget_minor
  const share = t.budget_minor ? Math.max(0, Math.round((100 * t.total_minor) / t.budget_minor)) : null
  return (
    <Popover.Root>
      <Popover.Trigger className="hover:bg-mat block w-full cursor-pointer rounded-sm text-left">
        <span className="sr-only">Show the sum: </span>
        <Line label="Parts" figure={money(t.parts_minor + t.accessories_minor, t.currency)} />
        {t.consumables_minor > 0 && <Line label="Work besides" figure={money(t.consumables_minor, t.currency)} />}
        <Line label={`Bench, ${minutes(t.bench_seconds)}`} figure={money(t.labour_minor, t.currency)} />
        {t.credit_minor > 0 && <Line label="Credit, parts out" figure={money(-t.credit_minor, t.currency)} />}
        <Line label="Total" figure={money(t.total_minor, t.currency)} strong />
        {share !== null && (
          <>
            <div className="bg-hair my-1.5 h-2">
              <div
                className={`h-2 ${over ? 'bg-refused' : 'bg-copper'}`}
                style={{ width: `${Math.min(100, share)}%` }}
              />
            </div>
            <div className={`text-[12px] ${over ? 'text-refused' : 'text-ink-2'}`}>
              {share}% of the {money(t.budget_minor, t.currency)} budget
            </div>
          </>
        )}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content side="left" sideOffset={8} className="card z-50 max-w-80 p-3 text-[13px]">
          <h2 className="mb-1">The sum</h2>
          {t.sum.map((line) => (
            <div key={line} className="py-0.5">
              {line}
            </div>
          ))}
          {t.earned_minor !== 0 && (
            <div className="border-hair text-ink-2 mt-1 border-t pt-1">
              Of it over what the parts cost the workshop: {money(t.earned_minor, t.currency)}
            </div>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

function Becomes({ tally }: { tally: Tally }) {
  return tally.becomes.map((b) => (
    <div key={b.label} className="flex justify-between gap-2 py-[3px]">
      <span>{b.label}</span>
      <span className={`num text-right whitespace-nowrap ${b.changed ? 'font-semibold' : 'text-ink-2'}`}>
        {b.changed ? `${short(b.today, b.after)} → ${b.after}` : b.after}
      </span>
    </div>
  ))
}

/** "8 GB → 24 GB" loses its first unit. */
function short(today: string, after: string): string {
  const unit = after.slice(after.indexOf(' '))
  return today.endsWith(unit) ? today.slice(0, -unit.length) : today
}
