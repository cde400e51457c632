import { Link } from 'react-router'
import { answer, client, type Schemas } from '../../api/client'
import { at, useEdit, useJob, useJobNumber, useStation } from '../../api/job'
import { Button, ErrorNote, Heading, Note } from '../../ui/basics'
import { ChoiceField, TextField } from '../../ui/fields'
import { Gone } from './Gone'
import { TheRecord } from './TheRecord'

export function HandOver() {
  const number = useJobNumber()
  const { view } = useJob()
  const edit = useEdit()
  const { data, error } = useStation('hand-over', (n) =>
    answer(client.GET('/api/jobs/{number}/hand-over', { params: { path: { number: n } } })),
  )
  if (!data || !view) return <ErrorNote error={error} />
  const closed = String(at(view.job, '/hand_over/closed_at') ?? '')
  const record = data.record
  return (
    <>
      <div className="no-print">
        <Heading title={TITLES[record.state]}>
          <button type="button" className="underline" onClick={() => window.print()}>
            print the record
          </button>
          <a href={`/api/jobs/${number}/record`} download={`record-${number}.json`}>
            the workshop’s record
          </a>
          <a href={`/api/jobs/${number}/file`}>the job as a file, with all that happened</a>
        </Heading>
        {!!record.not_done.length && !record.stopped && (
          <Note kind="held_back">Planned and not done: {record.not_done.join('; ')}.</Note>
        )}
        <div className="mb-3 grid grid-cols-[1fr_1fr_1fr_160px_auto] items-end gap-3 max-[1100px]:grid-cols-2">
          <TextField path="/hand_over/left_out" label="Left out, and why" />
          <TextField path="/hand_over/watch" label="What to watch" />
          <TextField path="/hand_over/warranty" label="Warranty note" />
          <ChoiceField
            path="/hand_over/outcome"
            label="Outcome"
            options={[
              ['', 'not said yet'],
              ['done', 'done'],
              ['no part sold', 'no part sold'],
              ['stopped', 'stopped'],
            ]}
          />
          <Button
            kind="main"
            data-main-action
            disabled={!at(view.job, '/hand_over/outcome')}
            onClick={() => edit('/hand_over/closed_at', closed ? '' : new Date().toISOString())}
          >
            {closed ? 'Open it again' : 'Close the job'}
          </Button>
        </div>
        <Gone removed={record.events.filter((e) => e.what === 'removed')} gone={goneOf(view)} />
        <p className="mb-2">
          Measurements are added at <Link to={`/jobs/${number}/prove`}>Prove</Link>, later ones too.
        </p>
      </div>
      <TheRecord data={data} view={view} closed={closed} />
    </>
  )
}

const TITLES: Record<Schemas['Record']['state'], string> = {
  open: 'What was done so far, in writing',
  waiting: 'What was done so far, in writing',
  stopped: 'Stopped: what was done until then',
  done: 'What was done, in writing',
  'no part sold': 'No part sold, in writing',
}

const goneOf = (view: Schemas['JobView']) => (at(view.job, '/hand_over/gone') ?? {}) as Record<string, Schemas['Gone']>
