import { Suspense } from 'react'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Outlet } from 'react-router'
import { answer, client } from '../api/client'
import { useWho } from '../shell/who'
import { Button, ErrorNote, Heading } from '../ui/basics'
import { Tabs } from '../ui/Tabs'
import { AskKeys } from './AskKeys'
import { SettingsForm, type Workshop } from './SettingsForm'

const PAGES = [
  ['/workshop', 'Settings', 'owner'],
  ['/workshop/people', 'People', 'owner'],
  ['/triage', 'Complaints', ''],
  ['/workshop/history', 'History', ''],
  ['/workshop/removed', 'Removed jobs', 'owner'],
  ['/workshop/me', 'My password', ''],
] as const

/** The rooms of the workshop that this person may enter. */
export function WorkshopTabs() {
  const { role } = useWho()
  return (
    <Tabs
      label="Workshop"
      tabs={PAGES.filter(([, , needed]) => !needed || needed === role).map(([to, name]) => [to, name])}
    />
  )
}

/** Everything about the house itself: settings, people, history, what was taken off the board. */
export function WorkshopFrame() {
  return (
    <main className="flex-1 overflow-y-auto px-6 py-4">
      <div className="mx-auto max-w-[1100px]">
        <WorkshopTabs />
        <Suspense fallback={<p className="sr-only">Opening.</p>}>
          <Outlet />
        </Suspense>
      </div>
    </main>
  )
}

export function Settings() {
  const cache = useQueryClient()
  const { role } = useWho()
  const { data, error } = useQuery({ queryKey: ['workshop'], queryFn: () => answer(client.GET('/api/workshop')) })
  const tasks = useQuery({
    queryKey: ['workshop-tasks'],
    queryFn: () => answer(client.GET('/api/workshop/tasks')),
    staleTime: Infinity,
  })
  const save = useMutation({
    mutationFn: (body: Workshop) => answer(client.PUT('/api/workshop', { body })),
    onSuccess: () => cache.invalidateQueries(),
  })
  const examples = useMutation({
    mutationFn: () => answer(client.POST('/api/workshop/examples')),
    onSuccess: () => cache.invalidateQueries(),
  })
  if (role !== 'owner') return <p>The settings are an owner’s. Your own password is under My password.</p>
  if (!data) return <ErrorNote error={error} />
  return (
    <>
      <Heading title="The workshop">{save.isSuccess && 'Kept.'}</Heading>
      <ErrorNote error={save.error} />
      <SettingsForm
        key={JSON.stringify(data)}
        start={data}
        busy={save.isPending}
        label="Keep these settings"
        tasks={tasks.data}
        onSave={(w) => save.mutate(w)}
      />
      <AskKeys />
      <section className="card mt-4 p-3">
        <h2 className="mb-1">Examples</h2>
        <ErrorNote error={examples.error} />
        <p className="mb-2">
          Made-up machines and parts, to look around with. They stand beside your own and are changed like them.
        </p>
        <Button disabled={examples.isPending} onClick={() => examples.mutate()}>
          Bring in the example machines and parts
        </Button>
        {examples.data && (
          <span role="status" className="text-seats ml-2">
            {examples.data.machines} machines and {examples.data.parts} parts are in.
          </span>
        )}
      </section>
    </>
  )
}
