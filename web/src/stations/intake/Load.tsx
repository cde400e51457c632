import type { Schemas } from '../../api/client'
import { at, useEdit, useJob } from '../../api/job'
import { Note } from '../../ui/basics'
import { Labelled, NumberField } from '../../ui/fields'
import { fixed } from '../../figures'

/** What the machine was busy with, field by field: typed, or from a reading. It sets floors, and says when no part helps. */
function useRead() {
  const { view } = useJob()
  return (at(view?.job, '/survey/reading') as Schemas['Reading'] | null | undefined)?.load
}

const hint = (value: unknown, unit: string) =>
  value === null || value === undefined ? unit : `${unit}, read ${String(value)}`

export function PeakMemory() {
  const read = useRead()
  return (
    <NumberField
      path="/intake/peak_memory_gb"
      label="Peak memory"
      hint={hint(read?.peak_memory_mb ? fixed(read.peak_memory_mb / 1024, 1) : null, 'GB')}
    />
  )
}

export function DataUsed() {
  return <NumberField path="/intake/used_gb" label="Data used" hint={hint(useRead()?.drive_used_gb, 'GB')} />
}

export function Filled() {
  const filled = useRead()?.drive_filled_percent
  return <NumberField path="/intake/drive_filled_percent" label="Drive filled" hint={hint(filled, '%')} whole />
}

export function Pages() {
  const { view } = useJob()
  const edit = useEdit()
  const read = useRead()
  const pages = at(view?.job, '/intake/pages')
  return (
    <Labelled label="Pages" hint={read?.paging_kb_s ? `read ${read.paging_kb_s} KB/s` : 'memory to drive'}>
      {(id) => (
        <select
          id={id}
          className="w-full"
          value={pages === true ? 'yes' : pages === false ? 'no' : ''}
          onChange={(e) => edit('/intake/pages', e.target.value === '' ? null : e.target.value === 'yes')}
        >
          <option value="">{read ? 'as read' : 'not looked'}</option>
          <option value="yes">yes</option>
          <option value="no">no</option>
        </select>
      )}
    </Labelled>
  )
}

/** What the load comes to, in sentences. */
export function LoadSays({ data }: { data: Schemas['IntakeView'] }) {
  return (
    <>
      {data.load.binds && <Note kind="refused">{data.load.binds}</Note>}
      {data.load.says?.map((line) => (
        <Note key={line}>{line}</Note>
      ))}
    </>
  )
}
