import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client } from '../api/client'
import { Button, ErrorNote, Heading } from '../ui/basics'
import { Secret } from '../ui/form'
import { NEW_PASSWORD } from './words'

/** One's own password; one that was handed over is changed here first. */
export function MyPassword({ handedOver = false }: { handedOver?: boolean }) {
  const cache = useQueryClient()
  const [old, setOld] = useState('')
  const [fresh, setFresh] = useState('')
  const change = useMutation({
    mutationFn: () => answer(client.POST('/api/me/password', { body: { old, new: fresh } })),
    onSuccess: () => {
      setOld('')
      setFresh('')
      void cache.invalidateQueries({ queryKey: ['session'] })
    },
  })
  return (
    <form
      className="card max-w-[420px] space-y-3 p-4"
      onSubmit={(e) => {
        e.preventDefault()
        change.mutate()
      }}
    >
      <Heading title="My password">{change.isSuccess && 'Changed. Your other sessions have ended.'}</Heading>
      {handedOver && <p>Yours was handed over by somebody else. Take one that only you know.</p>}
      <ErrorNote error={change.error} />
      <Secret label="Today’s password" value={old} onChange={setOld} />
      <Secret label="New password" hint={NEW_PASSWORD} fresh value={fresh} onChange={setFresh} />
      <Button type="submit" kind="main" disabled={!old || !fresh || change.isPending}>
        Change it
      </Button>
    </form>
  )
}
