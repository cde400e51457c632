import { useState } from 'react'
import { at, step as escaped, useJob } from '../../api/job'
import { ChoiceField, TextField } from '../../ui/fields'
import { Photographs, usePhotographs } from './Photographs'

const ON = [
  ['part', 'a part'],
  ['board', 'the board'],
  ['pack', 'the pack'],
  ['panel', 'the panel'],
  ['fan', 'the fan'],
  ['case', 'the case'],
] as const

/** Words, a number that was found, and photographs, kept with the step they belong to. */
export function Noted({ step, small = false }: { step: string; small?: boolean }) {
  const { view } = useJob()
  const { data } = usePhotographs()
  const place = `/bench/said/${escaped(step)}`
  const said = at(view?.job, place) as { note?: string; number?: string } | undefined
  const taken = data?.filter((p) => p.step === step).length ?? 0
  const there = [said?.note, said?.number, taken && `${taken} ${taken === 1 ? 'photograph' : 'photographs'}`]
  const [open, setOpen] = useState(false)
  return (
    <details className={small ? '' : 'mt-3'} open={open} onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className={`min-h-11 cursor-pointer py-2 ${small ? 'text-ink-2 text-[13px]' : 'font-medium'}`}>
        {there.filter(Boolean).join(' · ') || (small ? 'note' : 'Note, number or photograph of this step')}
      </summary>
      {open && (
        <>
          <div className="grid grid-cols-[1fr_160px_130px] items-end gap-2 max-[820px]:grid-cols-1">
            <TextField path={`${place}/note`} label="Note" />
            <TextField path={`${place}/number`} label="Number found" />
            <ChoiceField path={`${place}/of`} label="on" options={ON.map(([k, w]) => [k, w])} />
          </div>
          <div className="mt-2">
            <Photographs step={step} />
          </div>
        </>
      )}
    </details>
  )
}
