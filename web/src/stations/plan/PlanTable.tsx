import type { Schemas } from '../../api/client'
import { Button, Tip } from '../../ui/basics'
import { inHouse, minutes, money, together } from '../../words'
import { ends, inOneLine, type Row } from './rows'
import { fixed } from '../../figures'

type Point = Schemas['PlanPoint']

/** The plans to choose from, one row a build; two of them can be laid side by side. */
export function PlanTable({
  rows,
  chosen,
  looked,
  onLook,
  beside,
  onBeside,
  busy,
  onChoose,
  makes,
}: {
  rows: readonly Row[]
  chosen?: string
  looked: string
  onLook: (key: string) => void
  beside: readonly string[]
  onBeside: (key: string) => void
  busy: boolean
  onChoose: (row: Row) => void
  makes: Schemas['PlanStation']['makes']
}) {
  return (
    <table className="card w-full">
      <thead>
        <tr className="text-left">
          <th className="px-2 py-1 font-medium">Plan</th>
          <th className="px-2 py-1 text-right font-medium">Cost</th>
          <th className="px-2 py-1 text-right font-medium">Points</th>
          <th className="px-2 py-1 font-medium">What is done</th>
          <th className="px-1 py-1 text-center font-medium">
            <span className="sr-only">Side by side</span>
          </th>
          <td />
        </tr>
      </thead>
      <tbody>
        {rows.map((r) => (
          <tr
            key={r.key}
            data-row
            tabIndex={-1}
            aria-selected={looked === r.key}
            onClick={() => onLook(r.key)}
            onFocus={() => onLook(r.key)}
            className={`border-hair cursor-pointer border-t align-top ${looked === r.key ? 'bg-gold-soft' : ''}`}
          >
            <td className="px-2 py-1.5">
              <button type="button" className="text-left font-semibold" onClick={() => onLook(r.key)}>
                {r.names.join(' = ')}
              </button>
              {chosen && r.names.length > 0 && r.stance === chosen && (
                <span className="text-ink-2 block text-[12px]">chosen</span>
              )}
            </td>
            <td className="num px-2 py-1.5 text-right whitespace-nowrap">
              <Tip text={sumOf(r.plan)}>
                <button type="button" className="cursor-help">
                  {money(r.plan.cost_minor)}
                </button>
              </Tip>
            </td>
            <td className="num px-2 py-1.5 text-right whitespace-nowrap">
              <Tip text={needsOf(r.plan)}>
                <button type="button" className="cursor-help text-right">
                  {signed(r.points)}
                  {!!r.plan.years && (
                    <span className="text-ink-2 block max-w-[76px] text-[11px] whitespace-normal">
                      {signed(r.plan.benefit)} in {r.plan.years} years
                    </span>
                  )}
                </button>
              </Tip>
            </td>
            <td className="px-2 py-1.5 text-[13px]">
              {inOneLine(r.plan)}
              {failing(r.plan, makes).map((f) => (
                <span key={f} className="text-held block text-[12.5px]">
                  {f}
                </span>
              ))}
              {r.against.map((a) => (
                <span key={a} className="text-refused block text-[12.5px]">
                  {a}
                </span>
              ))}
            </td>
            <td className="px-1 py-1.5 text-center">
              <input
                type="checkbox"
                aria-label={`Lay ${r.names[0]} side by side`}
                checked={beside.includes(r.key)}
                onClick={(e) => e.stopPropagation()}
                onChange={() => onBeside(r.key)}
              />
            </td>
            <td className="px-2 py-1">
              <Button data-cell disabled={busy || !!r.against.length} onClick={() => onChoose(r)}>
                {chosen === r.stance ? 'Choose again' : 'Choose'}
                <span className="sr-only"> {r.names.join(' = ')}</span>
              </Button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** Makes in a plan whose parts did not work at this workshop before. */
const failing = (p: Point, makes: Schemas['PlanStation']['makes']) =>
  [...new Set(p.changes.map((c) => c.maker ?? ''))]
    .filter((m) => (makes[m]?.failed ?? 0) > 0)
    .map((m) => `${m}: ${makes[m]!.failed} of ${makes[m]!.tried} did not work here`)

export const signed = (points: number) => `${points < 0 ? '−' : '+'} ${fixed(Math.abs(points), 1)}`

/** What one says to the owner of a plan, in their own words. */
export function ToTheOwner({ row }: { row: Row }) {
  return (
    <section className="card border-l-copper border-l-4 p-3" aria-label="What to say to the owner">
      <h2 className="mb-1">What to say to the owner: {row.names.join(' = ')}</h2>
      <p className="text-[15px]">{together(inHouse(row.plan.for_owner))}</p>
    </section>
  )
}

/** One plan opened: what it is chosen by, what it leaves short, how the system gets over. */
export function Opened({ row, told }: { row: Row; told: boolean }) {
  const copy = row.plan.copy_path
  return (
    <section className="card p-3" aria-label={`About ${row.names[0]}`}>
      {!told && <p className="mb-1">{together(inHouse(row.plan.for_owner))}</p>}
      {row.says.map((s) => (
        <p key={s} className="text-ink-2 text-[12.5px]">
          {s}
        </p>
      ))}
      {row.unmet.map((u) => (
        <p key={u} className="text-held text-[12.5px]">
          {u}
        </p>
      ))}
      {copy && (
        <details className="mt-1">
          <summary className="cursor-pointer">
            {copy.says}
            {copy.minutes !== null && ` About ${copy.minutes} min unattended.`}
            {copy.fits === false && <span className="text-refused"> It does not hold what is used.</span>}
          </summary>
          <p className="text-ink-2 text-[12.5px]">
            {[...(copy.buys ?? []).map((b) => `To be bought: ${b}.`), ...(copy.must ?? [])].join(' ')}
            {!!copy.clean?.length && ` A clean install instead takes: ${copy.clean.join(', ')}.`}
          </p>
        </details>
      )}
    </section>
  )
}

/** Two plans, need by need. */
export function SideBySide({ a, b }: { a: Row; b: Row }) {
  const money2 = (p: Point) => [
    ['Cost', money(p.cost_minor)],
    ['Parts', money(p.parts_minor + p.accessories_minor)],
    ['Bench', `${minutes(p.bench_seconds)}, ${money(p.labour_minor)}`],
    [p.years ? `Points in ${p.years} years` : 'Points', signed(p.benefit)],
  ]
  const other = new Map(b.plan.needs.map((n) => [n.need, n]))
  return (
    <table className="card w-full" aria-label="Side by side">
      <thead>
        <tr className="text-left">
          <td />
          <th className="px-2 py-1 font-semibold">{a.names.join(' = ')}</th>
          <th className="px-2 py-1 font-semibold">{b.names.join(' = ')}</th>
        </tr>
      </thead>
      <tbody>
        {money2(a.plan).map(([label, text], i) => (
          <tr key={label} className="border-hair border-t">
            <th className="px-2 py-1 text-left font-medium">{label}</th>
            <td className="num px-2 py-1">{text}</td>
            <td className="num px-2 py-1">{money2(b.plan)[i]![1]}</td>
          </tr>
        ))}
        {a.plan.needs.map((n) => (
          <tr key={n.need} className="border-hair border-t">
            <th className="px-2 py-1 text-left font-medium">{n.label}</th>
            <td className="num px-2 py-1">{ends(n.after, n.unit)}</td>
            <td className="num px-2 py-1">{other.has(n.need) ? ends(other.get(n.need)!.after, n.unit) : '–'}</td>
          </tr>
        ))}
        <tr className="border-hair border-t align-top">
          <th className="px-2 py-1 text-left font-medium">What is done</th>
          <td className="px-2 py-1 text-[13px]">{inOneLine(a.plan)}</td>
          <td className="px-2 py-1 text-[13px]">{inOneLine(b.plan)}</td>
        </tr>
      </tbody>
    </table>
  )
}

const sumOf = (p: Point) =>
  [
    `parts ${money(p.parts_minor)}`,
    p.accessories_minor ? `+ accessories ${money(p.accessories_minor)}` : '',
    p.consumables_minor ? `+ consumables ${money(p.consumables_minor)}` : '',
    `+ bench ${minutes(p.bench_seconds)} ${money(p.labour_minor)}`,
    p.credit_minor ? `− credit ${money(p.credit_minor)}` : '',
    `= ${money(p.cost_minor)}`,
  ]
    .filter(Boolean)
    .join('\n')

const needsOf = (p: Point) =>
  p.needs
    .map(
      (n) =>
        `${n.label}${p.years && n.need === 'drive_space' ? ` in ${p.years} years` : ''}: ${ends(n.today, n.unit)} → ${ends(n.after, n.unit)}, met ${pct(n.met_today)} → ${pct(n.met_after)} %, × ${n.weight} = ${fixed(n.points, 1)}`,
    )
    .join('\n')
const pct = (range: readonly number[]) => ends(range.map((x) => Math.round(100 * x)))
