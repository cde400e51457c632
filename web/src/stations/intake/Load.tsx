import type { Schemas } from '../../api/client'
import { at, useEdit, useJob } from '../../api/job'
import { Note } from '../../ui/basics'
import { CheckField, Labelled, NumberField } from '../../ui/fields'
import { fixed } from '../../figures'

/** What the machine was busy with: typed, or from a reading. It sets floors, and says when no part helps. */
export function Load({ data }: { data: Schemas['IntakeView'] }) {
  const { view } = useJob()
  const edit = useEdit()
  const read = (at(view?.job, '/survey/reading') as Schemas['Reading'] | null | undefined)?.load
  const hint = (value: unknown, unit: string) =>
    value === null || value === undefined ? unit : `${unit}, read ${String(value)}`
  const pages = at(view?.job, '/intake/pages')
  return (
    <section className="card grid grid-cols-2 gap-3 p-3">
      <h2 className="col-span-2">The load</h2>
      <NumberField
        path="/intake/peak_memory_gb"
        label="Peak memory"
        hint={hint(read?.peak_memory_mb ? fixed(read.peak_memory_mb / 1024, 1) : null, 'GB')}
      />
      <NumberField path="/intake/used_gb" label="Data used" hint={hint(read?.drive_used_gb, 'GB')} />
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
      <NumberField
        path="/intake/drive_filled_percent"
        label="Drive filled"
        hint={hint(read?.drive_filled_percent, '%')}
        whole
      />
      <div className="col-span-2">
        <CheckField path="/intake/processor_at_limit" label="The processor is at its limit under this load" />
      </div>
      <div className="col-span-2">
        {data.load.binds && <Note kind="refused">{data.load.binds}</Note>}
        {data.load.says?.map((line) => (
          <Note key={line}>{line}</Note>
        ))}
      </div>
    </section>
  )
}
