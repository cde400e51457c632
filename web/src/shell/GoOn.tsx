import { useNavigate } from 'react-router'
import { at, useAct, useJob, useJobNumber } from '../api/job'
import { answer, client } from '../api/client'
import { Button, ErrorNote } from '../ui/basics'
import { stationPath, vocabulary, type StationId } from '../words'

const rank = (station: string) => vocabulary().stations.findIndex(({ id }) => id === station)

/** The one main action: carry the job on to the next station. The server decides whether it may. */
export function GoOn({
  to,
  label,
  disabled,
  before,
}: {
  to: StationId
  label: string
  disabled?: boolean
  before?: () => Promise<unknown>
}) {
  const number = useJobNumber()
  const { view } = useJob()
  const go = useNavigate()
  const enter = useAct<string>(async (n, value) => {
    const base = at(view?.job, '/station')
    const body = [{ uid: `station-${n}-${value}-${Date.now()}`, path: '/station', op: 'set' as const, base, value }]
    // A job that has been further along stays there; only the view moves.
    const ahead = rank(value) <= rank(String(base))
    const params = { params: { path: { number: n } } }
    if (ahead) return answer(client.GET('/api/jobs/{number}', params))
    return (await answer(client.POST('/api/jobs/{number}/edits', { ...params, body }))).view
  })
  const act = async () => {
    await before?.()
    await enter.mutateAsync(to)
    await go(stationPath(number, to))
  }
  return (
    <div>
      <ErrorNote error={enter.error} />
      <Button
        kind="main"
        data-main-action
        disabled={disabled || enter.isPending}
        onClick={() => void act().catch(() => {})}
      >
        {label}
      </Button>
    </div>
  )
}
