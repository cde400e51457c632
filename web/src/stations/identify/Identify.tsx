import { useState } from 'react'
import { Link } from 'react-router'
import { answer, client, upload, type JobView, type Schemas } from '../../api/client'
import { at, useAct, useEdit, useJob, useStation } from '../../api/job'
import { GoOn } from '../../shell/GoOn'
import { Button, ErrorNote, FileDrop, Heading, Note, Tag } from '../../ui/basics'
import { TextField } from '../../ui/fields'
import { Row } from './Row'
import { Start } from './Start'
import { fixed } from '../../figures'

const NONE = 'none of these'

export function Identify() {
  const { view } = useJob()
  const { data, error } = useStation('identify', (n) =>
    answer(client.GET('/api/jobs/{number}/identify', { params: { path: { number: n } } })),
  )
  const take = useAct<File>((n, file) => upload<JobView>(`/api/jobs/${n}/reading/survey`, file, file.name))
  const edit = useEdit()
  const machine = String(at(view?.job, '/identify/machine') ?? '')
  const chosen = `${machine}/${at(view?.job, '/identify/configuration') ?? ''}`
  const choose = (c: Schemas['Candidate']) => {
    const before = at(view?.job, '/identify') as object | undefined
    edit('/identify', { ...before, machine: c.machine, configuration: c.configuration })
  }
  const likely = data?.candidates.filter((c) => data.remaining.includes(`${c.machine}/${c.configuration}`)) ?? []
  const others = data?.candidates.filter((c) => !likely.includes(c)) ?? []
  const read = !!at(view?.job, '/survey/reading')
  // The form is filled in anew when the server has read something else.
  const stamp = JSON.stringify([data?.unread, data?.doubts, data?.remaining, read])
  return (
    <>
      <Heading title="Which machine is it, exactly?">
        The same name and shell ship with different processors: memory ceiling and drive slots follow them.
      </Heading>
      <ErrorNote error={error ?? take.error} />
      <div className="grid gap-4 min-[900px]:grid-cols-[minmax(0,1fr)_minmax(0,1.4fr)]">
        <div className="space-y-3">
          <div className="card p-3">
            <TextField
              path="/identify/texts"
              label="What the labels say"
              hint="one a line; a scanner may type here"
              rows={5}
            />
            {data?.unread.map((t) => (
              <p key={t} className="text-measure mt-1 text-[12.5px]">
                Nothing carries “{t}”.
              </p>
            ))}
            <div className="mt-2 flex items-center gap-3">
              <FileDrop
                label={take.isPending ? 'Reading' : 'Drop a reading'}
                accept=".json,.zip"
                onFile={(f) => take.mutate(f)}
              />
              <span className="text-ink-2 text-[12.5px]">
                {' '}
                {read ? 'The running system’s own words count too.' : 'The running system names itself.'}
              </span>
            </div>
          </div>
          {data?.question && <NextQuestion question={data.question} />}
          <Answers />
        </div>
        <div className="space-y-3">
          <Note kind={data?.settled ? 'seats' : 'measure_first'}>{data?.says}</Note>
          {data?.doubts.map((d) => (
            <Note key={d} kind="refused">
              {d}
            </Note>
          ))}
          {data && !data.in_library && <NotHere data={data} stamp={stamp} read={read} />}
          <div className="card">
            {likely.map((c) => (
              <Row
                key={`${c.machine}/${c.configuration}`}
                candidate={c}
                chosen={chosen === `${c.machine}/${c.configuration}`}
                onChoose={() => choose(c)}
              />
            ))}
            {!!others.length && (
              <details open={!likely.length}>
                <summary className="text-ink-2 cursor-pointer px-3 py-2">
                  {others.length === 1 ? 'one other' : `${others.length} others`} in the library
                </summary>
                {others.map((c) => (
                  <Row
                    key={`${c.machine}/${c.configuration}`}
                    candidate={c}
                    chosen={chosen === `${c.machine}/${c.configuration}`}
                    onChoose={() => choose(c)}
                  />
                ))}
              </details>
            )}
          </div>
          {!!data?.differences.length && <Differences data={data} likely={likely} />}
          {data?.in_library && (
            <details open={!likely.length}>
              <summary className="text-ink-2 cursor-pointer text-[12.5px]">It is none of these: start it here</summary>
              <Start stamp={stamp} read={read} />
            </details>
          )}
          <GoOn to="survey" label="Go on to Survey" disabled={chosen === '/'} />
        </div>
      </div>
    </>
  )
}

