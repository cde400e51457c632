import type { Schemas } from '../../api/client'
import { at, useEdit, useJob } from '../../api/job'
import { NeedBar } from './NeedBar'
import { ends, figure, per } from './rows'
import { FigureInput } from '../../ui/figure'
import { lowered } from '../../words'

type NeedView = Schemas['NeedView']
type State = Schemas['NeedState']

/** Needs on their own scales with their weights; the weight moves here, the server answers with the plan. What has no
 * weight folds. */
export function Needs({
  needs,
  today = [],
  after = [],
  years = 0,
  figures = false,
}: {
  needs: readonly NeedView[]
  today?: readonly State[]
  after?: readonly State[]
  /** How far ahead the plan's figures are reckoned. */
  years?: number
  /** Whether the job may say its own figures here. */
  figures?: boolean
}) {
  const asked = needs.filter((n) => n.need.weight)
  const rest = needs.filter((n) => !n.need.weight)
  const row = (n: NeedView) => (
    <One
      key={idOf(n.need)}
      view={n}
      today={stateOf(n.need, today)}
      after={stateOf(n.need, after)}
      years={years}
      figures={figures}
    />
  )
  return (
    <div>
      {asked.map(row)}
      {!!rest.length && (
        <details className="mt-1">
          <summary className="text-ink-2 cursor-pointer text-[12.5px]">
            Not asked for here: {rest.map((n) => lowered(n.label)).join(', ')}
          </summary>
          {rest.map(row)}
        </details>
      )}
    </div>
  )
}

const idOf = (need: Schemas['Need']) => (need.slot ? `${need.kind}:${need.slot}` : need.kind)
const stateOf = (need: Schemas['Need'], states: readonly State[]) => states.find((s) => s.need === idOf(need))

type OneProps = { view: NeedView; today?: State; after?: State; years: number; figures: boolean }

function One({ view: n, today: now, after, years, figures }: OneProps) {
  const { view } = useJob()
  const edit = useEdit()
  const { need, label, unit } = n
  const fault = need.kind === 'fault'
  // What is used grows: a plan for years says what is free then, with it and without it.
  const then = years > 0 && need.kind === 'drive_space' && after
  const today = then || now
  const path = `/intake/needs/${need.kind}`
  const times = (key: string) => (key === 'growth_percent' ? 1 : per(unit))
  const was = (at(view?.job, path) ?? {}) as Partial<Schemas['NeedEdit']>
  const say = (said: Partial<Schemas['NeedEdit']>) =>
    edit(path, { floor: null, comfort: null, ceiling: null, growth_percent: null, weight: null, ...was, ...said })
  const weigh = (weight: number) => say({ weight })
  return (
    <div className="border-hair border-t py-1 first:border-t-0">
      <div className="flex items-baseline justify-between gap-2">
        <span className={need.weight ? '' : 'text-ink-2'}>{need.note || label}</span>
        {!fault && (
          <span className="num flex items-center gap-1 whitespace-nowrap">
            <Step
              label={`${label}: less weight`}
              sign="−"
              disabled={need.weight <= 0}
              onClick={() => weigh(Math.max(0, need.weight - 0.5))}
            />
            <span className="w-8 text-center">×{need.weight}</span>
            <Step label={`${label}: more weight`} sign="+" onClick={() => weigh(Math.min(100, need.weight + 0.5))} />
          </span>
        )}
      </div>
      {!fault && <NeedBar need={need} unit={unit} today={today?.today} after={after?.after} />}
      <div className="text-ink-2 flex justify-between gap-2 text-[11.5px]">
        <span>
          {fault
            ? after?.after[1]
              ? 'mended by this plan'
              : 'broken'
            : today
              ? `${then ? `in ${years} years` : 'today'} ${ends(today.today, unit)}${after && after.after[1] !== today.today[1] ? `, ${then ? 'with it' : 'then'} ${ends(after.after, unit)}` : ''}`
              : `comfort ${ends([need.comfort, need.comfort], unit)}`}
        </span>
        <span>{need.set_by}</span>
      </div>
      {figures && !fault && (
        <details className="text-[12px]">
          <summary className="text-ink-2 cursor-pointer">figures of this job</summary>
          <div className="grid grid-cols-4 gap-1.5 py-1">
            {FIGURES.map(([key, name]) => (
              <Figure
                key={key}
                label={`${label}: ${name}`}
                name={name}
                unit={key === 'growth_percent' ? '% a year' : unit}
                said={was[key] === null || was[key] === undefined ? null : was[key] / times(key)}
                derived={key === 'growth_percent' ? 'job’s' : figure(need[key] / times(key))}
                onSay={(value) => say({ [key]: value === null ? null : value * times(key) })}
              />
            ))}
          </div>
        </details>
      )}
    </div>
  )
}

const FIGURES = [
  ['floor', 'floor'],
  ['comfort', 'comfort'],
  ['ceiling', 'ceiling'],
  ['growth_percent', 'grows'],
] as const

/** One figure of a need; empty, it is as derived. */
function Figure({
  label,
  name,
  unit,
  said,
  derived,
  onSay,
}: {
  label: string
  name: string
  unit: string
  said: number | null
  derived: string
  onSay: (value: number | null) => void
}) {
  return (
    <label className="text-ink-2">
      {name}
      <FigureInput
        aria-label={`${label}, ${unit}`}
        title={unit}
        className="w-full px-1"
        late
        value={said}
        placeholder={derived}
        onFigure={onSay}
      />
    </label>
  )
}

function Step({
  label,
  sign,
  disabled,
  onClick,
}: {
  label: string
  sign: string
  disabled?: boolean
  onClick: () => void
}) {
  return (
    <button
      type="button"
      aria-label={label}
      disabled={disabled}
      onClick={onClick}
      className="border-hair bg-card hover:border-ink-2 h-6 w-6 rounded-sm border disabled:opacity-40"
    >
      {sign}
    </button>
  )
}
