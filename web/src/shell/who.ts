import { createContext, useContext } from 'react'
import type { Schemas } from '../api/client'

export type Who = Schemas['Who']

/** Who is signed in, and how the house writes. */
export const WhoContext = createContext<Who | null>(null)

export function useWho(): Who {
  const who = useContext(WhoContext)
  if (!who) throw new Error('nobody is signed in')
  return who
}
