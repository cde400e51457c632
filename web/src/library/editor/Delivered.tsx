import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button } from '../../ui/basics'
import { Labelled } from '../../ui/fields'
import { text, type Json } from './draft'

type PartFile = Json & { number: string; name: string; kind: string }

/** What is in the slot as delivered: nobody has looked, nothing, or a part of the catalogue. */
export function Delivered({ slot, onChange }: { slot: Json; onChange: (slot: Json) => void }) {
  const [choosing, setChoosing] = useState(false)
  const fitted = slot['fitted'] as PartFile | null | undefined
  const state = fitted ? 'part' : slot['looked'] === false ? 'unknown' : 'empty'
  const kind = text(slot['kind']) === 'bay' ? 'bay_drive' : text(slot['kind'])
  const { data } = useQuery({
    queryKey: ['parts file'],
    queryFn: async () => ((await (await fetch('/api/parts.json')).json()) as { parts: PartFile[] }).parts,
    enabled: choosing,
    staleTime: 60_000,
  })
  return (
    <div className="flex flex-wrap items-end gap-2">
      <Labelled label="As delivered">
        {(id) => (
          <select
            id={id}
            value={choosing ? 'part' : state}
            onChange={(e) => {
              setChoosing(e.target.value === 'part')
              if (e.target.value === 'unknown') onChange({ ...slot, fitted: null, looked: false })
              if (e.target.value === 'empty') onChange({ ...slot, fitted: null, looked: true })
            }}
          >
            <option value="unknown">nobody has looked</option>
            <option value="empty">empty</option>
            <option value="part">a part</option>
          </select>
        )}
      </Labelled>
      {fitted && !choosing && (
        <>
          <span className="pb-1.5">{fitted.name}</span>
          <Button kind="quiet" onClick={() => setChoosing(true)}>
            another
          </Button>
        </>
      )}
      {choosing && (
        <select
          aria-label="Part as delivered"
          value=""
          onChange={(e) => {
            const part = data?.find((p) => p.number === e.target.value)
            if (part) onChange({ ...slot, fitted: { ...part, offers: [] }, looked: true })
            setChoosing(false)
          }}
        >
          <option value="">choose of the catalogue …</option>
          {data
            ?.filter((p) => p.kind === kind)
            .map((p) => (
              <option key={p.number} value={p.number}>
                {p.name}, {p.number}
              </option>
            ))}
        </select>
      )}
    </div>
  )
}
