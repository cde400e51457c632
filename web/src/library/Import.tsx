import { useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { Refused, steps, upload, type Problem, type Schemas } from '../api/client'
import { Button, ErrorNote, FileDrop, Trouble } from '../ui/basics'
import { Columns } from './Columns'
import { summed } from './supplier-list'

type Progress = { says: string; done: number; of: number; report?: Schemas['ImportReport'] | null }
type Preview = Schemas['ListPreview']
/** Whose list it is, which head means what, in which currency it is and what its open rows are, as far as somebody has said. */
type Said = {
  shop: string
  columns: Record<string, string> | null
  currency: string
  answers: Record<string, Record<string, string>>
}
const NOTHING: Said = { shop: '', columns: null, currency: '', answers: {} }

/** Import parts: what would change first, then with progress; stopped half-way, nothing is kept. */
export function Import() {
  const cache = useQueryClient()
  const [file, setFile] = useState<File | null>(null)
  const [preview, setPreview] = useState<Preview | null>(null)
  const [progress, setProgress] = useState<Progress | null>(null)
  const [error, setError] = useState<Error | null>(null)
  const [busy, setBusy] = useState(false)
  const [said, setSaid] = useState<Said>(NOTHING)
  const stop = useRef<AbortController | null>(null)
  const answers = (said: Said) => ({ answers: JSON.stringify(said.answers) })
  const asked = ({ shop, columns, currency }: Said) => {
    const query = new URLSearchParams()
    if (shop) query.set('shop', shop)
    if (columns) query.set('columns', JSON.stringify(columns))
    if (currency) query.set('currency', currency)
    return query.size ? `?${query}` : ''
  }
  const look = async (chosen: File, how: Said) => {
    setSaid(how)
    setFile(chosen)
    setError(null)
    if (chosen !== file) setPreview(null) // looked at again, it stays until the answer is there
    setProgress(null)
    setBusy(true)
    try {
      setPreview(await upload<Preview>(`/api/parts/preview${asked(how)}`, chosen, chosen.name, answers(how)))
    } catch (e) {
      setError(e as Error)
    } finally {
      setBusy(false)
    }
  }
  const run = async () => {
    if (!file) return
    stop.current = new AbortController()
    setPreview(null)
    try {
      await steps<Progress>(
        `/api/parts/import/steps${asked(said)}`,
        file,
        setProgress,
        stop.current.signal,
        answers(said),
      )
      await cache.invalidateQueries()
    } catch (e) {
      if ((e as Error).name === 'AbortError') setProgress({ says: 'stopped: nothing of it was kept', done: 0, of: 1 })
      else setError(e as Error)
    }
    stop.current = null
  }
  return (
    <div className="mb-2">
      <div className="flex items-center gap-3">
        <FileDrop
          label={busy ? 'Reading the file' : 'Import parts or a price list, with a preview first'}
          accept=".csv,.tsv,.txt,.json,.xlsx,.ods"
          place="parts"
          onFile={(f) => void look(f, NOTHING)}
        />
        {progress && (
          <span role="status" className="flex min-w-64 items-center gap-2">
            {progress.report
              ? `Imported: ${progress.report.added} new, ${progress.report.changed} changed, ${progress.report.same} as they were.`
              : `${progress.says} ${progress.of > 1 ? `${progress.done} of ${progress.of}` : ''}`}
            {!progress.report && progress.of > 1 && (
              <>
                <progress className="w-32" max={progress.of} value={progress.done} />
                <Button onClick={() => stop.current?.abort()}>Stop</Button>
              </>
            )}
          </span>
        )}
      </div>
      {error instanceof Refused ? (
        <Trouble problem={error.problem as Problem} onClose={() => setError(null)} />
      ) : (
        <ErrorNote error={error} />
      )}
      {preview && (
        <section className="card mt-2 p-3" aria-label="What would change">
          <div className="mb-1 flex items-center gap-3">
            <span className="font-semibold">
              {file?.name}: {preview.report.added} new, {preview.report.changed} changed, {preview.report.same} as they
              are{preview.outcomes && Object.keys(preview.outcomes).length > 0 && ` · ${summed(preview.outcomes)}`}
            </span>
            <Button
              kind="main"
              className="py-1"
              disabled={busy || !!preview.open || !(preview.report.added + preview.report.changed)}
              onClick={() => void run()}
            >
              Import them
            </Button>
            <Button kind="quiet" onClick={() => setPreview(null)}>
              Leave
            </Button>
          </div>
          {!!preview.heads?.length && file && (
            <Columns
              preview={preview}
              onShop={(shop) => void look(file, { ...said, shop })}
              onColumns={(columns) => void look(file, { ...said, columns })}
              onCurrency={(currency) => void look(file, { ...said, currency })}
              onAnswer={(why, cells) => void look(file, { ...said, answers: { ...said.answers, [why]: cells } })}
            />
          )}
          <ul className="max-h-40 overflow-y-auto text-[12.5px]">
            {preview.changes.map((c) => (
              <li key={c.number}>
                <span className="num">{c.number}</span>{' '}
                {c.new ? 'new' : c.fields.map((f) => `${f[0]}: ${f[1]} → ${f[2]}`).join('; ')}
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  )
}
