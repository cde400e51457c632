import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client } from '../api/client'
import { Button, ErrorNote } from '../ui/basics'
import { Words } from '../ui/fields'
import { Secret } from '../ui/form'
import { Mark } from './TopFrame'

export function SignIn({ onSignedIn }: { onSignedIn: () => void }) {
  const [name, setName] = useState('')
  const [password, setPassword] = useState('')
  const signIn = useMutation({
    mutationFn: () => answer(client.POST('/api/session', { body: { name, password } })),
    onSuccess: onSignedIn,
  })
  return (
    <main className="grid min-h-screen place-items-center">
      <form
        className="card w-80 p-6"
        onSubmit={(e) => {
          e.preventDefault()
          signIn.mutate()
        }}
      >
        <div className="mb-4 flex items-center gap-2">
          <Mark />
          <h1>Insertum</h1>
        </div>
        <ErrorNote error={signIn.error} />
        <div className="mb-4 space-y-3">
          <Words label="Name" autoFocus autoComplete="username" value={name} onChange={setName} />
          <Secret label="Password" value={password} onChange={setPassword} />
        </div>
        <Button kind="main" type="submit" className="w-full" disabled={signIn.isPending}>
          Sign in
        </Button>
      </form>
    </main>
  )
}
