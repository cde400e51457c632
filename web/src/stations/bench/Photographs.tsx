import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, upload, type Schemas } from '../../api/client'
import { useJobNumber } from '../../api/job'
import { Button, ErrorNote } from '../../ui/basics'
import { moment } from '../../words'

type Photograph = Schemas['Taken']

export function usePhotographs() {
  const number = useJobNumber()
  return useQuery({
    queryKey: ['job', number, 'photographs'],
    queryFn: () => answer(client.GET('/api/jobs/{number}/photographs', { params: { path: { number } } })),
  })
}

/** A small picture that opens whole. */
export function Thumb({ photograph: p }: { photograph: Photograph }) {
  const number = useJobNumber()
  const address = `/api/jobs/${number}/pictures/${p.uid}.jpg`
  return (
    <a href={address} target="_blank" rel="noreferrer" className="border-hair block border">
      <img
        src={address}
        alt={p.note || `Taken by ${p.who || 'nobody known'}, ${moment(p.at)}`}
        className="h-20 w-auto"
        loading="lazy"
      />
    </a>
  )
}

/** Photographs of one step: taken with the tablet's camera or dropped from a file. */
export function Photographs({ step }: { step: string }) {
  const number = useJobNumber()
  const cache = useQueryClient()
  const { data, error } = usePhotographs()
  const [problem, setProblem] = useState<Error | null>(null)
  const [sending, setSending] = useState(false)
  const key = ['job', number, 'photographs']
  const take = async (file: File) => {
    setSending(true)
    setProblem(null)
    try {
      await upload<Photograph>(`/api/jobs/${number}/photographs`, file, file.name, { step })
      await cache.invalidateQueries({ queryKey: key })
    } catch (e) {
      setProblem(e as Error)
    } finally {
      setSending(false)
    }
  }
  const remove = async (uid: string) => {
    try {
      const left = client.PUT('/api/jobs/{number}/photographs/{uid}', {
        params: { path: { number, uid } },
        body: { removed: true },
      })
      cache.setQueryData(key, await answer(left))
    } catch (e) {
      setProblem(e as Error)
    }
  }
  const mine = data?.filter((p) => p.step === step) ?? []
  return (
    <div>
      <ErrorNote error={problem ?? error} />
      <div className="flex flex-wrap items-center gap-2">
        <label className="border-hair bg-card hover:border-ink-2 focus-within:border-copper flex h-11 cursor-pointer items-center rounded-sm border px-3 font-medium">
          {sending ? 'Keeping it…' : 'Photograph'}
          <input
            type="file"
            accept="image/*"
            capture="environment"
            className="sr-only"
            disabled={sending}
            onChange={(e) => {
              const file = e.target.files?.[0]
              if (file) void take(file)
              e.target.value = ''
            }}
          />
        </label>
        {mine.map((p) => (
          <span key={p.uid} className="flex items-end gap-1">
            <Thumb photograph={p} />
            <Button kind="quiet" aria-label="Remove this photograph" onClick={() => void remove(p.uid)}>
              remove
            </Button>
          </span>
        ))}
      </div>
    </div>
  )
}
