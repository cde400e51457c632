import { lazy, type ComponentType } from 'react'

type Load<M> = () => Promise<M>

/** A page that was not opened before, and that the server does not give: it is gone, or was built anew. */
export class NotLoaded extends Error {
  override name = 'NotLoaded'
}

const notLoaded = (): never => {
  throw new NotLoaded('a page did not come')
}

const every: Load<unknown>[] = []

/** A page that is loaded when it is opened, or when nothing else is to be done. */
function page<K extends string, M extends Record<K, ComponentType>>(load: Load<M>, name: K) {
  every.push(load)
  return lazy(async () => ({ default: (await load().catch(notLoaded))[name] }))
}

/** Load every page that was not opened yet, one after the other: a bench whose link goes has them all. */
export async function loadTheRest() {
  for (const load of every) await load().catch(() => {}) // asked for again when it is opened
}

export const Ask = page(() => import('./ask/Ask'), 'Ask')
export const FitsPaper = page(() => import('./ask/FitsPaper'), 'FitsPaper')
export const WhatFits = page(() => import('./ask/WhatFits'), 'WhatFits')
export const Gauges = page(() => import('./library/Gauges'), 'Gauges')
export const Jobs = page(() => import('./library/Jobs'), 'Jobs')
export const MachinePage = page(() => import('./library/MachinePage'), 'MachinePage')
export const ProcessorPage = page(() => import('./library/Processors'), 'ProcessorPage')
export const Processors = page(() => import('./library/Processors'), 'Processors')
export const Machines = page(() => import('./library/Machines'), 'Machines')
export const Editor = page(() => import('./library/editor/Editor'), 'Editor')
export const PartPage = page(() => import('./library/PartPage'), 'PartPage')
export const Parts = page(() => import('./library/Parts'), 'Parts')
export const Words = page(() => import('./library/Words'), 'Words')
export const Rules = page(() => import('./library/Rules'), 'Rules')
export const Shelf = page(() => import('./library/Shelf'), 'Shelf')
export const SightingsPage = page(() => import('./library/Sightings'), 'SightingsPage')
export const TriagePage = page(() => import('./library/Triage'), 'TriagePage')
export const Bench = page(() => import('./stations/bench/Bench'), 'Bench')
export const BenchSheet = page(() => import('./stations/bench/BenchSheet'), 'BenchSheet')
export const Fit = page(() => import('./stations/fit/Fit'), 'Fit')
export const HandOver = page(() => import('./stations/hand-over/HandOver'), 'HandOver')
export const Identify = page(() => import('./stations/identify/Identify'), 'Identify')
export const Intake = page(() => import('./stations/intake/Intake'), 'Intake')
export const Plan = page(() => import('./stations/plan/Plan'), 'Plan')
export const Quote = page(() => import('./stations/plan/Quote'), 'Quote')
export const Prepare = page(() => import('./stations/prepare/Prepare'), 'Prepare')
export const Prove = page(() => import('./stations/prove/Prove'), 'Prove')
export const Survey = page(() => import('./stations/survey/Survey'), 'Survey')
export const Walk = page(() => import('./stations/survey/Walk'), 'Walk')
export const History = page(() => import('./workshop/History'), 'History')
export const People = page(() => import('./workshop/People'), 'People')
export const RemovedJobs = page(() => import('./workshop/RemovedJobs'), 'RemovedJobs')
export const Settings = page(() => import('./workshop/WorkshopPage'), 'Settings')
export const WorkshopFrame = page(() => import('./workshop/WorkshopPage'), 'WorkshopFrame')
