import { answer, client, type Schemas } from '../../api/client'
import { useAct, useStation } from '../../api/job'
import { Button, ErrorNote } from '../../ui/basics'
import { lowered, minutes, money } from '../../words'

/** Work beside the chosen plan's parts: each with what it adds, taken on or off by hand and never by itself. */
export function TasksBeside({ title }: { title: string }) {
  const { data, error } = useStation('tasks', (n) =>
    answer(client.GET('/api/jobs/{number}/tasks', { params: { path: { number: n } } })),
  )
  const plan = useAct<string[]>((number, ids) =>
    answer(client.PUT('/api/jobs/{number}/tasks', { params: { path: { number } }, body: { ids } })),
  )
  if (!data?.length) return <ErrorNote error={error} />
  const planned = data.filter((t) => t.planned).map((t) => t.id)
  const [can, cannot] = [data.filter((t) => !t.why), data.filter((t) => t.why)]
  return (
    <details className="card p-3" open={planned.length > 0}>
      <summary className="cursor-pointer">
        <h2 className="inline">{title}</h2>{' '}
        <span className="text-ink-2 text-[12.5px]">
          {planned.length ? `${planned.length} taken on` : 'none taken on'}, {can.length} can be
        </span>
      </summary>
      <ErrorNote error={plan.error} />
      <table className="mt-1 w-full">
        <tbody>
          {can.map((t) => (
            <Row
              key={t.id}
              task={t}
              busy={plan.isPending}
              onToggle={() => plan.mutate(t.planned ? planned.filter((i) => i !== t.id) : [...planned, t.id])}
            />
          ))}
        </tbody>
      </table>
      {cannot.map((t) => (
        <p key={t.id} className="text-ink-2 text-[12.5px]">
          {t.name}: {t.why}.
        </p>
      ))}
      <p className="text-ink-2 mt-1 text-[12.5px]">
        With a price changed by it, the owner’s word and the safety key are asked anew.
      </p>
    </details>
  )
}

function Row({ task: t, busy, onToggle }: { task: Schemas['Beside']; busy: boolean; onToggle: () => void }) {
  return (
    <tr className={`border-hair border-t align-top first:border-t-0 ${t.planned ? 'bg-gold-soft' : ''}`}>
      <td className="py-1.5 pr-3">
        <div className="font-medium">{t.name}</div>
        <div className="text-ink-2 text-[12.5px]">mends: {lowered(t.mends)}</div>
        {t.planned && t.caution && <div className="text-refused text-[12.5px]">{t.caution}</div>}
      </td>
      <td className="num py-1.5 pr-3 text-right whitespace-nowrap">
        {t.adds_minor < 0 ? money(t.adds_minor) : `+ ${money(t.adds_minor)}`}
        <div className="text-ink-2">{minutes(t.seconds)}</div>
      </td>
      <td className="py-1 text-right">
        {t.done ? (
          <span className="text-seats">done</span>
        ) : (
          <Button
            className="whitespace-nowrap"
            aria-label={`${t.planned ? 'Leave out' : 'Take on'}: ${t.name}`}
            disabled={busy}
            onClick={onToggle}
          >
            {t.planned ? 'Leave out' : 'Take on'}
          </Button>
        )}
      </td>
    </tr>
  )
}
