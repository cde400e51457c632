import type { ReactNode } from 'react'
import { useRunningHead } from './running-head'

/** A paper as it is printed: its head stands on every page, page x of y at the foot. */
export function Paper({ head, wide, children }: { head: string; wide?: boolean; children: ReactNode }) {
  useRunningHead(head)
  return (
    <article className={`card paper p-6 print:border-0 print:p-0 ${wide ? 'max-w-[860px]' : 'max-w-[760px]'}`}>
      {children}
    </article>
  )
}
