import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, type Schemas } from '../../api/client'
import { useJobNumber } from '../../api/job'
import { Button, ErrorNote } from '../../ui/basics'

type Outcome = Schemas['JobSighting']['outcome']
const WORDS: [Outcome, string][] = [
  ['worked', 'worked'],
  ['did_not', 'did not …'],
  ['worked_after', 'worked after …'],
]

type Cause = Schemas['JobSighting']['cause']
const CAUSES: [Cause, string][] = [
  ['part', 'it was not home, or is faulty'],
  ['machine', 'the machine does not take it'],
  ['unknown', 'nobody knows why'],
]

/** What each new part did on this machine: kept for the next of its kind, with the firmware. */
export function Remember({ slots }: { slots: readonly { slot: string; name: string; part: string }[] }) {
  const number = useJobNumber()
  const cache = useQueryClient()
  const [said, setSaid] = useState<Record<string, string>>({})
  const [after, setAfter] = useState<Record<string, string>>({})
  const [asking, setAsking] = useState('')
  const [kept, setKept] = useState<Record<string, number>>({})
  const [error, setError] = useState<Error | null>(null)
  if (!slots.length) return null
  const record = async (slot: string, outcome: Outcome, cause: Cause = '') => {
    if (outcome === 'did_not' && !cause) {
      setAsking(slot)
      return
    }
    try {
      const lines = await answer(
        client.POST('/api/jobs/{number}/sightings', {
          params: { path: { number } },
          body: { slot, outcome, after: after[slot] ?? '', note: '', cause },
        }),
      )
      setKept({ ...kept, [slot]: Math.max(...lines.map((l) => l.id)) })
      setSaid({ ...said, [slot]: WORDS.find(([o]) => o === outcome)?.[1] ?? '' })
      setError(null)
      await cache.invalidateQueries({ queryKey: ['sightings'] })
    } catch (e) {
      setError(e as Error)
    }
  }
  const takeBack = async (slot: string) => {
    try {
      await answer(client.DELETE('/api/sightings/{id}', { params: { path: { id: kept[slot]! } } }))
      setSaid({ ...said, [slot]: '' })
      setAsking('')
      await cache.invalidateQueries({ queryKey: ['sightings'] })
    } catch (e) {
      setError(e as Error)
    }
  }
  return (
    <section className="card p-3">
      <h2 className="mb-1">Remember what it did</h2>
      <ErrorNote error={error} />
      {slots.map((s) => (
        <div key={s.slot} className="border-hair border-t py-1 first:border-t-0">
          <div>
            <span className="font-semibold">{s.part}</span> <span className="text-ink-2">in {s.name}</span>
          </div>
          {said[s.slot] ? (
            <span className="text-seats">
              Kept: {said[s.slot]}.{' '}
              <Button kind="quiet" onClick={() => void takeBack(s.slot)}>
                take it back
              </Button>
            </span>
          ) : (
            <div className="flex flex-wrap items-center gap-1">
              {WORDS.map(([outcome, word]) => (
                <Button key={outcome} className="min-h-11" onClick={() => void record(s.slot, outcome)}>
                  {word}
                </Button>
              ))}
              {asking === s.slot &&
                CAUSES.map(([cause, word]) => (
                  <Button key={cause} className="min-h-11" onClick={() => void record(s.slot, 'did_not', cause)}>
                    {word}
                  </Button>
                ))}
              <input
                aria-label={`${s.part}: what it worked after`}
                placeholder="after what"
                className="min-w-0 flex-1"
                value={after[s.slot] ?? ''}
                onChange={(e) => setAfter({ ...after, [s.slot]: e.target.value })}
              />
            </div>
          )}
        </div>
      ))}
    </section>
  )
}
