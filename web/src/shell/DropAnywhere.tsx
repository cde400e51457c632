import { Dialog } from 'radix-ui'
import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { useQueryClient } from '@tanstack/react-query'
import { upload, type JobView } from '../api/client'
import { outbox } from '../api/outbox'
import { pictures } from '../api/pictures'
import { left, views } from '../api/views'
import { Button, ErrorNote } from '../ui/basics'
import { hand } from '../ui/handed'
import { stationPath } from '../words'

const isPicture = (f: File) => f.type.startsWith('image/') || /\.(jpe?g|png|webp|tiff?|bmp|gif|heic)$/i.test(f.name)

/** Pages that take a file, as somebody would say what it is. */
const PAGES = [
  ['parts', '/parts', 'A supplier’s list, or parts'],
  ['job', '/jobs', 'A job from a file'],
  ['machines', '/machines', 'Machines for the library'],
  ['draft', '/machines', 'A reading, to draft a machine from'],
] as const

/** A file dropped beside every field: caught, and asked where it goes. The page is never left. */
export function DropAnywhere({ job }: { job: number | null }) {
  const [files, setFiles] = useState<readonly File[]>([])
  const [error, setError] = useState<Error | null>(null)
  const [busy, setBusy] = useState(false)
  const go = useNavigate()
  const cache = useQueryClient()
  useEffect(() => {
    const holds = (e: DragEvent) => !!e.dataTransfer?.types.includes('Files')
    const over = (e: DragEvent) => holds(e) && e.preventDefault()
    const drop = (e: DragEvent) => {
      if (e.defaultPrevented || !holds(e)) return // a field has taken it
      e.preventDefault()
      setError(null)
      setFiles([...(e.dataTransfer?.files ?? [])])
    }
    window.addEventListener('dragover', over)
    window.addEventListener('drop', drop)
    return () => {
      window.removeEventListener('dragover', over)
      window.removeEventListener('drop', drop)
    }
  }, [])
  const close = () => setFiles([])
  const does = async (act: () => Promise<unknown>) => {
    setBusy(true)
    setError(null)
    try {
      await act()
      close()
    } catch (e) {
      setError(e as Error)
    } finally {
      setBusy(false)
    }
  }
  const read = (number: number, station: 'survey' | 'prove') => async () => {
    await outbox.flush()
    const asked = left()
    const file = files[0]!
    views.accept(number, await upload<JobView>(`/api/jobs/${number}/reading/${station}`, file, file.name), asked)
    void cache.invalidateQueries({ queryKey: ['job', number] })
    await go(stationPath(number, station))
  }
  const shots = files.filter(isPicture)
  const other = files.length > shots.length
  return (
    <Dialog.Root open={files.length > 0} onOpenChange={(open) => !open && close()} modal={false}>
      <Dialog.Portal>
        <Dialog.Content
          className="card fixed top-1/2 left-1/2 z-50 w-[26rem] max-w-[92vw] -translate-x-1/2 -translate-y-1/2 p-5"
          aria-describedby={undefined}
        >
          <Dialog.Title className="mb-1 text-[18px] font-semibold">Where does it go?</Dialog.Title>
          <p className="num text-ink-2 mb-3 break-all">{files.map((f) => f.name).join(', ')}</p>
          <ErrorNote error={error} />
          <div className="grid gap-2">
            {job !== null && shots.length > 0 && (
              <Button
                className="min-h-11"
                disabled={busy}
                onClick={() => void does(() => pictures.take(job, '', shots))}
              >
                {shots.length === 1 ? 'A photograph' : `${shots.length} photographs`} of job {job}
              </Button>
            )}
            {job === null && shots.length > 0 && <p>A photograph belongs to a job: open the job, and drop it there.</p>}
            {job !== null && other && (
              <>
                <Button className="min-h-11" disabled={busy} onClick={() => void does(read(job, 'survey'))}>
                  A reading of job {job}, before the work
                </Button>
                <Button className="min-h-11" disabled={busy} onClick={() => void does(read(job, 'prove'))}>
                  A reading of job {job}, after the work
                </Button>
              </>
            )}
            {other &&
              PAGES.map(([place, path, says]) => (
                <Button
                  key={place}
                  className="min-h-11"
                  disabled={busy}
                  onClick={() => {
                    hand(place, files[0]!)
                    close()
                    void go(path)
                  }}
                >
                  {says}
                </Button>
              ))}
            <Button kind="quiet" className="min-h-11" onClick={close}>
              Nowhere, leave it
            </Button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
