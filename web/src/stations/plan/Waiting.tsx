import type { Schemas } from '../../api/client'
import { signed } from './PlanTable'
import { Button } from '../../ui/basics'
import { money } from '../../words'
import { visitSays } from './visit'
import { inOneLine, waitsFor } from './rows'

/** Better plans that rest on questions: what to settle, how long it takes, and what it would give. */
export function Waiting({
  waiting,
  busy,
  onChoose,
}: {
  waiting: readonly Schemas['Waiting'][]
  busy: boolean
  onChoose: (index: number) => void
}) {
  if (!waiting.length) return null
  return (
    <section className="card p-3">
      <h2 className="mb-1">What waits to be looked at</h2>
      {waiting.map((w, i) => (
        <div key={i} className="border-measure mb-2 border-l-3 pl-2">
          <div>
            <span className="num">{w.minutes} min</span> of looking may bring {inOneLine(w.plan)} for{' '}
            <span className="num">{money(w.plan.cost_minor)}</span>: {waitsFor(w)}
          </div>
          <ul className="text-[12.5px]">
            {w.acts?.map((act) => (
              <li key={act.name}>
                <span className="font-medium">{act.name}</span>, <span className="num">{act.minutes} min</span>:
                <ul className="pl-3">
                  {act.questions.map((q) => (
                    <li key={q.attribute + q.label}>
                      {q.label} <span className="text-ink-2">{q.how}</span>
                    </li>
                  ))}
                </ul>
              </li>
            ))}
          </ul>
          <Button
            className="mt-1"
            aria-label={`Choose, and look first: ${inOneLine(w.plan)}`}
            disabled={busy}
            onClick={() => onChoose(i)}
          >
            Choose, and look first
          </Button>
          <div className="text-ink-2 text-[12.5px]">
            If it does not turn out well, best value stays: {money(w.certain_minor)}, {signed(w.certain_gain)}.
            {w.visit && ` ${visitSays(w.visit)}`}
          </div>
        </div>
      ))}
    </section>
  )
}
