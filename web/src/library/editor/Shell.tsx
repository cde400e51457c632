import { Button } from '../../ui/basics'
import { Labelled } from '../../ui/fields'
import { asList, renamed, text, type Draft, type Json, figure } from './draft'
import { FigureInput } from '../../ui/figure'

/** The shell: names, size, what identifies it, its configurations. */
export function Shell({
  draft,
  onChange,
  markKinds,
}: {
  draft: Draft
  onChange: (draft: Draft) => void
  markKinds: readonly string[]
}) {
  const field = (name: string, label: string, number = false) => (
    <Labelled label={label}>
      {(id) => (
        <input
          id={id}
          className={number ? 'num w-full' : 'w-full'}
          value={text(draft[name])}
          onChange={(e) => {
            const said = e.target.value
            if (name === 'maker' || name === 'name') onChange(renamed(draft, name, said))
            else onChange({ ...draft, [name]: number ? Number(said) || said : said })
          }}
        />
      )}
    </Labelled>
  )
  const configuration = (i: number, change: Json) =>
    onChange({ ...draft, configurations: draft.configurations.map((c, n) => (n === i ? { ...c, ...change } : c)) })
  return (
    <section className="card space-y-2 p-3">
      <h2>The machine</h2>
      <div className="grid grid-cols-2 gap-2">
        {field('maker', 'Maker')}
        {field('name', 'Name')}
        {field('id', 'Id in the library')}
        <Labelled label="Opens">
          {(id) => (
            <select
              id={id}
              className="w-full"
              value={text(draft['opens']) || 'under'}
              onChange={(e) => onChange({ ...draft, opens: e.target.value })}
            >
              <option value="under">from below</option>
              <option value="keyboard">from the keyboard side</option>
            </select>
          )}
        </Labelled>
        {field('width_mm', 'Width, mm', true)}
        {field('depth_mm', 'Depth, mm', true)}
      </div>
      <label className="flex items-center gap-2 text-[12.5px]">
        <input
          type="checkbox"
          checked={draft['draft'] === true}
          onChange={(e) => onChange({ ...draft, draft: e.target.checked })}
        />
        still a draft: nobody has gone through all of it
      </label>
      <Marks
        label="What stands on every one of them"
        marks={asList(draft['marks'])}
        kinds={markKinds}
        onChange={(marks) => onChange({ ...draft, marks })}
      />
      {draft.configurations.map((c, i) => (
        <fieldset key={i} className="border-hair space-y-2 border-t pt-2">
          <legend className="font-medium">Configuration {i + 1}</legend>
          <div className="grid grid-cols-2 gap-2">
            {(['name', 'id', 'processor', 'graphics'] as const).map((name) => (
              <Labelled key={name} label={name[0]!.toUpperCase() + name.slice(1)}>
                {(id) => (
                  <input
                    id={id}
                    className="w-full"
                    value={text(c[name])}
                    onChange={(e) => configuration(i, { [name]: e.target.value })}
                  />
                )}
              </Labelled>
            ))}
            <Labelled label="Cores">
              {(id) => (
                <FigureInput
                  id={id}
                  className="w-full"
                  whole
                  value={figure(c['cores'])}
                  onFigure={(v) => configuration(i, { cores: v })}
                />
              )}
            </Labelled>
            <Labelled label="Year">
              {(id) => (
                <FigureInput
                  id={id}
                  className="w-full"
                  whole
                  value={figure(c['year'])}
                  onFigure={(v) => configuration(i, { year: v })}
                />
              )}
            </Labelled>
          </div>
          <Marks
            label="What stands on this one"
            marks={asList(c['marks'])}
            kinds={markKinds}
            onChange={(marks) => configuration(i, { marks })}
          />
        </fieldset>
      ))}
      <Button
        onClick={() => {
          const n = draft.configurations.length + 1
          const fresh = {
            id: `configuration-${n}`,
            name: text(draft['name']),
            processor: 'unknown',
            marks: [],
          }
          onChange({ ...draft, configurations: [...draft.configurations, fresh] })
        }}
      >
        Another configuration
      </Button>
    </section>
  )
}

function Marks({
  label,
  marks,
  kinds,
  onChange,
}: {
  label: string
  marks: Json[]
  kinds: readonly string[]
  onChange: (marks: Json[]) => void
}) {
  const set = (i: number, change: Json) => onChange(marks.map((m, n) => (n === i ? { ...m, ...change } : m)))
  return (
    <div>
      <div className="font-medium">{label}</div>
      {marks.map((m, i) => (
        <div key={i} className="mb-1 flex gap-1">
          <select aria-label="Kind of mark" value={text(m['kind'])} onChange={(e) => set(i, { kind: e.target.value })}>
            {kinds.map((k) => (
              <option key={k} value={k}>
                {k.replace('_', ' ')}
              </option>
            ))}
          </select>
          <input
            aria-label="What it says"
            className="num min-w-0 flex-1"
            value={text(m['text'])}
            onChange={(e) => set(i, { text: e.target.value })}
          />
          <Button kind="quiet" aria-label="Remove this mark" onClick={() => onChange(marks.filter((_, n) => n !== i))}>
            ×
          </Button>
        </div>
      ))}
      <Button kind="quiet" onClick={() => onChange([...marks, { kind: 'model', text: '' }])}>
        add a mark
      </Button>
    </div>
  )
}
