import { useState } from 'react'
import { answer, client, type Schemas, type Verdict } from '../../api/client'
import { at, useEdit, useJob, useStation } from '../../api/job'
import { MachineMap, type Preview } from '../../map/MachineMap'
import { GoOn } from '../../shell/GoOn'
import { ErrorNote, Heading, Note } from '../../ui/basics'
import { LIMITS, money } from '../../words'
import { Matrix } from './Matrix'
import { Why, type Looked } from './Why'

export function Fit() {
  const { view } = useJob()
  const edit = useEdit()
  const [looked, setLooked] = useState<Looked | null>(null)
  const [kind, setKind] = useState('')
  const { data, error } = useStation('fit', (number) =>
    answer(client.GET('/api/jobs/{number}/fit', { params: { path: { number } } })),
  )
  if (!data) return <ErrorNote error={error} />
  const build = (at(view?.job, '/fit/build') ?? {}) as Record<string, string>
  const choose = (slot: string, part: string) => {
    if (build[slot] === part) edit(`/fit/build/${slot}`, null, { op: 'remove' })
    else edit(`/fit/build/${slot}`, part)
  }
  return (
    <>
      <Heading title="What seats in this machine">
        <span>Drawn to scale. Limits taken as</span>
        <select
          aria-label="Whose limit counts"
          className="text-ink py-0 font-semibold"
          value={data.limits}
          onChange={(e) => edit('/fit/limits', e.target.value)}
        >
          {Object.entries(LIMITS).map(([id, words]) => (
            <option key={id} value={id}>
              {words}
            </option>
          ))}
        </select>
        <Schools data={data} />
      </Heading>
      <MachineMap
        map={data.map}
        height={272}
        preview={previewOf(looked, data)}
        selected={looked?.cell.slot}
        onSelect={(id) => setKind(partKind(data.map.slots.find((s) => s.id === id)?.kind ?? ''))}
      />
      <Why
        looked={looked}
        data={data}
        chosen={!!looked && build[looked.cell.slot] === looked.row.number}
        onChoose={choose}
      />
      <Matrix
        kind={kind}
        onKind={setKind}
        data={data}
        build={build}
        onLook={setLooked}
        onChoose={choose}
        looked={looked}
      />
      <div className="mt-3 grid grid-cols-[1fr_auto] items-start gap-4">
        <div>
          {data.fit.worth.map((w) => (
            <Note key={w.attribute} kind="measure_first">
              Settling {attributeWords(w.attribute, data)} decides {w.parts} more {w.parts === 1 ? 'part' : 'parts'}
              {w.from_minor !== null && `, ${money(w.from_minor)} to ${money(w.to_minor)}`}. {w.how}
            </Note>
          ))}
        </div>
        <GoOn to="plan" label="Carry this build to Plan" />
      </div>
    </>
  )
}

/** The kind of part that goes into a kind of slot. */
const partKind = (slot: string) => (slot === 'bay' ? 'bay_drive' : slot)

function attributeWords(attribute: string, data: Schemas['FitStation']): string {
  const [place, name = ''] = attribute.split('.')
  const slot = data.slots.find((s) => s.number === place)
  return `${slot ? `${slot.name}: ` : ''}${name.replace(/_(um|mm|gb|mv)$/, '').replaceAll('_', ' ')}`
}

function Schools({ data }: { data: Schemas['FitStation'] }) {
  const here = data.schools[data.limits] ?? 0
  const others = Object.entries(data.schools).filter(([id, n]) => id !== data.limits && n !== here)
  if (!others.length) return <span>Other schools give the same.</span>
  return (
    <span className="text-[12.5px]">
      {others
        .map(([id, n]) => `under ${id} ${Math.abs((n ?? 0) - here)} ${(n ?? 0) > here ? 'more' : 'fewer'} seat`)
        .join(' · ')}
    </span>
  )
}

function previewOf(looked: Looked | null, data: Schemas['FitStation']): Preview | null {
  if (!looked) return null
  const slot = data.map.slots.find((s) => s.id === looked.cell.slot)
  const size = looked.row.size ?? slot?.place
  if (!size) return null
  const { w_mm, h_mm } = size
  return {
    slot: looked.cell.slot,
    w_mm,
    h_mm,
    verdict: looked.cell.verdict as Verdict,
    name: looked.row.name,
  }
}
