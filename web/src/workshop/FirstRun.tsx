import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client } from '../api/client'
import { Mark } from '../shell/TopFrame'
import { ErrorNote } from '../ui/basics'
import { Words } from '../ui/fields'
import { Secret } from '../ui/form'
import { NEW_PASSWORD } from './words'
import { BLANK, SettingsForm, type Workshop } from './SettingsForm'

/** The first page of a workshop of one's own: what stands over the door, how it reckons, and who owns it. */
export function FirstRun({ onBegun }: { onBegun: () => void }) {
  const [name, setName] = useState('')
  const [password, setPassword] = useState('')
  const begin = useMutation({
    mutationFn: (workshop: Workshop) =>
      answer(client.POST('/api/first-run', { body: { workshop, name: name.trim(), password } })),
    onSuccess: onBegun,
  })
  return (
    <main className="min-h-screen px-6 py-6">
      <div className="mx-auto max-w-[860px]">
        <div className="mb-1 flex items-center gap-2">
          <Mark />
          <h1>A workshop of your own</h1>
        </div>
        <p className="text-ink-2 mb-3">
          It starts empty. Everything here can be changed later under Workshop; machines and parts are brought in from
          files.
        </p>
        <ErrorNote error={begin.error} />
        <SettingsForm start={BLANK} busy={begin.isPending} label="Begin" onSave={(w) => begin.mutate(w)}>
          <fieldset className="card grid grid-cols-2 gap-3 p-3">
            <legend className="font-label text-ink-2 px-1 text-[13px] font-semibold uppercase">The first person</legend>
            <Words
              label="Your name"
              hint="to sign in with"
              required
              autoComplete="username"
              value={name}
              onChange={setName}
            />
            <Secret label="Password" hint={NEW_PASSWORD} fresh value={password} onChange={setPassword} />
          </fieldset>
        </SettingsForm>
      </div>
    </main>
  )
}
