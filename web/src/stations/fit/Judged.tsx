import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { MachineMap } from '../../map/MachineMap'
import { kindFor, vocabulary } from '../../words'
import { Compare } from './Compare'
import { previewOf } from './facts'
import { Matrix } from './Matrix'
import { lookedAt, type Looked } from './rows'
import { Why } from './Why'

type Props = {
  data: Schemas['FitStation']
  build: Readonly<Record<string, string>>
  onChoose: (slot: string, part: string) => void
}

/** The catalogue judged, of a job or of nobody's machine: parts by slots, the map, the reasons, and parts side by side. */
export function Judged({ data, build, onChoose }: Props) {
  const [seen, setSeen] = useState<Looked | null>(null)
  const [kind, setKind] = useState('')
  const [picked, setPicked] = useState<readonly string[]>([])
  const looked = lookedAt(seen, data, build)
  const pick = (number: string) =>
    setPicked(picked.includes(number) ? picked.filter((n) => n !== number) : [...picked, number].slice(-4))
  return (
    <>
      <div className="grid grid-cols-1 items-start gap-3 min-[1100px]:grid-cols-[minmax(0,1fr)_292px]">
        <div className="grid grid-cols-[minmax(0,280px)_minmax(0,1fr)] gap-3 min-[1100px]:order-2 min-[1100px]:grid-cols-1">
          <MachineMap
            compact
            map={data.map}
            height={248}
            preview={previewOf(looked, data)}
            selected={looked?.slot}
            onSelect={(id) => setKind(kindFor(data.map.slots.find((s) => s.id === id)?.kind ?? ''))}
          />
          <Why
            looked={looked}
            data={data}
            chosen={!!looked && build[looked.slot] === looked.row.number}
            onChoose={onChoose}
          />
        </div>
        <Matrix
          kind={kind}
          onKind={setKind}
          data={data}
          build={build}
          onLook={setSeen}
          onChoose={onChoose}
          looked={looked}
          picked={picked}
          onPick={pick}
        />
      </div>
      {picked.length > 0 && <Compare picked={picked} data={data} onClear={() => setPicked([])} onChoose={onChoose} />}
    </>
  )
}

/** Whose limit counts. */
export function LimitsChoice({ value, onChange }: { value: string; onChange: (limits: string) => void }) {
  return (
    <select
      aria-label="Whose limit counts"
      className="text-ink py-0 font-semibold"
      value={value}
      onChange={(e) => onChange(e.target.value)}
    >
      {vocabulary().limits.map(({ id, says }) => (
        <option key={id} value={id}>
          {says}
        </option>
      ))}
    </select>
  )
}
