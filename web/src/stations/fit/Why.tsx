import { useQuery } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import { Link } from 'react-router'
import type { Schemas } from '../../api/client'
import { VerdictGlyph } from '../../glyphs/VerdictGlyph'
import { Button, ErrorNote } from '../../ui/basics'
import { Because } from '../../ui/Because'
import { money, VERDICTS } from '../../words'
import { May } from '../../shell/May'
import { MeasureButton } from '../survey/Measure'
import { factOf } from './facts'
import { usable, verdictOf, type Looked } from './rows'
import { useFitSource } from './source'

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
      <div className="card text-ink-2 px-3 py-2 text-[13px] min-[1100px]:h-[calc(100vh-430px)]">
        Look at a verdict (mouse, or j k h l): the reasons stand here, and the part lies over its slot at true size.
        Enter puts it in.
      </div>
    )
  const { row, cell, slot } = looked
  const name = data.slots.find((s) => s.number === slot)?.name
  const verdict = verdictOf(cell)
  return (
    <div
      className="card flex flex-col gap-2 px-3 py-2 min-[1100px]:h-[calc(100vh-430px)] min-[1100px]:min-h-40"
      aria-live="polite"
    >
      <div className="min-h-0 min-w-0 flex-1 overflow-y-auto">
        <div className="flex items-center gap-2 font-semibold">
          <VerdictGlyph verdict={verdict} small />
          {row.name} in {name}: {VERDICTS[verdict].word.toLowerCase()}
        </div>
        <Reasons looked={looked} data={data} />
      </div>
      <div className="flex flex-wrap items-center justify-between gap-1">
        {(usable(cell) || chosen) && (
          <Button onClick={() => onChoose(slot, row.number)}>
            {chosen ? 'Take it out again' : `Put it in ${name}`}
          </Button>
        )}
        <Link className="text-ink-2 text-[12.5px] underline" to={`/parts/${encodeURIComponent(row.number)}`}>
          where else it goes
        </Link>
      </div>
    </div>
  )
}

function Reasons({ looked, data }: { looked: Looked; data: Schemas['FitStation'] }) {
  const source = useFitSource()
  // Moving along a row asks for the pair that is looked at last, not for each on the way.
  const { row, slot } = useDeferredValue(looked)
  const { data: why, error } = useQuery({
    queryKey: [...source.key, 'why', slot, row.number],
    queryFn: () => source.why(slot, row.number),
  })
  if (error) return <ErrorNote error={error} />
  if (!why) return null
  return (
    <>
      {!!why.accessories.length && (
        <p className="text-[13px]">
          With {why.accessories.join(', ')}, + {money(why.judgement.extra_minor)}.
        </p>
      )}
      {why.waste && <p className="text-held text-[13px]">{why.waste.says}</p>}
      <ul>
        {why.judgement.findings?.map((f, i) => {
          const fact = f.attribute ? factOf(f.attribute, data) : undefined
          return (
            <li key={i} className="text-[13px]">
              <span className={VERDICTS[f.verdict].text}>{f.says}</span> {f.remedy}{' '}
              <span className="font-semibold">{f.caution}</span>{' '}
              {f.how && <span className="text-measure">{f.how}</span>}{' '}
              {source.job && fact && <MeasureButton fact={fact} />}
              {source.job && f.attribute && !fact && !f.attribute.startsWith('part.') && (
                <Link className="underline" to={`/jobs/${source.job}/survey`}>
                  Survey
                </Link>
              )}{' '}
              <Link className="text-ink-2 num text-[11px] underline" to={`/rules#${f.rule}`}>
                {f.rule}
              </Link>{' '}
              <span className="text-ink-2 num text-[11px]">{(f.evidence ?? []).join(' · ')}</span>
            </li>
          )
        })}
      </ul>
      {why.seller && <AskSeller message={why.seller} columns={why.seller_columns ?? []} />}
      <details className="mt-1 text-[12.5px]">
        <summary className="text-ink-2 cursor-pointer">Why, from the claims on</summary>
        <Because because={why.because} aside={why.aside} />
      </details>
    </>
  )
}

/** What is open of a part, as one message to its seller; the answers go into the part's record at one place. */
function AskSeller({ message, columns }: { message: Schemas['SellerMessage']; columns: readonly string[] }) {
  const [copied, setCopied] = useState(false)
  const n = message.asks.length
  return (
    <details className="mt-1 text-[13px]" open>
      <summary className="cursor-pointer">
        Ask the seller, 5 min: {n} open {n === 1 ? 'question' : 'questions'}
      </summary>
      <pre className="bg-panel mt-1 p-2 font-sans whitespace-pre-wrap select-all">{message.text}</pre>
      <div className="mt-1 flex flex-wrap items-center gap-3">
        {/* Without a safe connection a browser has no clipboard: then one press marks the whole message. */}
        {window.isSecureContext && (
          <Button onClick={() => void navigator.clipboard.writeText(message.text).then(() => setCopied(true))}>
            {copied ? 'Copied' : 'Copy the message'}
          </Button>
        )}
        <May role="library" does="Its answers are typed by">
          <Link className="underline" to={`/parts/${encodeURIComponent(message.part)}?answered=${columns.join(',')}`}>
            Type the answers
          </Link>
        </May>
      </div>
    </details>
  )
}
