import { createContext, useContext } from 'react'
import type { Schemas } from '../../api/client'

/** Where Fit's answers come from: a job, or a machine of the library that is nobody's job. */
export type FitSource = {
  /** Under what its answers are kept. */
  key: readonly unknown[]
  /** The job that is fitted, where it is one: there something can be measured. */
  job?: number
  why: (slot: string, part: string) => Promise<Schemas['WhyView']>
  compare: (slot: string, parts: string) => Promise<Schemas['Comparison']>
  schools: () => Promise<Record<string, number | undefined>>
  makes: readonly string[]
  approve: (makes: readonly string[]) => void
}

export const FitContext = createContext<FitSource | null>(null)

export function useFitSource(): FitSource {
  const source = useContext(FitContext)
  if (!source) throw new Error('nothing is fitted here')
  return source
}
