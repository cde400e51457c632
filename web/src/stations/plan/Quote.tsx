import { Fragment } from 'react'
import { answer, client } from '../../api/client'
import { useStation } from '../../api/job'
import { Button, ErrorNote } from '../../ui/basics'
import { day, inHouse, money, together } from '../../words'
import { Paper } from '../../ui/Paper'

/** The quote as a paper of its own: what is offered and why, with tax, what is not included, and room to agree. */
export function Quote() {
  const { data, error } = useStation('quote', (number) =>
    answer(client.GET('/api/jobs/{number}/quote', { params: { path: { number } } })),
  )
  if (!data) return <ErrorNote error={error} />
  const q = data.quote
  const notes = [...new Set(q.lines.map((l) => l.note).filter(Boolean))]
  const say = (minor: number) => money(minor, q.currency)
  return (
    <>
      <div className="no-print mb-2 flex items-center gap-3">
        <Button kind="main" data-main-action onClick={() => window.print()}>
          Print the quote
        </Button>
        <span className="text-ink-2">Made from the chosen plan; choose again to quote another.</span>
      </div>
      <Paper head={`Quote, job ${data.number} · ${data.workshop || 'the workshop'}`}>
        <header className="border-hair flex items-start justify-between border-b pb-3">
          <div>
            {data.logo && <img src={data.logo} alt="" className="mb-1 h-12 bg-white" />}
            <div className="font-label text-[17px] font-semibold">{data.workshop || 'The workshop'}</div>
            <div className="text-ink-2 text-[12.5px] whitespace-pre-line">{data.address}</div>
            <h1 className="mt-2">Quote, job {data.number}</h1>
            <div>
              {data.machine} · for {data.customer || 'the owner'}
            </div>
            <div className="text-ink-2">
              {data.title && `${data.title} · `}made {day(q.made_on)}
              {q.holds_until && `, holds until ${day(q.holds_until)}`}
            </div>
          </div>
          <img src={`/api/jobs/${data.number}/qr.svg`} alt={`Code to job ${data.number}`} className="w-20 bg-white" />
        </header>
        {!!q.answers.length && (
          <section className="mt-3">
            <h2 className="mb-1">What you asked for</h2>
            <dl className="grid grid-cols-[minmax(9rem,auto)_1fr] gap-x-4 gap-y-1 text-[15px]">
              {q.answers.map((a) => (
                <Fragment key={a.complaint}>
                  <dt className="font-semibold">{a.complaint}</dt>
                  <dd>{together(inHouse(a.says))}</dd>
                </Fragment>
              ))}
            </dl>
          </section>
        )}
        <section className="mt-3">
          <h2 className="mb-1">
            {q.answers.length ? 'What is done, and what it brings besides' : 'What is done, and what it brings'}
          </h2>
          <p>{together(inHouse([...q.does, ...q.besides].join(' ')))}</p>
        </section>
        <table className="mt-3 w-full">
          <thead>
            <tr className="text-left">
              <th className="py-1 font-medium">Item</th>
              <th className="py-1 font-medium">Number</th>
              <th className="py-1 text-right font-medium">{q.currency}</th>
            </tr>
          </thead>
          <tbody>
            {q.lines.map((l, i) => (
              <tr key={i} className="border-hair border-t align-top">
                <td className="py-1 pr-3">
                  {l.what}
                  {l.note && <sup className="text-ink-2"> {notes.indexOf(l.note) + 1}</sup>}
                </td>
                <td className="num py-1 pr-3">{l.number}</td>
                <td className="num py-1 text-right whitespace-nowrap">{say(l.amount_minor)}</td>
              </tr>
            ))}
            {!q.lines.length && (
              <tr>
                <td className="py-1" colSpan={3}>
                  Nothing is offered for money.
                </td>
              </tr>
            )}
          </tbody>
          <tfoot>
            {q.tax_percent > 0 && (
              <>
                <Sum label="Net" figure={say(q.net_minor)} />
                <Sum label={`Tax, ${q.tax_percent} %`} figure={say(q.tax_minor)} />
              </>
            )}
            <Sum label="In all" figure={say(q.total_minor)} strong />
          </tfoot>
        </table>
        {!!q.unproven.length && (
          <section className="mt-3">
            <h2 className="mb-1">What is not proven, and what that means for you</h2>
            <p>{inHouse(q.unproven.join(' '))}</p>
          </section>
        )}
        <section className="mt-3">
          <h2 className="mb-1">Not included</h2>
          <ul className="list-disc pl-5">
            {q.not_included.map((n) => (
              <li key={n}>{n}</li>
            ))}
          </ul>
        </section>
        {data.warranty && <p className="mt-3">{data.warranty}</p>}
        <section className="mt-4 break-inside-avoid">
          {data.agreed ? (
            <p>
              Agreed by {data.agreed.said_by} {data.agreed.how} on {day(data.agreed.at)}.
            </p>
          ) : (
            <div className="grid grid-cols-2 gap-8 pt-8">
              <div className="border-ink border-t pt-1">Agreed: name, date</div>
              <div className="border-ink border-t pt-1">For {data.workshop || 'the workshop'}</div>
            </div>
          )}
        </section>
        <footer className="text-ink-2 mt-4 text-[12px]">
          {notes.map((n, i) => (
            <p key={n}>
              <sup>{i + 1}</sup> {inHouse(n)}
            </p>
          ))}
          Wi-Fi and cellular use, damaged packs and warranty: local rules and the makers’ terms decide.
        </footer>
      </Paper>
    </>
  )
}

function Sum({ label, figure, strong }: { label: string; figure: string; strong?: boolean }) {
  return (
    <tr className={`border-hair border-t ${strong ? 'font-semibold' : ''}`}>
      <td className="py-1" colSpan={2}>
        {label}
      </td>
      <td className="num py-1 text-right whitespace-nowrap">{figure}</td>
    </tr>
  )
}
