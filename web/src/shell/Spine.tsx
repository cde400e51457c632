import { useEffect, useRef } from 'react'
import { NavLink, useLocation } from 'react-router'
import type { JobView } from '../api/client'
import { due, stationPath, vocabulary } from '../words'

/** The job's plate and its nine stations, each a gold finger; the safety key is a notch cut out. */
export function Spine({ view, number }: { view: JobView; number: number }) {
  const { pathname } = useLocation()
  const bar = useRef<HTMLElement>(null)
  useEffect(() => {
    // Where the stations lie in a row the open one is in sight.
    bar.current?.querySelector('[aria-current=page]')?.scrollIntoView({ block: 'nearest', inline: 'center' })
  }, [pathname])
  const state = Object.fromEntries(view.stations.map((s) => [s.station, s.state]))
  return (
    <nav
      ref={bar}
      aria-label="Stations"
      className="no-print bg-mask text-on-mask relative w-[202px] shrink-0 overflow-y-auto py-3.5 pl-3.5 max-[900px]:w-[132px] max-[640px]:flex max-[640px]:w-full max-[640px]:items-center max-[640px]:overflow-x-auto max-[640px]:py-0 max-[640px]:pl-2"
    >
      <div className="border-on-mask-2/30 bg-mask-2 mr-3.5 mb-3 rounded-sm border px-2.5 py-2 max-[640px]:mr-1 max-[640px]:mb-0 max-[640px]:shrink-0 max-[640px]:py-1">
        <div className="num text-on-mask-2 text-[11px]">
          JOB {view.job.number} · {view.job.stopped ? 'STOPPED' : due(view.job.due ?? '')}
        </div>
        <div className="text-[16px] font-semibold">{view.machine_title || 'Not identified'}</div>
        <div className="text-on-mask-2 text-[12.5px] max-[640px]:hidden">
          {[view.processor.replace(/^\S+ /, ''), view.job.customer].filter(Boolean).join(' · ')}
        </div>
      </div>
      {vocabulary().stations.map(({ id, says: name }, i) => (
        <div key={id}>
          {id === 'bench' && <SafetyKey open={view.open_gates ?? null} />}
          <NavLink
            to={stationPath(number, id)}
            className={({ isActive }) =>
              `-ml-3.5 grid h-[42px] grid-cols-[22px_1fr_auto] items-center pl-3.5 font-medium hover:no-underline max-[640px]:ml-0 max-[640px]:h-11 max-[640px]:grid-cols-[14px_auto_auto] max-[640px]:gap-1 max-[640px]:px-2 max-[640px]:whitespace-nowrap ${
                isActive ? 'bg-mat text-ink font-semibold' : 'hover:bg-mask-2'
              }`
            }
          >
            {({ isActive }) => (
              <>
                <span className={`num ${isActive ? 'text-copper' : 'text-on-mask-2'}`}>{i + 1}</span>
                <span>{name}</span>
                <Finger state={state[id] ?? 'ahead'} />
              </>
            )}
          </NavLink>
        </div>
      ))}
    </nav>
  )
}

const SAID: Record<string, string> = { done: 'done', under_way: 'under way', ahead: 'ahead', stopped: 'stopped here' }

function Finger({ state }: { state: string }) {
  const fill = {
    done: 'bg-gold border-gold',
    under_way: 'border-gold bg-[linear-gradient(90deg,transparent_50%,var(--gold)_50%)]',
    ahead: 'border-on-mask-2/40',
    stopped: 'bg-harm border-harm-bg',
  }[state]
  return (
    <span
      className={`h-[22px] w-14 rounded-l-sm border border-r-0 max-[900px]:w-6 max-[640px]:h-3 max-[640px]:w-3 ${fill}`}
    >
      <span className="sr-only">{SAID[state]}</span>
    </span>
  )
}

/** A real notch: the mat shows through until the key is in. */
function SafetyKey({ open }: { open: number | null }) {
  const says = open === null ? 'safety key' : open ? `safety key · ${open} open` : 'safety key · in'
  return (
    <div className="flex h-[34px] items-center justify-between max-[640px]:hidden">
      <span className="text-on-mask-2 text-[11.5px]">{says}</span>
      <span
        className={`h-5 w-14 rounded-l-full max-[900px]:w-6 ${open === 0 ? 'bg-gold border-mat border-2 border-r-0' : 'bg-mat'}`}
      />
    </div>
  )
}
