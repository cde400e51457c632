import { useQuery } from '@tanstack/react-query'
import { answer, client, type Schemas } from '../../api/client'
import { at, useEdit, useJob, useJobNumber, useStation } from '../../api/job'
import { GoOn } from '../../shell/GoOn'
import { ErrorNote, Heading, Note } from '../../ui/basics'
import { money } from '../../words'
import { AsUsual } from '../survey/AsUsual'
import { MeasureButton } from '../survey/Measure'
import { Extras } from './Extras'
import { factOf } from './facts'
import { Judged, LimitsChoice } from './Judged'
import { Schools } from './Schools'
import { FitContext, type FitSource } from './source'

const NO_MAKES: readonly string[] = []

export function Fit() {
  const { view } = useJob()
  const edit = useEdit()
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
  return (
    <FitContext value={source}>
      <Heading title="What seats in this machine">
        <span>Drawn to scale. Limits taken as</span>
        <LimitsChoice value={data.limits} onChange={(limits) => edit('/fit/limits', limits)} />
        <Schools limits={data.limits} />
      </Heading>
      <Judged data={data} build={build} onChoose={choose} />
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)_auto] items-start gap-4 max-[640px]:grid-cols-1">
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
