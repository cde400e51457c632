import type { Schemas } from '../../api/client'
import { VerdictGlyph } from '../../glyphs/VerdictGlyph'
import { Button } from '../../ui/basics'
import { money, VERDICTS } from '../../words'

export type Looked = { row: Schemas['PartRow']; cell: Schemas['Judgement'] }
type Props = {
  looked: Looked | null
  data: Schemas['FitStation']
  chosen: boolean
  onChoose: (slot: string, part: string) => void
}

/** Why the verdict that is looked at is what it is: every finding, its sources, its remedy. */
export function Why({ looked, data, chosen, onChoose }: Props) {
  if (!looked)
    return (
      <div className="card text-ink-2 my-3 h-[104px] px-3 py-2">
        Look at a verdict (mouse, or j k h l): the reasons stand here, and the part lies over its slot at true size.
        Enter puts it in.
      </div>
    )
  const { row, cell } = looked
  const slot = data.slots.find((s) => s.number === cell.slot)?.name
  const usable = cell.verdict === 'seats' || cell.verdict === 'held_back'
  return (
    <div className="card my-3 grid h-[104px] grid-cols-[1fr_auto] gap-3 px-3 py-2" aria-live="polite">
      <div className="min-w-0 overflow-y-auto">
        <div className="flex items-center gap-2 font-semibold">
          {cell.verdict && <VerdictGlyph verdict={cell.verdict} small />}
          {row.name} in {slot}: {cell.verdict && VERDICTS[cell.verdict].word.toLowerCase()}
          {!!cell.accessories?.length && (
            <span className="font-normal">
              with {cell.accessories.join(', ')}, + {money(cell.extra_minor)}
            </span>
          )}
        </div>
        <ul>
          {cell.findings?.map((f, i) => (
            <li key={i} className="text-[13px]">
              <span className={VERDICTS[f.verdict].text}>{f.says}</span> {f.remedy}{' '}
              <span className="font-semibold">{f.caution}</span>{' '}
              {f.how && <span className="text-measure">{f.how}</span>}{' '}
              <span className="text-ink-2 num text-[11px]">{[f.rule, ...(f.evidence ?? [])].join(' · ')}</span>
            </li>
          ))}
        </ul>
      </div>
      <div>
        {(usable || chosen) && (
          <Button onClick={() => onChoose(cell.slot, row.number)}>
            {chosen ? 'Take it out again' : `Put it in ${slot}`}
          </Button>
        )}
      </div>
    </div>
  )
}
