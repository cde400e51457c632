import type { Schemas } from '../api/client'
import { sign } from '../words'
import type { Part } from './SettingsForm'
import { shownFigure } from '../figures'
import { FigureInput } from '../ui/figure'

/** What each task takes here, where it is not what the catalogue says. */
export function Tasks({ own, set, tasks }: Part & { tasks: readonly Schemas['TaskLine'][] }) {
  const change = (id: string, more: Partial<Schemas['OwnTask']>) =>
    set({ tasks: { ...own.tasks, [id]: { done_here: true, ...own.tasks[id], ...more } } })
  return (
    <fieldset className="card p-3">
      <legend className="font-label text-ink-2 px-1 text-[13px] font-semibold uppercase">Tasks</legend>
      <p className="text-ink-2 mb-1 text-[12.5px]">
        Minutes and outlay of your own; an empty field is as the catalogue says. Opening the machine is counted beside.
      </p>
      <table className="w-full">
        <thead>
          <tr>
            {['Task', 'Minutes', `Outlay, ${sign()}`, 'Done here'].map((h) => (
              <th key={h} className="px-2 py-1">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {tasks.map((t) => {
            const mine = own.tasks[t.id]
            const figure = (name: 'seconds' | 'consumables_minor', label: string, scale: number) => (
              <td className="w-28">
                <FigureInput
                  aria-label={`${label}, ${t.name}`}
                  className="w-full"
                  scale={scale}
                  placeholder={shownFigure(t[name] / scale)}
                  value={mine?.[name]}
                  onFigure={(value) => change(t.id, { [name]: value })}
                />
              </td>
            )
            return (
              <tr key={t.id} className="[&>td]:border-hair [&>td]:border-t [&>td]:px-2 [&>td]:py-1">
                <td>
                  {t.name} <span className="text-ink-2 text-[12.5px]">{t.consumables.join(', ')}</span>
                </td>
                {figure('seconds', 'Minutes', 60)}
                {figure('consumables_minor', 'Outlay', 100)}
                <td className="w-24">
                  <input
                    type="checkbox"
                    aria-label={`Done here, ${t.name}`}
                    checked={mine?.done_here ?? true}
                    onChange={(e) => change(t.id, { done_here: e.target.checked })}
                  />
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
    </fieldset>
  )
}
