import { useCallback, useRef } from 'react'

/** A press, or a scan, that comes again within so long was one. */
export const AGAIN_MS = 500

/** Tells a press from its echo: the second half of a double press, a held key, a scanner that repeats. */
export class Echoes {
  private readonly heard = new Map<string, number>()

  /** Is this of its own, and not the echo of one on the same thing? An echo keeps the time of what it echoes. */
  isNew(thing: string, now: number): boolean {
    const last = this.heard.get(thing)
    if (last !== undefined && now - last < AGAIN_MS) return false
    this.heard.set(thing, now)
    return true
  }
}

/** Runs an act on a thing, but not for an echo of the press that ran it. */
export function useOnce(): (thing: string, act: () => void) => void {
  const echoes = useRef(new Echoes())
  return useCallback((thing, act) => {
    if (echoes.current.isNew(thing, performance.now())) act()
  }, [])
}
