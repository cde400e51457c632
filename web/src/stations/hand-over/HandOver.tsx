import { useMutation } from '@tanstack/react-query'
import { Link } from 'react-router'
import { answer, client, type Schemas } from '../../api/client'
import { at, useEdit, useJob, useJobNumber, useStation } from '../../api/job'
import { Button, ErrorNote, Heading } from '../../ui/basics'
import { ChoiceField, TextField } from '../../ui/fields'
import { minutes, money } from '../../words'
import { OUTCOMES } from '../prove/Prove'

export function HandOver() {
  const number = useJobNumber()
  const { view } = useJob()
  const edit = useEdit()
  const { data, error } = useStation('hand-over', (n) =>
    answer(client.GET('/api/jobs/{number}/hand-over', { params: { path: { number: n } } })),
  )
  if (!data || !view) return <ErrorNote error={error} />
  const closed = String(at(view.job, '/hand_over/closed_at') ?? '')
  return (
    <>
      <div className="no-print">
        <Heading title="What was done, in writing">
          <button type="button" className="underline" onClick={() => window.print()}>
            print the record
          </button>
          <a href={`/api/jobs/${number}/file`}>the job as a file</a>
        </Heading>
        <div className="mb-3 grid grid-cols-[1fr_1fr_180px_auto] items-end gap-3">
          <TextField path="/hand_over/left_out" label="Left out, and why" />
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
        {!!data.removed.length && <ToShelf number={view.job.number} />}
      </div>
      <TheRecord data={data} view={view} closed={closed} />
    </>
  )
}

/** What came out goes on the shelf, with its origin; a drive waits there until its data is dealt with. */
function ToShelf({ number }: { number: number }) {
  const put = useMutation({
    mutationFn: () => answer(client.POST('/api/jobs/{number}/shelf', { params: { path: { number } } })),
  })
  return (
    <div className="mb-3">
      <ErrorNote error={put.error} />
      {put.data ? (
        <p role="status">
          Put on the <Link to="/parts/shelf">shelf</Link>. Say there what became of the data on a drive.
        </p>
      ) : (
        <Button disabled={put.isPending} onClick={() => put.mutate()}>
          Put what came out on the shelf
        </Button>
      )}
    </div>
  )
}

function TheRecord({ data, view, closed }: { data: Schemas['RecordView']; view: Schemas['JobView']; closed: string }) {
  const job = view.job
  const plan = data.plan
  return (
    <article className="card max-w-[760px] p-6 print:border-0 print:p-0">
      <header className="border-hair flex items-start justify-between border-b pb-3">
        <div>
          <div className="font-label text-ink-2 text-[13px] font-semibold tracking-[0.05em] uppercase">
            Saltmarsh Refit · job {job.number}
          </div>
          <h1>{data.title}</h1>
          <div>
            {data.processor} · for {job.customer || 'the owner'}
          </div>
          <div className="text-ink-2">
            {closed ? `closed ${closed.slice(0, 10)}, ${job.hand_over?.outcome}` : 'not closed yet'}
          </div>
        </div>
        <img src={`/api/jobs/${job.number}/qr.svg`} alt={`Code to job ${job.number}`} className="w-20 bg-white" />
      </header>
      <Section title="The trouble">{job.intake?.words || 'Not written down.'}</Section>
      <Section title="Fitted">
        {plan?.changes.length ? (
          <table className="w-full">
            <tbody>
              {plan.changes.map((c) => (
                <tr key={c.slot} className="border-hair border-t align-top first:border-t-0">
                  <td className="py-1 pr-3">{c.slot_name}</td>
                  <td className="py-1 pr-3">
                    {c.part_name}
                    {!!c.accessories?.length && `, with ${c.accessories.join(', ')}`}
                    {c.short && <span className="text-ink-2"> ({c.short})</span>}
                  </td>
                  <td className="num py-1 pr-3">{c.part}</td>
                  <td className="num py-1 text-right">{money(c.price_minor + (c.accessories_minor ?? 0))}</td>
                </tr>
              ))}
            </tbody>
          </table>
        ) : (
          'No part was sold.'
        )}
      </Section>
      {!!data.removed.length && <Section title="Taken out, returned to the owner">{data.removed.join('; ')}</Section>}
      {plan && !!plan.changes.length && (
        <>
          <Section title="Cost">
            <span className="num">
              parts {money(plan.parts_minor + plan.accessories_minor)} + bench {minutes(plan.bench_seconds)}{' '}
              {money(plan.labour_minor)}
              {plan.credit_minor ? ` − credit ${money(plan.credit_minor)}` : ''} = {money(plan.cost_minor)}
            </span>
          </Section>
          <Section title="Before and after">
            <table className="w-full">
              <tbody>
                {plan.needs.map((n) => (
                  <tr key={n.need} className="border-hair border-t first:border-t-0">
                    <td className="py-1">{n.label}</td>
                    <td className="num py-1 text-right">
                      {n.today} → {n.after} {n.unit}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Section>
        </>
      )}
      {data.reports.map((r, i) => (
        <Section key={i} title={data.reports.length > 1 ? `Proof, reading ${i + 1}` : 'Proof'}>
          <p className="mb-1">{r.says}</p>
          <table className="w-full text-[13px]">
            <tbody>
              {r.proofs.map((p) => (
                <tr key={p.id} className="border-hair border-t">
                  <td className="py-0.5 pr-2">{p.title}</td>
                  <td className="py-0.5 pr-2">{p.found}</td>
                  <td className={`py-0.5 text-right ${OUTCOMES[p.outcome]?.text}`}>{OUTCOMES[p.outcome]?.word}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Section>
      ))}
      {[
        ['Notes from the bench', job.bench?.notes],
        ['Notes from the proof', job.prove?.notes],
        ['Left out, and why', job.hand_over?.left_out],
        ['Warranty', job.hand_over?.warranty],
      ].map(
        ([title, text]) =>
          text && (
            <Section key={title} title={title!}>
              {text}
            </Section>
          ),
      )}
      <footer className="text-ink-2 mt-4 text-[12px]">
        {data.chosen_at &&
          `Planned ${data.chosen_at.slice(0, 10)} with the prices and claims of that day, rules ${data.rules_version}. `}
        Radio and cellular use, damaged packs and warranty: local rules and the maker’s terms decide.
      </footer>
    </article>
  )
}

function Section({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section className="mt-3.5">
      <h2 className="mb-1">{title}</h2>
      {children}
    </section>
  )
}
