import { useState } from 'react'
import { answer, client, type Schemas } from '../../api/client'
import { useAct } from '../../api/job'
import { Button, ErrorNote } from '../../ui/basics'
import { Words } from '../../ui/fields'
import { figureOf, figureProblem, FigureText } from '../../ui/figure'

/** The firmware's own screen, typed: any of its figures may be left out. */
export function Screen({ sockets }: { sockets: Schemas['ProveView']['sockets'] }) {
  const [total, setTotal] = useState('')
  const [speed, setSpeed] = useState('')
  const [drives, setDrives] = useState('')
  const [held, setHeld] = useState<Record<string, string>>({})
  const send = useAct<void>((n) =>
    answer(
      client.POST('/api/jobs/{number}/prove/typed', {
        params: { path: { number: n } },
        body: {
          total_gb: figureOf(total),
          speed_mts: figureOf(speed),
          channels: null,
          sockets: Object.fromEntries(
            Object.entries(held)
              .filter(([, v]) => v.trim())
              .map(([k, v]) => [k, figureOf(v) ?? 0]),
          ),
          drives: drives.trim()
            ? drives
                .split(',')
                .map((d) => d.trim())
                .filter(Boolean)
            : null,
        },
      }),
    ),
  )
  return (
    <details className="card p-3">
      <summary className="cursor-pointer font-medium">Or type what the firmware screen shows</summary>
      <form
        className="mt-2 grid grid-cols-2 gap-2"
        onSubmit={(e) => {
          e.preventDefault()
          send.mutate()
        }}
      >
        <div className="col-span-2">
          <ErrorNote error={send.error} />
        </div>
        <FigureText label="Memory in all" hint="GB" value={total} onChange={setTotal} />
        <FigureText label="Runs at" hint="MT/s" value={speed} onChange={setSpeed} />
        {Object.entries(sockets).map(([id, name]) => (
          <FigureText
            key={id}
            label={name}
            hint="GB, 0 for empty"
            value={held[id] ?? ''}
            onChange={(v) => setHeld({ ...held, [id]: v })}
          />
        ))}
        <div className="col-span-2">
          <Words label="Drives it lists" hint="model numbers, with commas" value={drives} onChange={setDrives} />
        </div>
        <Button
          type="submit"
          disabled={send.isPending || [total, speed, ...Object.values(held)].some((t) => figureProblem(t))}
        >
          Compare
        </Button>
      </form>
    </details>
  )
}
