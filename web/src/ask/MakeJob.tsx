import { useMutation } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { Button, ErrorNote } from '../ui/basics'

/** The question made a job, with what was asked in it: until then nothing is kept. */
export function MakeJob({ make: start, main = false }: { make: () => Promise<{ number: number }>; main?: boolean }) {
  const go = useNavigate()
  const make = useMutation({
    mutationFn: start,
    onSuccess: ({ number }) => void go(`/jobs/${number}`),
  })
  return (
    <>
      <Button
        kind={main ? 'main' : 'plain'}
        {...(main && { 'data-main-action': true })}
        disabled={make.isPending}
        onClick={() => make.mutate()}
      >
        Make it a job
      </Button>
      <ErrorNote error={make.error} />
    </>
  )
}
