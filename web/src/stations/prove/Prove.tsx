import { useState } from 'react'
import { answer, client, upload, type JobView, type Schemas } from '../../api/client'
import { at, useAct, useEdit, useJob, useJobNumber, useStation } from '../../api/job'
import { GoOn } from '../../shell/GoOn'
import { Button, ErrorNote, FileDrop, Heading, Note } from '../../ui/basics'
import { TextField } from '../../ui/fields'
import { Measure } from './Measured'
import { Remember } from './Remember'
import { Screen } from './Screen'

export const OUTCOMES: Record<string, { word: string; text: string }> = {
  as_expected: { word: 'as expected', text: 'text-seats' },
  better: { word: 'better', text: 'text-seats' },
  worse: { word: 'worse', text: 'text-refused font-semibold' },
  not_seen: { word: 'not seen', text: 'text-measure' },
}

export function Prove() {
  const { view } = useJob()
  const { data, error } = useStation('prove', (number) =>
    answer(client.GET('/api/jobs/{number}/prove', { params: { path: { number } } })),
  )
  const take = useAct<File>((n, file) => upload<JobView>(`/api/jobs/${n}/reading/prove`, file, file.name))
  const [pasted, setPasted] = useState('')
  if (!data) return <ErrorNote error={error} />
  const report = data.report
  const closed = !!at(view?.job, '/hand_over/closed_at')
  const proof = Object.fromEntries(report?.proofs.map((p) => [p.id, p]) ?? [])
  return (
    <>
      <Heading title="Does it show what it should?">
        Trial start first, adapter plugged in. What is expected follows from the plan; the reading says what is there.
      </Heading>
      <ErrorNote error={take.error} />
      {report && (
        <Note
          kind={
            report.proved ? 'seats' : report.proofs.some((p) => p.outcome === 'worse') ? 'refused' : 'measure_first'
          }
        >
          {report.says}
        </Note>
      )}
      <div className="grid grid-cols-[1.700fr_1fr] gap-4 max-[900px]:grid-cols-1">
        <table className="card w-full table-fixed self-start border-separate border-spacing-0">
          <thead>
            <tr>
              {['What', 'Expected', 'Found', 'Outcome'].map((h, i) => (
                <th key={i} className={`px-2.5 py-1.5 ${['w-[16%]', 'w-[23%]', 'w-[40%]', 'w-[21%]'][i]}`}>
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {data.expected.expectations.map((e) => (
              <ProofRow key={e.id} expectation={e} proof={proof[e.id]} />
            ))}
          </tbody>
        </table>
        <div className="min-w-0 space-y-3">
          <section className="card p-3">
            <h2 className="mb-1.5">The reading</h2>
            <FileDrop label="Drop the bundle of this machine" accept=".json,.zip" onFile={(f) => take.mutate(f)} />
            <textarea
              aria-label="Or paste it"
              placeholder="or paste it here"
              rows={2}
              className="mt-2 w-full"
              value={pasted}
              onChange={(e) => setPasted(e.target.value)}
            />
            <Button
              disabled={!pasted.trim() || take.isPending}
              onClick={() => take.mutate(new File([pasted], 'pasted.json'), { onSuccess: () => setPasted('') })}
            >
              Compare
            </Button>
            {data.readings > 1 && (
              <p className="text-ink-2 mt-1 text-[12.5px]">{data.readings} readings are kept; the last one counts.</p>
            )}
          </section>
          <Screen sockets={data.sockets} />
          {!!Object.keys(data.faults).length && (
            <Simulated faults={data.faults} onBundle={(file) => take.mutate(file)} />
          )}
          <Checks title="What worked before still works" names={data.expected.regression ?? []} />
          <Checks title="Before it leaves" names={data.expected.closing ?? []} words={['done', 'not yet']} />
          <Measure data={data} closed={closed} />
          {report && !!data.changed.length && <Remember slots={data.changed} />}
          <TextField path="/prove/notes" label="Notes" hint="place, what ran, power mode" rows={2} />
          <GoOn
            to="hand_over"
            label="Go on to Hand over"
            disabled={!!report && report.proofs.some((p) => p.outcome === 'worse')}
          />
        </div>
      </div>
    </>
  )
}

function ProofRow({ expectation: e, proof: p }: { expectation: Schemas['Expectation']; proof?: Schemas['Proof'] }) {
  const outcome = p ? OUTCOMES[p.outcome] : undefined
  return (
    <tr className="align-top [&>td]:border-t [&>td]:border-hair [&>td]:px-2.5 [&>td]:py-1.5">
      <td className={e.changed ? 'font-semibold' : ''}>{e.title}</td>
      <td>{e.wanted}</td>
      <td>
        {p?.found ?? <span className="text-ink-2">no reading yet</span>}
        {p?.note && <div className="text-ink-2 text-[12.5px]">{p.note}</div>}
        {!!p?.causes?.length && (
          <ol className="text-refused list-decimal pl-4 text-[12.5px]">
            {p.causes.map((c) => (
              <li key={c}>{c}</li>
            ))}
          </ol>
        )}
      </td>
      <td className={`whitespace-nowrap ${outcome?.text ?? ''}`}>{outcome?.word}</td>
    </tr>
  )
}

function Checks({
  title,
  names,
  words = ['works', 'fails'],
}: {
  title: string
  names: readonly string[]
  words?: readonly [string, string]
}) {
  const { view } = useJob()
  const edit = useEdit()
  if (!names.length) return null
  return (
    <section className="card p-3">
      <h2 className="mb-1.5">{title}</h2>
      {names.map((n) => {
        const value = String(at(view?.job, `/prove/checks/${n}`) ?? '')
        return (
          <div key={n} className="flex min-h-11 items-center justify-between">
            <span>{n}</span>
            <span className="flex gap-1">
              {(['works', 'fails'] as const).map((v) => (
                <Button
                  key={v}
                  aria-pressed={value === v}
                  className={`min-h-11 ${value === v ? 'border-gold bg-gold-soft' : ''}`}
                  onClick={() => edit(`/prove/checks/${n}`, value === v ? '' : v)}
                >
                  {words[v === 'works' ? 0 : 1]}
                </Button>
              ))}
            </span>
          </div>
        )
      })}
    </section>
  )
}

/** The stand-in for the customer's machine: it writes the bundle this job's laptop would. */
function Simulated({ faults, onBundle }: { faults: Record<string, string>; onBundle: (file: File) => void }) {
  const number = useJobNumber()
  const [fault, setFault] = useState('')
  const read = async () => {
    const response = await fetch(`/api/jobs/${number}/simulated/prove?faults=${fault}`)
    onBundle(new File([await response.blob()], `bundle-${number}.json`))
  }
  return (
    <section className="card p-3">
      <h2 className="mb-1.5">Simulated laptop</h2>
      <div className="flex gap-2">
        <select aria-label="Fault" className="min-w-0 flex-1" value={fault} onChange={(e) => setFault(e.target.value)}>
          <option value="">no fault</option>
          {Object.entries(faults).map(([id, says]) => (
            <option key={id} value={id}>
              {says}
            </option>
          ))}
        </select>
        <Button onClick={() => void read()}>Read it</Button>
      </div>
      <a className="text-ink-2 text-[12.5px] underline" href={`/api/jobs/${number}/simulated/prove?faults=${fault}`}>
        only save its bundle
      </a>
    </section>
  )
}
