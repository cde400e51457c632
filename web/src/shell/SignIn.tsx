import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client } from '../api/client'
import { Button, ErrorNote } from '../ui/basics'
import { Labelled } from '../ui/fields'
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
        <Labelled label="Name" className="mb-3">
          {(id) => (
            <input
              id={id}
              autoFocus
              autoComplete="username"
              className="w-full"
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
          )}
        </Labelled>
        <Labelled label="Password" className="mb-4">
          {(id) => (
            <input
              id={id}
              type="password"
              autoComplete="current-password"
              className="w-full"
              value={password}
              onChange={(e) => setPassword(e.target.value)}
            />
          )}
        </Labelled>
        <Button kind="main" type="submit" className="w-full" disabled={signIn.isPending}>
          Sign in
        </Button>
      </form>
    </main>
  )
}
