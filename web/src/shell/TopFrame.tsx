import { useQueryClient } from '@tanstack/react-query'
import { Suspense, useEffect } from 'react'
import { NavLink, Outlet, useLocation } from 'react-router'
import { answer, client } from '../api/client'
import { useOutbox, useReceive } from '../api/job'
import { outbox } from '../api/outbox'
import { pictures } from '../api/pictures'
import { Button } from '../ui/basics'
import { Broken } from './Broken'
import { DropAnywhere } from './DropAnywhere'
import { Find } from './Find'
import { Keys } from './Keys'
import { useWho } from './who'

export function Mark() {
  return (
    <svg width="30" height="20" viewBox="0 0 30 20" aria-hidden>
      <path d="M1 3h28v14H19v-5a2 2 0 0 0-4 0v5H1z" className="fill-mask dark:fill-[#3d7a66]" />
      <g className="fill-gold">
        {[3, 6.5, 10, 21, 24.5].map((x) => (
          <rect key={x} x={x} y="11" width="2" height="6" />
        ))}
      </g>
    </svg>
  )
}

const PLACES = [
  ['/jobs', 'Jobs'],
  ['/machines', 'Machines'],
  ['/parts', 'Parts'],
  ['/gauges', 'Gauges'],
  ['/workshop', 'Workshop'],
] as const

/** The bar over everything: places, find by label, and whether what was typed has arrived. */
export function TopFrame() {
  const { name, letter_keys } = useWho()
  const { pathname } = useLocation()
  useReceive()
  useEffect(() => {
    outbox.signedIn(name)
    void pictures.signedIn(name).catch(() => {}) // a browser without a database of its own keeps none waiting
  }, [name])
  const cache = useQueryClient()
  const signOut = async () => {
    await answer(client.DELETE('/api/session'))
    cache.clear()
    location.assign('/')
  }
  return (
    <div className="print-block flex h-screen flex-col">
      <header className="no-print border-hair bg-card flex h-12 shrink-0 items-center gap-4 border-b px-4 max-[700px]:gap-2.5 max-[700px]:px-2 max-[640px]:h-auto max-[640px]:flex-wrap max-[640px]:py-1.5">
        <NavLink to="/jobs" className="flex items-center gap-2 text-[18px] font-semibold hover:no-underline">
          <Mark /> <span className="max-[900px]:sr-only">Insertum</span>
        </NavLink>
        <nav className="flex gap-4 font-medium max-[700px]:gap-2.5 max-[640px]:flex-wrap">
          {PLACES.map(([to, name]) => (
            <NavLink
              key={to}
              to={to}
              className={({ isActive }) =>
                isActive ? 'border-copper border-b-2' : 'text-ink-2 hover:text-ink border-b-2 border-transparent'
              }
            >
              {name}
            </NavLink>
          ))}
        </nav>
        <div className="ml-auto flex min-w-0 items-center gap-4 whitespace-nowrap max-[700px]:gap-2 max-[640px]:ml-0 max-[640px]:w-full">
          <Saved />
          <Find />
          <NavLink to="/workshop/me" className="num" title="You, and your password">
            {name}
          </NavLink>
          <Button kind="quiet" onClick={() => void signOut()}>
            Sign out
          </Button>
        </div>
      </header>
      <Broken at={pathname}>
        <Suspense fallback={<p className="sr-only">Opening.</p>}>
          <Outlet />
        </Suspense>
      </Broken>
      <DropAnywhere job={Number(pathname.match(/^\/jobs\/(\d+)/)?.[1]) || null} />
      <Keys letters={letter_keys} />
    </div>
  )
}

function Saved() {
  const { waiting, offline, why, full, saved, aside } = useOutbox()
  const wrong = offline || full || aside.length > 0
  const says = full
    ? 'This browser has no room: keep the page open'
    : offline
      ? `${waiting} waiting for the server${why && `: ${why}`}`
      : waiting
        ? 'Saving'
        : aside.length
          ? `${aside.length} not saved`
          : saved
            ? 'Saved'
            : ''
  return (
    <span role="status" className={`text-[12.5px] ${wrong ? 'text-refused font-semibold' : 'text-ink-2'}`}>
      {aside.length && !offline && !waiting ? <NavLink to={`/jobs/${aside[0]!.job}`}>{says}</NavLink> : says}
    </span>
  )
}
