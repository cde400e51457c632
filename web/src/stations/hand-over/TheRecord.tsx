import type { Schemas } from '../../api/client'
import { day, moment, money } from '../../words'
import { OUTCOMES } from '../prove/Prove'
import { MeasuredTable } from '../prove/Measured'
import { Thumb, usePhotographs } from '../bench/Photographs'
import { Paper } from '../../ui/Paper'

type View = Schemas['RecordView']
const DONE: Record<Schemas['Event']['what'], string> = {
  removed: 'Taken out',
  fitted: 'Fitted',
  task: 'Done',
  returned: 'Returned to the owner',
  shelf: 'To the workshop’s shelf',
  erased: 'Erased',
  stopped: 'Stopped',
}

/** The record as a paper: events, and nothing that did not happen. */
export function TheRecord({ data, view, closed }: { data: View; view: Schemas['JobView']; closed: string }) {
  const job = view.job
  const r = data.record
  return (
    <Paper head={`Record, job ${job.number} · ${job.customer || 'the owner'}`}>
      <header className="border-hair flex items-start justify-between border-b pb-3">
        <div>
          {data.logo && <img src={data.logo} alt="" className="mb-1 h-12 bg-white" />}
          <div className="font-label text-[16px] font-semibold">{data.workshop || 'The workshop'}</div>
          <div className="text-ink-2 text-[12.5px]">{data.address}</div>
          <div role="heading" aria-level={2} className="mt-2 text-[22px] font-semibold">
            {r.state === 'stopped' ? 'Record of a stopped job' : 'Record'} · job {job.number}
          </div>
          <div>
            {data.title}, {data.processor} · for {job.customer || 'the owner'}
          </div>
          <div className="text-ink-2">
            {closed
              ? `closed ${day(closed)}, ${job.hand_over?.outcome}`
              : r.state === 'stopped'
                ? 'stopped'
                : 'not closed yet'}
            {!!r.worked.length && ` · worked on by ${r.worked.join(', ')}`}
          </div>
        </div>
        <img src={`/api/jobs/${job.number}/qr.svg`} alt={`Code to job ${job.number}`} className="w-20 bg-white" />
      </header>
      <Section title="The trouble">{job.intake?.words || 'Not written down.'}</Section>
      {r.stopped && (
        <Section title="Stopped">
          {r.stopped.why}
          <Signed at={r.stopped.at} who={r.stopped.who} />
        </Section>
      )}
      <Section title="What was done">
        {r.events.filter((e) => e.what !== 'stopped').length ? (
          <table className="w-full">
            <tbody>
              {r.events
                .filter((e) => e.what !== 'stopped')
                .map((e, i) => (
                  <tr key={i} className="border-hair border-t align-top first:border-t-0">
                    <td className="w-40 py-1 pr-3">{DONE[e.what]}</td>
                    <td className="py-1 pr-3">{e.says}</td>
                    <td className="num py-1 pr-3">{e.number}</td>
                    <td className="text-ink-2 py-1 text-right text-[12px] whitespace-nowrap">
                      {moment(e.at)} {e.who}
                    </td>
                  </tr>
                ))}
            </tbody>
          </table>
        ) : (
          'No part was taken out and none was fitted.'
        )}
      </Section>
      {!!r.still_out.length && (
        <Section title="Taken out, not yet said where it went">{r.still_out.join('; ')}</Section>
      )}
      {!!r.noted.length && (
        <Section title="Noted at the bench">
          {r.noted.map((n) => (
            <div key={n}>{n}</div>
          ))}
        </Section>
      )}
      <Pictures />
      {!!r.not_done.length && <Section title="Planned and not done">{r.not_done.join('; ')}</Section>}
      {r.cost_minor !== null && (
        <Section title="Cost">
          {data.quote?.lines.map((l, i) => (
            <div key={i} className="flex justify-between gap-3">
              <span>{l.what}</span>
              <span className="num">{money(l.amount_minor, data.currency)}</span>
            </div>
          ))}
          <div className="border-hair mt-1 flex justify-between gap-3 border-t pt-1 font-semibold">
            <span>
              In all
              {data.quote && data.quote.tax_percent > 0 && (
                <span className="text-ink-2 font-normal">
                  {' '}
                  of it tax, {data.quote.tax_percent} %: {money(data.quote.tax_minor, data.currency)}
                </span>
              )}
            </span>
            <span className="num">{money(data.quote?.total_minor ?? r.cost_minor, data.currency)}</span>
          </div>
          {data.agreed && (
            <div>
              Agreed by {data.agreed.said_by} {data.agreed.how}
            </div>
          )}
        </Section>
      )}
      {!!r.compared.length && (
        <Section title="Measured before and after">
          <MeasuredTable compared={r.compared} />
        </Section>
      )}
      {!!r.expected.length && (
        <Section title={r.compared.length ? 'What was expected of it' : 'Expected of it, not measured'}>
          {r.expected.map((e) => `${e.label} ${e.says}`).join('; ')}
        </Section>
      )}
      {data.reports.map((p, i) => (
        <Section key={i} title={data.reports.length > 1 ? `Proof, reading ${i + 1}` : 'Proof'}>
          <p className="mb-1">{p.says}</p>
          <table className="w-full text-[13px]">
            <tbody>
              {p.proofs.map((x) => (
                <tr key={x.id} className="border-hair border-t">
                  <td className="py-0.5 pr-2">{x.title}</td>
                  <td className="py-0.5 pr-2">{x.found}</td>
                  <td className={`py-0.5 text-right ${OUTCOMES[x.outcome]?.text}`}>{OUTCOMES[x.outcome]?.word}</td>
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
        ['What to watch', job.hand_over?.watch],
        ['Warranty', job.hand_over?.warranty],
      ].map(
        ([title, text]) =>
          text && (
            <Section key={title} title={title!}>
              {text}
            </Section>
          ),
      )}
      <div className="mt-8 grid break-inside-avoid grid-cols-2 gap-8">
        <div className="border-ink border-t pt-1">Received: name, date</div>
        <div className="border-ink border-t pt-1">For {data.workshop || 'the workshop'}</div>
      </div>
      <footer className="text-ink-2 mt-4 text-[12px]">
        {data.chosen_at &&
          `Planned ${day(data.chosen_at)} with the prices and claims of that day, rules ${data.rules_version}. `}
        Wi-Fi and cellular use, damaged packs and warranty: local rules and the maker’s terms decide.
      </footer>
    </Paper>
  )
}

function Pictures() {
  const { data } = usePhotographs()
  if (!data?.length) return null
  return (
    <Section title="Photographs">
      <div className="flex flex-wrap gap-2">
        {data.map((p) => (
          <Thumb key={p.uid} photograph={p} />
        ))}
      </div>
    </Section>
  )
}

function Signed({ at, who }: { at?: string; who?: string }) {
  if (!at && !who) return null
  return (
    <span className="text-ink-2 block text-[12px]">
      {moment(at)} {who}
    </span>
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
