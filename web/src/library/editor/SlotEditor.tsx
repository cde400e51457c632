import type { Schemas } from '../../api/client'
import { Button } from '../../ui/basics'
import { Labelled } from '../../ui/fields'
import { text, type Json, figure } from './draft'
import { Delivered } from './Delivered'
import { FactsEditor } from './FactsEditor'
import { ReachedBy } from './InTheWay'
import { FigureInput } from '../../ui/figure'

const EDGES = ['left', 'right', 'top', 'bottom']

/** One slot: its name, where it lies in mm, and every fact of it. */
export function SlotEditor({
  slot,
  attributes,
  obstacles,
  onChange,
  onRemove,
}: {
  slot: Json
  attributes: readonly Schemas['AttributeForm'][]
  obstacles: Json[]
  onChange: (slot: Json) => void
  onRemove: () => void
}) {
  const place = (slot['place'] ?? {}) as Json
  const put = (name: string, value: unknown) => onChange({ ...slot, place: { ...place, [name]: value } })
  const soldered = slot['form'] === 'soldered'
  return (
    <section className="card space-y-2 p-3">
      <div className="flex items-end gap-2">
        <Labelled label="Name" className="flex-1">
          {(id) => (
            <input
              id={id}
              className="w-full"
              value={text(slot['name'])}
              onChange={(e) => onChange({ ...slot, name: e.target.value })}
            />
          )}
        </Labelled>
        {['m2_drive', 'radio', 'cellular'].includes(text(slot['kind'])) && (
          <Labelled label="Form">
            {(id) => (
              <select
                id={id}
                value={text(slot['form']) || 'm2'}
                onChange={(e) => onChange({ ...slot, form: e.target.value })}
              >
                <option value="m2">M.2 socket</option>
                <option value="mini">mini card socket</option>
                <option value="soldered">soldered</option>
              </select>
            )}
          </Labelled>
        )}
        <Button kind="quiet" onClick={onRemove}>
          remove the slot
        </Button>
      </div>
      <div className="grid grid-cols-6 gap-2">
        {(['x_mm', 'y_mm', 'w_mm', 'h_mm'] as const).map((name) => (
          <Labelled key={name} label={{ x_mm: 'From left', y_mm: 'From top', w_mm: 'Width', h_mm: 'Height' }[name]}>
            {(id) => (
              <FigureInput
                id={id}
                className="w-full"
                value={figure(place[name])}
                onFigure={(v) => put(name, v ?? '')}
              />
            )}
          </Labelled>
        ))}
        <Labelled label="Socket at">
          {(id) => (
            <select
              id={id}
              className="w-full"
              value={text(place['contacts']) || 'left'}
              onChange={(e) => put('contacts', e.target.value)}
            >
              {EDGES.map((e) => (
                <option key={e}>{e}</option>
              ))}
            </select>
          )}
        </Labelled>
        <Labelled label="Side">
          {(id) => (
            <select
              id={id}
              className="w-full"
              value={text(place['face']) || 'under'}
              onChange={(e) => put('face', e.target.value)}
            >
              <option value="under">below</option>
              <option value="keyboard">keyboard</option>
            </select>
          )}
        </Labelled>
      </div>
      <Delivered slot={slot} onChange={onChange} />
      <ReachedBy to={slot} obstacles={obstacles} onChange={onChange} />
      {!soldered && <FactsEditor attributes={relevant(slot, attributes)} values={slot} onChange={onChange} />}
      {soldered && <p className="text-ink-2">Soldered: named, so that nobody buys for it.</p>}
    </section>
  )
}

const M2_ONLY = ['key', 'width_mm', 'standoffs_mm', 'socket_height', 'clearance_below_um', 'clearance_above_um', 'bracket_mm', 'pad_below'] // prettier-ignore

/** What a socket of this form has: an M.2 socket no mini sizes, a mini socket no key. */
function relevant(slot: Json, attributes: readonly Schemas['AttributeForm'][]) {
  const mini = slot['form'] === 'mini'
  return attributes.filter(
    (a) => slot[a.name] !== undefined || (mini ? !M2_ONLY.includes(a.name) : a.name !== 'mini_sizes'),
  )
}
