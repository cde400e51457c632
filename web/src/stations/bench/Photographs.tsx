import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, useSyncExternalStore } from 'react'
import { answer, client, type Schemas } from '../../api/client'
import { useJobNumber } from '../../api/job'
import { pictures } from '../../api/pictures'
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
  const waiting = useSyncExternalStore(pictures.subscribe, pictures.list)
  const sending = useSyncExternalStore(pictures.subscribe, pictures.sending)
  const key = ['job', number, 'photographs']
  const take = async (files: readonly File[]) => {
    setProblem(null)
    try {
      await pictures.take(number, step, files)
    } catch (e) {
      setProblem(e as Error)
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
  const here = waiting.filter((p) => p.job === number && p.step === step)
  return (
    <div>
      <ErrorNote error={problem ?? error} />
      <div className="flex flex-wrap items-center gap-2">
        <label className="border-hair bg-card hover:border-ink-2 focus-within:border-copper flex h-11 cursor-pointer items-center rounded-sm border px-3 font-medium">
          Photograph
          <input
            type="file"
            accept="image/*"
            multiple
            className="sr-only"
            onChange={(e) => {
              void take([...(e.target.files ?? [])])
              e.target.value = ''
            }}
          />
        </label>
        {!!here.length && (
          <span role="status" className="text-ink-2">
            {here.some((p) => p.uid === sending)
              ? `Sending ${here.findIndex((p) => p.uid === sending) + 1} of ${here.length}`
              : `${here.filter((p) => !p.problem).length} wait in this browser`}
          </span>
        )}
        {here
          .filter((p) => p.problem)
          .map((p) => (
            <span key={p.uid} className="text-refused">
              {p.name}: {p.problem!.what}{' '}
              <Button kind="quiet" onClick={() => void pictures.drop(p.uid)}>
                leave it
              </Button>
            </span>
          ))}
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
