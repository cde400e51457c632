import { day } from '../../words'
import { useState } from 'react'
import { answer, client, type Schemas } from '../../api/client'
import { useAct } from '../../api/job'
import { Button, ErrorNote } from '../../ui/basics'
import { Words } from '../../ui/fields'
import { figureOf, figureProblem, FigureText } from '../../ui/figure'

type Compared = Schemas['Compared']
type One = Schemas['Measurement']

/** Measurements side by side, pictured as bars; what was expected is told elsewhere. */
export function MeasuredTable({ compared }: { compared: readonly Compared[] }) {
  return (
    <table className="w-full">
      <tbody>
        {compared.map((c, i) => {
          const told = [c.before, c.after, ...(c.later ?? [])].filter((m): m is One => !!m)
          const most = Math.max(...told.map((m) => m.value ?? 0), 0)
          return (
            <tr key={i} className="border-hair border-t align-top first:border-t-0">
              <th className="w-40 py-1 pr-3 text-left font-medium">
                {c.label}
                <span className="text-ink-2 block text-[12px] font-normal">{c.conditions}</span>
              </th>
              <td className="py-1">
                {told.map((m, n) => (
                  <div key={n} className="flex items-center gap-2 text-[13px]">
                    <span className="w-14">{m.when}</span>
                    {m.value !== null && m.value !== undefined && most > 0 && (
                      <span
                        className={`inline-block h-2.5 ${m.when === 'before' ? 'bg-hair' : 'bg-seats'}`}
                        style={{ width: `${Math.max(1, (160 * m.value) / most)}px` }}
                      />
                    )}
                    <span className="num">
                      {m.value !== null && m.value !== undefined ? `${m.value} ${c.unit}` : ''}
                    </span>
                    <span>{m.words}</span>
                    <span className="text-ink-2 text-[12px]">
                      {[m.power, m.at && day(m.at), m.who].filter(Boolean).join(', ')}
                    </span>
                  </div>
                ))}
              </td>
              <td
                className={`num py-1 text-right ${c.better ? 'text-seats' : c.better === false ? 'text-refused' : ''}`}
              >
                {c.change_percent !== null &&
                  c.change_percent !== undefined &&
                  `${c.change_percent > 0 ? '+' : '−'}${Math.abs(Math.round(c.change_percent))} %`}
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

/** A form for one measurement with its conditions. */
export function Measure({ data, closed }: { data: Schemas['ProveView']; closed: boolean }) {
  const empty = { what: 'radio', when: 'before', value: '', words: '', place: '', ran: '', power: '' }
  const [form, setForm] = useState(empty)
  const put = (change: Partial<typeof form>) => setForm({ ...form, ...change })
  const add = useAct<void>((number) => {
    const body = { ...form, value: figureOf(form.value), at: '', who: '' } as One
    return answer(client.POST('/api/jobs/{number}/measured', { params: { path: { number } }, body }))
  })
  return (
    <section className="card p-3">
      <h2 className="mb-1.5">Measured</h2>
      {!!data.compared.length && <MeasuredTable compared={data.compared} />}
      <form
        className="mt-2 grid grid-cols-2 gap-2"
        onSubmit={(e) => {
          e.preventDefault()
          add.mutate(undefined, { onSuccess: () => put({ value: '', words: '' }) })
        }}
      >
        <div className="col-span-2">
          <ErrorNote error={add.error} />
        </div>
        <select aria-label="What was measured" value={form.what} onChange={(e) => put({ what: e.target.value })}>
          {Object.entries(data.measurable).map(([key, name]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
        {closed ? (
          <span className="self-center">later, the job is closed</span>
        ) : (
          <select aria-label="When" value={form.when} onChange={(e) => put({ when: e.target.value })}>
            <option value="before">before the work</option>
            <option value="after">after it</option>
          </select>
        )}
        {form.what === 'noise' ? (
          <Words label="In words" value={form.words} onChange={(words) => put({ words })} />
        ) : (
          <FigureText
            label="Figure"
            hint={data.units[form.what]}
            value={form.value}
            onChange={(value) => put({ value })}
          />
        )}
        <Words label="Where" hint="near, far" value={form.place} onChange={(place) => put({ place })} />
        <Words label="What ran" value={form.ran} onChange={(ran) => put({ ran })} />
        <Words label="Power mode" value={form.power} onChange={(power) => put({ power })} />
        <Button type="submit" disabled={add.isPending || !!figureProblem(form.value)}>
          Add it
        </Button>
      </form>
    </section>
  )
}