/** The best next thing to look at, with the answers the library expects, one of its own, or none. */
function NextQuestion({ question: q }: { question: Schemas['Question'] }) {
  const edit = useEdit()
  const [other, setOther] = useState('')
  const say = (text: string) => edit(`/identify/answers/${q.kind}`, text)
  return (
    <div className="card p-3">
      <h2 className="mb-1">Look next</h2>
      <p className="font-semibold">{q.ask}</p>
      <p className="text-ink-2 mb-2 text-[12.5px]">
        about {q.minutes} min, settles {fixed(q.bits, 1)} bit
      </p>
      <div className="flex flex-wrap gap-1.5">
        {q.answers.map((a) => (
          <Button key={a} onClick={() => say(a)}>
            {a}
          </Button>
        ))}
      </div>
      <form
        className="mt-2 flex gap-1.5"
        onSubmit={(e) => {
          e.preventDefault()
          if (other.trim()) say(other.trim())
          setOther('')
        }}
      >
        <input
          aria-label="Another answer"
          placeholder="something else"
          className="num min-w-0 flex-1"
          value={other}
          onChange={(e) => setOther(e.target.value)}
        />
        <Button type="submit" disabled={!other.trim()}>
          Say it
        </Button>
      </form>
      <div className="mt-1.5 flex gap-3">
        <Button kind="quiet" onClick={() => say(NONE)}>
          none of these
        </Button>
        <Button kind="quiet" onClick={() => say('')}>
          cannot be read
        </Button>
      </div>
    </div>
  )
}

/** What was answered stays with the job and can be taken back. */
function Answers() {
  const { view } = useJob()
  const edit = useEdit()
  const answers = (at(view?.job, '/identify/answers') ?? {}) as Record<string, string>
  if (!Object.keys(answers).length) return null
  return (
    <div className="card p-3">
      <h2 className="mb-1">Answered</h2>
      {Object.entries(answers).map(([kind, text]) => (
        <div key={kind} className="flex items-center justify-between gap-2">
          <span>
            <Tag>{kind.replace('_', ' ')}</Tag> <span className="num">{text || 'cannot be read'}</span>
          </span>
          <Button kind="quiet" onClick={() => edit(`/identify/answers/${kind}`, null, { op: 'remove' })}>
            take back
          </Button>
        </div>
      ))}
    </div>
  )
}

/** Relatives warn; the machine itself is started here. */
function NotHere({ data, stamp, read }: { data: Schemas['Identification']; stamp: string; read: boolean }) {
  return (
    <>
      <Start stamp={stamp} read={read} />
      {!!data.relatives.length && (
        <p className="text-ink-2 text-[12.5px]">
          Nearest relatives, as a warning and no more: {data.relatives.map((r) => r.title).join(', ')}. Their limits and
          slots are theirs.{' '}
          {data.relatives[0] && (
            <Link
              className="underline"
              to={`/machines/edit?copy=${data.relatives[0].machine}&configuration=${data.relatives[0].configuration}`}
            >
              Copy {data.relatives[0].title} in the editor
            </Link>
          )}
        </p>
      )}
    </>
  )
}

function Differences({ data, likely }: { data: Schemas['Identification']; likely: Schemas['Candidate'][] }) {
  return (
    <div className="card overflow-x-auto p-3">
      <h2 className="mb-1">They differ in what matters</h2>
      <table className="w-full">
        <thead>
          <tr>
            <th className="py-1 pr-2">What</th>
            {likely.map((c) => (
              <th key={`${c.machine}/${c.configuration}`} className="py-1 pr-2">
                {c.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {data.differences.map((d) => (
            <tr key={d.what} className="border-hair border-t">
              <td className="text-ink-2 py-1 pr-2">{d.what}</td>
              {d.values.map((v, i) => (
                <td key={i} className="num py-1 pr-2">
                  {v}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
