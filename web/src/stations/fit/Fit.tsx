import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, type Schemas } from '../../api/client'
import { at, useEdit, useJob, useJobNumber, useStation } from '../../api/job'
import { MachineMap } from '../../map/MachineMap'
import { GoOn } from '../../shell/GoOn'
import { ErrorNote, Heading, Note } from '../../ui/basics'
import { kindFor, money, vocabulary } from '../../words'
import { AsUsual } from '../survey/AsUsual'
import { MeasureButton } from '../survey/Measure'
import { Compare } from './Compare'
import { Extras } from './Extras'
import { factOf, previewOf } from './facts'
import { Matrix } from './Matrix'
import { opensOn, type Looked } from './rows'
import { Schools } from './Schools'
import { FitContext, type FitSource } from './source'
import { Why } from './Why'

const NO_MAKES: readonly string[] = []

export function Fit() {
  const { view } = useJob()
  const edit = useEdit()
  const [seen, setSeen] = useState<Looked | null>(null)
  const [kind, setKind] = useState('')
  const [picked, setPicked] = useState<readonly string[]>([])
  const first = useStation('fit', (number) =>
    answer(client.GET('/api/jobs/{number}/fit', { params: { path: { number } } })),
  )
  // The best of each kind come first, and are drawn; the rest follows.
  const number = useJobNumber()
  const whole = useQuery({
    queryKey: ['job', number, 'station', 'fit', 'whole'],
    queryFn: () =>
      answer(client.GET('/api/jobs/{number}/fit', { params: { path: { number }, query: { whole: true } } })),
    enabled: !!first.data?.more,
    placeholderData: (previous) => previous,
    retry: false,
  })
  const error = first.error ?? whole.error
  const data = first.data?.more && whole.data ? whole.data : first.data
  if (!data) return <ErrorNote error={error} />
  const build = (at(view?.job, '/fit/build') ?? {}) as Record<string, string>
  // What was looked at stays looked at while its row is there; before that the best is.
  const looked = seen ?? opensOn(data, build)
  const choose = (slot: string, part: string) => {
    if (build[slot] === part) edit(`/fit/build/${slot}`, null, { op: 'remove' })
    else edit(`/fit/build/${slot}`, part)
  }
  const approved = at(view?.job, '/fit/makes') as string[] | undefined
  const path = { number }
  const source: FitSource = {
    key: ['job', number, 'station'],
    job: number,
    why: (slot, part) => answer(client.GET('/api/jobs/{number}/fit/why', { params: { path, query: { slot, part } } })),
    compare: (slot, parts) =>
      answer(client.GET('/api/jobs/{number}/fit/compare', { params: { path, query: { slot, parts } } })),
    schools: () => answer(client.GET('/api/jobs/{number}/fit/schools', { params: { path } })),
    makes: approved ?? NO_MAKES,
    approve: (makes) => edit('/fit/makes', makes),
  }
  const pick = (number: string) =>
    setPicked(picked.includes(number) ? picked.filter((n) => n !== number) : [...picked, number].slice(-4))
  return (
    <FitContext value={source}>
      <Heading title="What seats in this machine">
        <span>Drawn to scale. Limits taken as</span>
        <select
          aria-label="Whose limit counts"
          className="text-ink py-0 font-semibold"
          value={data.limits}
          onChange={(e) => edit('/fit/limits', e.target.value)}
        >
          {vocabulary().limits.map(({ id, says }) => (
            <option key={id} value={id}>
              {says}
            </option>
          ))}
        </select>
        <Schools limits={data.limits} />
      </Heading>
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
            onChoose={choose}
          />
        </div>
        <Matrix
          kind={kind}
          onKind={setKind}
          data={data}
          build={build}
          onLook={setSeen}
          onChoose={choose}
          looked={looked}
          picked={picked}
          onPick={pick}
        />
      </div>
      {picked.length > 0 && <Compare picked={picked} data={data} onClear={() => setPicked([])} onChoose={choose} />}
      <div className="mt-3 grid grid-cols-[1fr_auto] items-start gap-4">
        <div>
          <Extras extras={data.extras} />
          {data.worth.filter(alone).map((w) => (
            <Note key={w.attribute} kind="measure_first">
              <span className="flex items-start justify-between gap-3">
                <span>
                  Settling {w.label} decides {w.parts} more {w.parts === 1 ? 'part' : 'parts'}
                  {w.from_minor !== null && `, ${money(w.from_minor)} to ${money(w.to_minor)}`}. {w.how}
                </span>
                <Settle attribute={w.attribute} data={data} />
              </span>
            </Note>
          ))}
          <AsUsual usual={data.usual} word={data.as_usual} />
        </div>
        <GoOn to="plan" label="Carry this build to Plan" />
      </div>
    </FitContext>
  )
}

/** Does it decide a part without anything else being known? */
const alone = (w: Schemas['Worth']) => w.parts > 0

function Settle({ attribute, data }: { attribute: string; data: Schemas['FitStation'] }) {
  const fact = factOf(attribute, data)
  return fact ? <MeasureButton fact={fact} /> : null
}
