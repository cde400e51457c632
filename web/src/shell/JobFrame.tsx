import { Suspense, useEffect } from 'react'
import { Navigate, Outlet, useParams, useLocation } from 'react-router'
import { answer, client } from '../api/client'
import { useAct, useJob, useJobNumber } from '../api/job'
import { Ledger } from '../ledger/Ledger'
import { Button, ErrorNote } from '../ui/basics'
import { useOnce } from '../ui/once'
import { stationPath } from '../words'
import { Asides, Conflicts } from './Conflicts'
import { Spine } from './Spine'
import { Stop } from './Stop'

/** Stations that are worked with gloves on. */
const HANDS = /\/(survey|walk|prepare|bench|prove)\/?$/

/** A job: spine, mat and ledger around the station. */
export function JobFrame() {
  const { view, error } = useJob()
  const number = useJobNumber()
  const { pathname } = useLocation()
  const params = useParams()
  const undo = useAct<void>((n) => answer(client.POST('/api/jobs/{number}/undo', { params: { path: { number: n } } })))
  const { mutate } = undo
  const once = useOnce()
  useEffect(() => {
    const take = () => once('undo', () => mutate())
    window.addEventListener('insertum-undo', take)
    return () => window.removeEventListener('insertum-undo', take)
  }, [mutate, once])
  if (error && !view)
    return (
      <div className="p-6">
        <ErrorNote error={error} />
      </div>
    )
  if (!view) return <p className="text-ink-2 p-6">Opening job {params.number}</p>
  if (pathname.replace(/\/$/, '') === `/jobs/${number}`)
    return <Navigate to={stationPath(number, view.job.station ?? 'intake')} replace />
  return (
    <div className="print-block flex min-h-0 flex-1 max-[640px]:flex-col">
      <Spine view={view} number={number} />
      <div className="contents max-[900px]:flex max-[900px]:min-w-0 max-[900px]:min-h-0 max-[900px]:flex-1 max-[900px]:flex-col">
        <main
          className={`print-block min-w-0 flex-1 overflow-y-auto px-4 py-3.5 ${HANDS.test(pathname) ? 'hands' : ''}`}
          key={pathname}
        >
          <div className="no-print sticky -top-3.5 z-10">
            <Conflicts />
            <Asides />
            {view.undo && (
              <p className="text-ink-2 flex items-baseline justify-end gap-2 text-[12.5px]">
                Your last change: {view.undo}
                <Button
                  className="min-h-8"
                  aria-keyshortcuts="u"
                  disabled={undo.isPending}
                  onClick={() => window.dispatchEvent(new Event('insertum-undo'))}
                >
                  Undo
                </Button>
              </p>
            )}
          </div>
          {undo.error && <ErrorNote error={undo.error} />}
          {view.job.stopped && <Stop view={view} />}
          <Suspense fallback={<p className="sr-only">Opening.</p>}>
            <Outlet />
          </Suspense>
          {!view.job.stopped && !view.job.hand_over?.closed_at && <Stop view={view} />}
        </main>
        <Ledger view={view} />
      </div>
    </div>
  )
}
