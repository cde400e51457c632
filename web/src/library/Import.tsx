import { useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { Refused, steps, upload, type Problem, type Schemas } from '../api/client'
import { Button, ErrorNote, FileDrop, Trouble } from '../ui/basics'

type Progress = { says: string; done: number; of: number; report?: Schemas['ImportReport'] | null }

/** Import parts: what would change first, then with progress; stopped half-way, nothing is kept. */
export function Import() {
  const cache = useQueryClient()
  const [file, setFile] = useState<File | null>(null)
  const [preview, setPreview] = useState<Schemas['Preview'] | null>(null)
  const [progress, setProgress] = useState<Progress | null>(null)
  const [error, setError] = useState<Error | null>(null)
  const [busy, setBusy] = useState(false)
  const [shop, setShop] = useState('')
  const stop = useRef<AbortController | null>(null)
  const whose = (name: string) => (name ? `?shop=${encodeURIComponent(name)}` : '')
  const look = async (chosen: File, name = '') => {
    setFile(chosen)
    setError(null)
    if (chosen !== file) setPreview(null) // looked at again, it stays until the answer is there
    setProgress(null)
    setBusy(true)
    try {
      setPreview(await upload<Schemas['Preview']>(`/api/parts/preview${whose(name)}`, chosen, chosen.name))
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
      await steps<Progress>(`/api/parts/import/steps${whose(shop)}`, file, setProgress, stop.current.signal)
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
          onFile={(f) => {
            setShop('')
            void look(f)
          }}
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
              are
            </span>
            <Button kind="main" className="py-1" onClick={() => void run()}>
              Import them
            </Button>
            <Button kind="quiet" onClick={() => setPreview(null)}>
              Leave
            </Button>
          </div>
          {!!Object.keys(preview.columns).length && (
            <div className="mb-2 space-y-1 text-[12.5px]">
              <p>
                A price list:{' '}
                {Object.entries(preview.columns)
                  .map(([m, head]) => `“${head}” is the ${m}`)
                  .join(', ')}
                . Only prices and stock of parts the catalogue knows change.
              </p>
              <p className="text-measure">Assumed: {preview.assumed.join('; ')}.</p>
              <label className="flex items-center gap-2">
                Whose list is it?
                <input
                  className="w-48"
                  value={shop}
                  placeholder={file?.name.replace(/\.[^.]*$/, '')}
                  onChange={(e) => setShop(e.target.value)}
                  onBlur={() => file && void look(file, shop)}
                />
              </label>
              {preview.left_out_in_all > 0 && (
                <details>
                  <summary className="cursor-pointer">
                    {preview.left_out_in_all === 1
                      ? '1 row is left out'
                      : `${preview.left_out_in_all} rows are left out`}
                  </summary>
                  <ul className="max-h-40 overflow-y-auto">
                    {preview.left_out.map((r) => (
                      <li key={r.line}>
                        row {r.line}: <span className="num">{r.number}</span> {r.reason}
                      </li>
                    ))}
                  </ul>
                </details>
              )}
            </div>
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
