import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { BrowserRouter, Navigate, Route, Routes } from 'react-router'
import { answer, client, Refused } from './api/client'
import { JobFrame } from './shell/JobFrame'
import { SignIn } from './shell/SignIn'
import { TopFrame } from './shell/TopFrame'
import { WhoContext } from './shell/who'
import {
  Ask,
  Bench,
  BenchSheet,
  Editor,
  Fit,
  FitsPaper,
  Gauges,
  HandOver,
  History,
  Identify,
  Intake,
  Jobs,
  MachinePage,
  Machines,
  PartPage,
  Parts,
  People,
  Plan,
  Prepare,
  ProcessorPage,
  Processors,
  Prove,
  Quote,
  RemovedJobs,
  Rules,
  Settings,
  Shelf,
  SightingsPage,
  Survey,
  TriagePage,
  Walk,
  WhatFits,
  WorkshopFrame,
  loadTheRest,
  Words,
} from './pages'
import { speak, writeAs } from './words'
import { FirstRun } from './workshop/FirstRun'
import { MyPassword } from './workshop/MyPassword'

export function App() {
  const cache = useQueryClient()
  const session = useQuery({
    queryKey: ['session'],
    queryFn: () => answer(client.GET('/api/session')),
    staleTime: Infinity,
  })
  const name = session.data?.name
  useEffect(() => {
    if (!name) return
    const later = setTimeout(() => void loadTheRest(), 2_000)
    return () => clearTimeout(later)
  }, [name])
  if (session.error instanceof Refused && session.error.status === 401) {
    const first = (session.error.problem as { first?: boolean }).first
    const again = () => void cache.invalidateQueries()
    return first ? <FirstRun onBegun={again} /> : <SignIn onSignedIn={again} />
  }
  if (!session.data) return <p className="p-6">{session.error ? 'No answer from the server. Trying again.' : ''}</p>
  writeAs(session.data)
  speak(session.data.vocabulary)
  if (session.data.handed_over)
    return (
      <main className="grid min-h-screen place-items-center">
        <MyPassword handedOver />
      </main>
    )
  return (
    <WhoContext value={session.data}>
      <BrowserRouter>
        <Routes>
          <Route element={<TopFrame />}>
            <Route index element={<Navigate to="/jobs" replace />} />
            <Route path="jobs" element={<Jobs />} />
            <Route path="jobs/:number" element={<JobFrame />}>
              <Route path="intake" element={<Intake />} />
              <Route path="identify" element={<Identify />} />
              <Route path="survey" element={<Survey />} />
              <Route path="survey/walk" element={<Walk />} />
              <Route path="fit" element={<Fit />} />
              <Route path="plan" element={<Plan />} />
              <Route path="quote" element={<Quote />} />
              <Route path="prepare" element={<Prepare />} />
              <Route path="bench" element={<Bench />} />
              <Route path="sheet" element={<BenchSheet />} />
              <Route path="prove" element={<Prove />} />
              <Route path="hand-over" element={<HandOver />} />
            </Route>
            <Route path="machines" element={<Machines />} />
            <Route path="machines/edit" element={<Editor key={location.search} />} />
            <Route path="machines/:machine/:configuration" element={<MachinePage />} />
            <Route path="machines/:machine/:configuration/fits" element={<WhatFits />} />
            <Route path="machines/:machine/:configuration/fits/paper" element={<FitsPaper />} />
            <Route path="ask" element={<Ask />} />
            <Route path="processors" element={<Processors />} />
            <Route path="processors/:processor" element={<ProcessorPage />} />
            <Route path="parts" element={<Parts />} />
            <Route path="parts/shelf" element={<Shelf />} />
            <Route path="parts/:number" element={<PartPage />} />
            <Route path="sightings" element={<SightingsPage />} />
            <Route path="triage" element={<TriagePage />} />
            <Route path="words" element={<Words />} />
            <Route path="rules" element={<Rules />} />
            <Route path="gauges" element={<Gauges />} />
            <Route path="workshop" element={<WorkshopFrame />}>
              <Route index element={<Settings />} />
              <Route path="people" element={<People />} />
              <Route path="history" element={<History />} />
              <Route path="removed" element={<RemovedJobs />} />
              <Route path="me" element={<MyPassword />} />
            </Route>
            <Route
              path="*"
              element={
                <main className="flex-1 p-6">
                  <h1>Nothing is at this address</h1>
                  <p>The jobs are under Jobs.</p>
                </main>
              }
            />
          </Route>
        </Routes>
      </BrowserRouter>
    </WhoContext>
  )
}
