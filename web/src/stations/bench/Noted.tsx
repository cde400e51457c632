import { useState } from 'react'
import { at, step as escaped, useJob } from '../../api/job'
import { ChoiceField, TextField } from '../../ui/fields'
import { useBench } from './bench'
import { Photographs, usePhotographs } from './Photographs'

/** Words, a number that was found, and photographs, kept with the step they belong to. */
export function Noted({ step, small = false }: { step: string; small?: boolean }) {
  const { view } = useJob()
  const { data } = usePhotographs()
  const things = Object.entries(useBench().data?.things ?? { part: '' }).map(
    ([id, name]) => [id, id === 'part' ? 'a part' : `the ${name}`] as const,
  )
  const place = `/bench/said/${escaped(step)}`
  const said = at(view?.job, place) as { note?: string; number?: string } | undefined
  const taken = data?.filter((p) => p.step === step).length ?? 0
  const there = [said?.note, said?.number, taken && `${taken} ${taken === 1 ? 'photograph' : 'photographs'}`]
  const [open, setOpen] = useState(false)
  return (
    <details className={small ? '' : 'mt-3'} open={open} onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary
        className={`cursor-pointer ${small ? 'text-ink-2 min-h-7 py-1 text-[13px]' : 'min-h-11 py-2 font-medium'}`}
      >
        {there.filter(Boolean).join(' · ') || (small ? 'note' : 'Note, number or photograph of this step')}
      </summary>
      {open && (
        <>
          <div className="grid grid-cols-[1fr_160px_130px] items-end gap-2 max-[820px]:grid-cols-1">
            <TextField path={`${place}/note`} label="Note" />
            <TextField path={`${place}/number`} label="Number found" />
            <ChoiceField path={`${place}/of`} label="on" options={things} />
          </div>
          <div className="mt-2">
            <Photographs step={step} />
          </div>
        </>
      )}
    </details>
  )
}
