import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { VerdictGlyph } from '../../glyphs/VerdictGlyph'
import { Button, ErrorNote } from '../../ui/basics'
import { VERDICTS } from '../../words'
import { slotOf } from './rows'
import { useFitSource } from './source'

type Props = {
  picked: readonly string[]
  data: Schemas['FitStation']
  onClear: () => void
  onChoose: (slot: string, part: string) => void
}

/** Up to four parts side by side in one slot. */
export function Compare({ picked, data, onClear, onChoose }: Props) {
  const source = useFitSource()
  const meets = data.slots.filter((_, i) =>
    picked.every((p) => data.rows.find((r) => r.number === p)?.cells.some((c) => slotOf(c) === i)),
  )
  const [wanted, setWanted] = useState('')
  const slot = meets.find((s) => s.number === wanted) ?? meets[0]
  const { data: found, error } = useQuery({
    queryKey: [...source.key, 'compare', slot?.number, picked],
    queryFn: () => source.compare(slot!.number, picked.join(',')),
    enabled: !!slot,
    placeholderData: (previous) => previous,
  })
  return (
    <section className="card mt-3 p-3" aria-label="Parts side by side">
      <div className="mb-1.5 flex items-center gap-3">
        <h2>Side by side</h2>
        {slot ? (
          <label className="flex items-center gap-1.5">
            in
            <select aria-label="Slot to compare in" value={slot.number} onChange={(e) => setWanted(e.target.value)}>
              {meets.map((s) => (
                <option key={s.number} value={s.number}>
                  {s.name}
                </option>
              ))}
            </select>
          </label>
        ) : (
          <span className="text-ink-2">No slot could meet all of these: choose parts of one kind.</span>
        )}
        <Button kind="quiet" className="ml-auto" onClick={onClear}>
          Put away
        </Button>
      </div>
      <ErrorNote error={error} />
      {found && slot && (
        <table className="w-full">
          <thead>
            <tr>
              <th className="px-2 py-1">What</th>
              {found.names.map((n, i) => (
                <th key={found.parts[i]} className="px-2 py-1">
                  {n}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            <tr className="border-hair border-t">
              <td className="text-ink-2 py-1 pr-2">Verdict</td>
              {found.judged.map((j) => (
                <td key={j.part} className="px-2 py-1">
                  <span className="flex items-center gap-1.5">
                    {j.verdict && <VerdictGlyph verdict={j.verdict} small />}
                    <span className={j.verdict ? VERDICTS[j.verdict].text : ''}>{j.short}</span>
                  </span>
                </td>
              ))}
            </tr>
            {found.rows.map((r) => (
              <tr key={r.what} className="border-hair border-t">
                <td className="text-ink-2 py-1 pr-2">{r.what}</td>
                {r.values.map((v, i) => (
                  <td key={i} className={`num px-2 py-1 ${r.differs ? 'font-semibold' : 'text-ink-2'}`}>
                    {v}
                  </td>
                ))}
              </tr>
            ))}
            <tr className="border-hair border-t">
              <td></td>
              {found.judged.map((j) => (
                <td key={j.part} className="px-2 py-1">
                  {(j.verdict === 'seats' || j.verdict === 'held_back') && (
                    <Button onClick={() => onChoose(slot.number, j.part)}>Put it in</Button>
                  )}
                </td>
              ))}
            </tr>
          </tbody>
        </table>
      )}
    </section>
  )
}
