import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { upload, type Schemas } from '../api/client'
import { Button, ErrorNote, FileDrop } from '../ui/basics'

type Preview = Schemas['LibraryPreview']

/** Another workshop's library: looked through first; what comes in stands beside ours as a report. */
export function OtherLibrary() {
  const cache = useQueryClient()
  const [workshop, setWorkshop] = useState('')
  const [file, setFile] = useState<File | null>(null)
  const bring = useMutation({
    mutationFn: ({ file, take }: { file: File; take: boolean }) =>
      upload<Preview>('/api/machines/library/bring', file, file.name, { workshop, take: String(take) }),
    onSuccess: (_, { take }) => {
      if (take) void cache.invalidateQueries()
    },
  })
  const found = bring.data
  return (
    <section className="card p-3" aria-label="Another workshop’s library">
      <h2 className="mb-1">Another workshop’s library</h2>
      <p className="text-ink-2 mb-2 text-[12.5px]">
        Its claims come in beside ours as reported, with its name. Nothing of ours is overwritten.
      </p>
      <div className="flex flex-wrap items-center gap-3">
        <input
          aria-label="Whose library it is"
          placeholder="name of the workshop"
          className="w-56"
          value={workshop}
          onChange={(e) => setWorkshop(e.target.value)}
        />
        <FileDrop
          label={file ? file.name : 'Drop its library'}
          accept=".json"
          onFile={(f) => {
            setFile(f)
            bring.mutate({ file: f, take: false })
          }}
        />
        {found && !found.taken && file && (
          <Button
            disabled={bring.isPending || !(found.comes_in + found.sightings)}
            onClick={() => bring.mutate({ file, take: true })}
          >
            {found.comes_in + found.sightings ? 'Take it in' : 'Nothing new in it'}
          </Button>
        )}
      </div>
      <ErrorNote error={bring.error} />
      {found && (
        <>
          <p role="status" className="mt-2 text-[13px]">
            {found.taken ? 'Taken in' : 'Would come in'}: {found.comes_in} claims and records, {found.sightings}{' '}
            outcomes as hearsay
            {found.sightings_left > 0 && `; ${found.sightings_left} outcomes stay out: known, or of a slot we lack`}.
          </p>
          <div className="mt-1 max-h-72 overflow-y-auto">
            <table className="w-full text-[12.5px]">
              <tbody>
                {found.lines.map((x, i) => (
                  <tr key={i} className="[&>td]:border-hair align-top [&>td]:border-t [&>td]:px-2 [&>td]:py-1">
                    <td>{x.machine}</td>
                    <td>{x.label}</td>
                    <td className="num">{x.value}</td>
                    <td className="text-ink-2">{x.ours && `ours: ${x.ours}`}</td>
                    <td className="text-ink-2">{x.comes_in ? (found.taken ? 'came in' : 'comes in') : 'shown only'}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
    </section>
  )
}
