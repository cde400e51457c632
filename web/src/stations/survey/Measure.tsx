import { useState } from 'react'
import { answer, client } from '../../api/client'
import { step, useAct, useEdit } from '../../api/job'
import type { Fact } from '../../machine/Facts'
import { Button, ErrorNote } from '../../ui/basics'

/** "B or M": two that cannot be told apart, where there are few. */
function eitherOf(options: readonly string[]): string[] {
  if (options.length > 4) return []
  return options.flatMap((a, i) => options.slice(i + 1).map((b) => `${a} or ${b}`))
}

/** Unknown is measured on the spot: the tool, the way, and the figure in the unit shown. */
export function MeasureButton({ fact, says }: { fact: Fact; says?: string }) {
  const edit = useEdit()
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState(fact.options?.[0] ?? '')
  const set = useAct<string>((number, value) =>
    answer(
      client.POST('/api/jobs/{number}/survey/measured', {
        params: { path: { number } },
        body: { attribute: fact.attribute, typed: value },
      }),
    ),
  )
  if (!open)
    return (
      <>
        {fact.claims.some((c) => c.source === 'measured') && (
          <Button
            kind="quiet"
            aria-label={`Take back the measurement of ${fact.label}`}
            onClick={() => edit(`/survey/measured/${step(fact.attribute)}`, null, { op: 'remove' })}
          >
            take back
          </Button>
        )}
        <Button
          kind="quiet"
          onClick={() => setOpen(true)}
          aria-label={fact.known ? `${fact.label}: change for this machine` : `Measure ${fact.label}`}
        >
          {fact.known ? 'change for this machine' : 'measure'}
        </Button>
      </>
    )
  const choose = (fact.kind === 'choice' || fact.kind === 'flag') && !!fact.options?.length
  return (
    <form
      className="ml-auto w-52 text-left whitespace-normal"
      onSubmit={(e) => {
        e.preventDefault()
        set.mutate(typed, { onSuccess: () => setOpen(false) })
      }}
    >
      <p className="text-ink-2 text-[12px]">
        {fact.tool && <span className="text-ink font-semibold">With {fact.tool}. </span>}
        {fact.measure} {says}
      </p>
      <ErrorNote error={set.error} />
      <div className="flex items-center gap-1">
        {choose ? (
          <select
            aria-label={fact.label}
            className="min-w-0 flex-1"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          >
            {fact.options?.map((o) => (
              <option key={o}>{o}</option>
            ))}
            {fact.kind === 'choice' &&
              eitherOf(fact.options ?? []).map((o) => (
                <option key={o} value={o}>
                  {o}
                </option>
              ))}
          </select>
        ) : (
          <input
            autoFocus
            aria-label={`${fact.label} ${fact.unit}`}
            className="num w-16 flex-1"
            title={fact.kind === 'number' ? 'A figure, or "1.35 or more", "at most 2", "42 or 60"' : undefined}
            placeholder={fact.kind === 'number' ? 'or more, at most' : ''}
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
            onKeyDown={(e) => e.key === 'Escape' && setOpen(false)}
          />
        )}
        <span className="text-ink-2">{fact.unit}</span>
        <Button type="submit" disabled={!typed}>
          Keep
        </Button>
        <Button kind="quiet" onClick={() => setOpen(false)}>
          Leave
        </Button>
      </div>
    </form>
  )
}
