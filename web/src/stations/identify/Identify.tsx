import { answer, client, type Schemas } from '../../api/client'
import { at, useEdit, useJob, useStation } from '../../api/job'
import { GoOn } from '../../shell/GoOn'
import { Button, ErrorNote, Heading, Note } from '../../ui/basics'
import { TextField } from '../../ui/fields'

export function Identify() {
  const { view } = useJob()
  const { data, error } = useStation('identify', (number) =>
    answer(client.GET('/api/jobs/{number}/identify', { params: { path: { number } } })),
  )
  const edit = useEdit()
  const texts = String(at(view?.job, '/identify/texts') ?? '')
  const chosen = `${at(view?.job, '/identify/machine') ?? ''}/${at(view?.job, '/identify/configuration') ?? ''}`
  const choose = (c: Schemas['Candidate']) => {
    edit('/identify', { texts, machine: c.machine, configuration: c.configuration })
  }
  const likely = data?.candidates.filter((c) => data.remaining.includes(`${c.machine}/${c.configuration}`)) ?? []
  const others = data?.candidates.filter((c) => !likely.includes(c)) ?? []
  return (
    <>
      <Heading title="Which machine is it, exactly?">
        The same name and shell ship with different processors: memory ceiling and drive slots follow them.
      </Heading>
      <ErrorNote error={error} />
      <div className="grid grid-cols-[1fr_1.400fr] gap-4">
        <div className="space-y-3">
          <div className="card p-3">
            <TextField
              path="/identify/texts"
              label="What the labels say"
              hint="one a line; a scanner may type here"
              rows={6}
            />
            {data?.unread.map((t) => (
              <p key={t} className="text-measure mt-1 text-[12.5px]">
                Nothing carries “{t}”.
              </p>
            ))}
          </div>
          {data?.question && (
            <div className="card p-3">
              <h2 className="mb-1">Look next</h2>
              <p className="font-semibold">{data.question.ask}</p>
              <p className="text-ink-2 mb-2 text-[12.5px]">
                about {data.question.minutes} min, settles {data.question.bits.toFixed(1)} bit
              </p>
              <div className="flex flex-wrap gap-1.5">
                {data.question.answers.map((a) => (
                  <Button key={a} onClick={() => edit('/identify/texts', [texts, a].filter(Boolean).join('\n'))}>
                    {a}
                  </Button>
                ))}
              </div>
            </div>
          )}
        </div>
        <div className="space-y-3">
          <Note kind={data?.settled ? 'seats' : 'measure_first'}>{data?.says}</Note>
          <div className="card">
            {likely.map((c) => (
              <Row
                key={c.configuration}
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
                    key={c.machine + c.configuration}
                    candidate={c}
                    chosen={chosen === `${c.machine}/${c.configuration}`}
                    onChoose={() => choose(c)}
                  />
                ))}
              </details>
            )}
          </div>
          {!!data?.differences.length && <Differences data={data} likely={likely} />}
          <GoOn to="survey" label="Go on to Survey" disabled={chosen === '/'} />
        </div>
      </div>
    </>
  )
}

function Row({
  candidate: c,
  chosen,
  onChoose,
}: {
  candidate: Schemas['Candidate']
  chosen: boolean
  onChoose: () => void
}) {
  return (
    <button
      data-row
      type="button"
      aria-pressed={chosen}
      onClick={onChoose}
      className={`border-hair hover:bg-gold-soft flex w-full items-center justify-between gap-3 border-b px-3 py-2 text-left ${
        chosen ? 'bg-gold-soft shadow-[inset_3px_0_0_var(--gold)]' : ''
      }`}
    >
      <span>
        <span className="font-semibold">{c.title}</span>
        <span className="text-ink-2 ml-2">{c.processor}</span>
        {!!c.matched.length && <span className="text-seats block text-[12.5px]">matched: {c.matched.join(', ')}</span>}
        {!!c.against.length && (
          <span className="text-refused block text-[12.5px]">against: {c.against.join(', ')}</span>
        )}
      </span>
      <span className="num whitespace-nowrap">{chosen ? 'chosen' : `${Math.round(c.share * 100)} %`}</span>
    </button>
  )
}

function Differences({ data, likely }: { data: Schemas['Identification']; likely: Schemas['Candidate'][] }) {
  return (
    <div className="card p-3">
      <h2 className="mb-1">They differ in what matters</h2>
      <table className="w-full">
        <thead>
          <tr>
            <th></th>
            {likely.map((c) => (
              <th key={c.configuration} className="py-1 pr-2">
                {c.title.replace(/^\S+ /, '')}
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
