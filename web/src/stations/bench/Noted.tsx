import { at, step as escaped, useJob } from '../../api/job'
import { ChoiceField, TextField } from '../../ui/fields'
import { Photographs } from './Photographs'

const ON = [
  ['part', 'a part'],
  ['board', 'the board'],
  ['pack', 'the pack'],
  ['panel', 'the panel'],
  ['fan', 'the fan'],
  ['case', 'the case'],
] as const

/** Words, a number that was found, and photographs, kept with the step they belong to. */
export function Noted({ step }: { step: string }) {
  const { view } = useJob()
  const place = `/bench/said/${escaped(step)}`
  const said = at(view?.job, place) as { note?: string; number?: string } | undefined
  return (
    <details className="mt-3" open={!!(said?.note || said?.number)}>
      <summary className="min-h-11 cursor-pointer py-2 font-medium">Note, number or photograph of this step</summary>
      <div className="grid grid-cols-[1fr_160px_130px] items-end gap-2 max-[820px]:grid-cols-1">
        <TextField path={`${place}/note`} label="Note" />
        <TextField path={`${place}/number`} label="Number found" />
        <ChoiceField path={`${place}/of`} label="on" options={ON.map(([k, w]) => [k, w])} />
      </div>
      <div className="mt-2">
        <Photographs step={step} />
      </div>
    </details>
  )
}
