import { useNavigate } from 'react-router'
import type { Schemas } from '../../api/client'
import { useJobNumber } from '../../api/job'
import { Button, FileDrop } from '../../ui/basics'

/** What a reading says, a line each. */
function Lines({ title, lines, none }: { title: string; lines: string[]; none: string }) {
  return (
    <div>
      <h3 className="text-ink-2 text-[12px] font-semibold">
        {title} ({lines.length})
      </h3>
      <ul className="mt-0.5 space-y-0.5 text-[12.5px]">
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
        {!lines.length && <li className="text-ink-2">{none}</li>}
      </ul>
    </div>
  )
}

/** What the running system said of itself, and how to ask it. */
export function Reading({
  data,
  onFile,
  busy,
}: {
  data: Schemas['SurveyView']
  onFile: (file: File) => void
  busy: boolean
}) {
  const number = useJobNumber()
  const go = useNavigate()
  const r = data.reading
  return (
    <section id="reading" className="card mt-3 p-3">
      <h2 className="mb-1">Reading of the running system</h2>
      <div className="flex flex-wrap items-center gap-3">
        <FileDrop label={busy ? 'Reading the bundle' : 'Drop a bundle'} accept=".json,.zip" onFile={onFile} />
        <span className="text-[12.5px]">
          <a className="underline" href="/api/gather.sh">
            gather.sh
          </a>{' '}
          gathers one from a live stick
          {data.simulated && (
            <>
              {' · '}
              <a className="underline" href={`/api/jobs/${number}/simulated/survey?busy=true`}>
                the simulated laptop’s
              </a>
            </>
          )}
        </span>
      </div>
      {r && (
        <>
          <div className="mt-2 grid grid-cols-2 gap-4">
            <Lines title="Proved" lines={r.proved} none="Nothing of this machine." />
            <Lines title="Left open" lines={r.left_open} none="Nothing a tool could have told." />
          </div>
          {data.contradictions.length > 0 && (
            <p className="text-refused mt-1.5 text-[12.5px]">
              It contradicts the library in {data.contradictions.length}{' '}
              {data.contradictions.length === 1 ? 'place' : 'places'}: beside the map.
            </p>
          )}
          {r.weak.map((w) => (
            <p key={w} className="text-ink-2 mt-1 text-[12.5px]">
              {w}
            </p>
          ))}
          <p className="text-ink-2 mt-1.5 text-[12.5px]">
            Read: {r.understood.join(', ')}. {r.not_understood.length ? 'Not understood:' : 'All of it was understood.'}
          </p>
          {!!r.not_understood.length && (
            <ul className="text-measure list-inside list-disc text-[12.5px]">
              {r.not_understood.map((n) => (
                <li key={n}>{n}</li>
              ))}
            </ul>
          )}
          <Button kind="quiet" onClick={() => void go(`/machines/edit?job=${number}`)}>
            Draft a new machine from this reading
          </Button>
        </>
      )}
    </section>
  )
}
