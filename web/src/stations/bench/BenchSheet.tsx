import { type Schemas } from '../../api/client'
import { useJob, useJobNumber } from '../../api/job'
import { useWho } from '../../shell/who'
import { Button, ErrorNote } from '../../ui/basics'
import { minutes } from '../../words'
import { useBench } from './bench'
import { PHASES } from './phases'
import { ScrewTray } from './ScrewTray'
import { Paper } from '../../ui/Paper'

/** The bench sheet as a paper of its own: the order, the screw grid drawn, tools, cautions, and a box for each step. */
export function BenchSheet() {
  const { view } = useJob()
  const number = useJobNumber()
  const { workshop } = useWho()
  const { data, error } = useBench()
  if (!data || !view) return <ErrorNote error={error} />
  const { steps, tools, screws, seconds } = data.sheet
  return (
    <>
      <div className="no-print mb-2 flex items-center gap-3">
        <Button kind="main" data-main-action onClick={() => window.print()}>
          Print the bench sheet
        </Button>
        <span className="text-ink-2">
          For a bench without a screen; what is ticked on paper is ticked at Bench too.
        </span>
      </div>
      <Paper head={`Bench sheet, job ${number} · ${view.machine_title}`}>
        <header className="border-hair flex items-start justify-between border-b pb-3">
          <div>
            <div className="font-label text-[16px] font-semibold">{workshop || 'The workshop'}</div>
            <h1 className="mt-1">Bench sheet, job {number}</h1>
            <div>
              {view.machine_title}, {view.processor} · for {view.job.customer || 'the owner'}
            </div>
            <div className="text-ink-2">
              {minutes(seconds)} expected · {screws} screws out and in · tools: {tools.join(', ') || 'none'}
            </div>
          </div>
          <img src={`/api/jobs/${number}/qr.svg`} alt={`Code to job ${number}`} className="w-20 bg-white" />
        </header>
        {data.locked && <p className="text-refused mt-2 font-semibold">{data.locked}</p>}
        <div className="mt-3 max-w-[340px] break-inside-avoid">
          <ScrewTray steps={steps} />
        </div>
        {!steps.length && <p className="mt-3">This plan changes nothing in the machine.</p>}
        <ol className="mt-3">
          {steps.map((s, i) => (
            <Line key={s.id} step={s} index={i + 1} first={i === 0 || steps[i - 1]!.phase !== s.phase} />
          ))}
        </ol>
        <footer className="text-ink-2 mt-4 text-[12px]">
          Swollen, hot, hissing or leaking pack: stop, do not charge, move it away from anything that burns, follow
          local rules. Local rules and licensed practice go before this sheet.
        </footer>
      </Paper>
    </>
  )
}

function Line({ step: s, index, first }: { step: Schemas['Step']; index: number; first: boolean }) {
  return (
    <li className="break-inside-avoid">
      {first && <h2 className="mt-3 mb-1">{PHASES[s.phase]}</h2>}
      <div className="border-hair grid grid-cols-[22px_26px_1fr_auto] gap-2 border-t py-1">
        <span aria-hidden className="border-ink mt-0.5 block h-4 w-4 border-2" />
        <span className="num text-ink-2">{index}</span>
        <div>
          <div className="font-medium">
            {s.text} {s.number && <span className="num">{s.number}</span>}
          </div>
          {s.lines?.map((l) => (
            <div key={l} className="text-[13px]">
              {l}
            </div>
          ))}
          {s.hint && <div className="text-ink-2 text-[13px]">{s.hint}</div>}
          {s.caution && <div className="text-refused text-[13px] font-semibold">{s.caution}</div>}
        </div>
        <div className="num text-right text-[12.5px] whitespace-nowrap">
          {s.screws ? `${s.screws > 0 ? 'out' : 'in'} ${Math.abs(s.screws)}` : ''}
          {s.loosened ? `${Math.abs(s.loosened)} captive` : ''} {s.tool}
        </div>
      </div>
    </li>
  )
}
