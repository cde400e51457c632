import { Button } from '../../ui/basics'
import { asList, oneMore, text, type Draft, type Json } from './draft'
import { ReachedBy } from './InTheWay'
import { vocabulary } from '../../words'

const WHAT = [
  ['fan', 'fan'],
  ['heat_sink', 'heat sink'],
  ['clock_cell', 'clock cell'],
  ['hinges', 'hinges'],
  ['speakers', 'speakers'],
  ['port_board', 'port board'],
  ['keyboard', 'keyboard'],
  ['lid_cable', 'lid cable'],
  ['panel', 'panel'],
  ['case', 'case part'],
] as const
const BETWEEN = [
  ['', 'nobody has looked'],
  ['paste', 'paste'],
  ['sheet', 'a phase-change sheet'],
  ['liquid_metal', 'liquid metal: not opened here'],
] as const

/** What is changed as one piece and has no slot: tasks are done to it, and it is bought by the number printed on it. */
export function Assemblies({ draft, onChange }: { draft: Draft; onChange: (draft: Draft) => void }) {
  const all = asList(draft['assemblies'])
  const put = (assemblies: Json[]) => onChange({ ...draft, assemblies })
  const add = (what: string) => {
    const name = WHAT.find(([k]) => k === what)?.[1] ?? what
    put([...all, { id: oneMore(all, what), what, name: name[0]!.toUpperCase() + name.slice(1) }])
  }
  return (
    <section className="card space-y-2 p-3">
      <h2>Assemblies</h2>
      <p className="text-ink-2 text-[12.5px]">
        Fan, sink, cell and what else is changed as one piece, by its own number.
      </p>
      {all.map((a, i) => {
        const set = (change: Json) => put(all.map((e, n) => (n === i ? { ...e, ...change } : e)))
        const field = (name: string, label: string, more: string) => (
          <input
            aria-label={`${label}, ${text(a['name'])}`}
            placeholder={label.toLowerCase()}
            className={more}
            value={text(a[name])}
            onChange={(e) => set({ [name]: e.target.value })}
          />
        )
        return (
          <fieldset key={text(a['id'])} className="border-hair space-y-1 border-t pt-2 text-[12.5px]">
            <div className="flex flex-wrap items-center gap-1.5">
              <span className="text-ink-2 w-20">{WHAT.find(([k]) => k === a['what'])?.[1]}</span>
              {field('name', 'Name', 'min-w-32 flex-1')}
              {field('number', 'Number on it', 'num w-40')}
              <Button
                kind="quiet"
                aria-label={`Remove ${text(a['name'])}`}
                onClick={() => put(all.filter((_, n) => n !== i))}
              >
                ×
              </Button>
            </div>
            <div className="flex flex-wrap items-center gap-1.5">
              {field('comes_with', 'Comes only with', 'min-w-36 flex-1')}
              {a['what'] === 'heat_sink' && (
                <>
                  <input
                    aria-label={`Order its screws are tightened in, ${text(a['name'])}`}
                    placeholder="printed order: 1 2 3 4"
                    className="num w-40"
                    defaultValue={asList(a['order']).join(' ')}
                    onChange={(e) => set({ order: e.target.value.split(/[\s,]+/).filter(Boolean) })}
                  />
                  <label className="flex items-center gap-1">
                    under it
                    <select value={text(a['interface'])} onChange={(e) => set({ interface: e.target.value })}>
                      {BETWEEN.map(([k, words]) => (
                        <option key={k} value={k}>
                          {words}
                        </option>
                      ))}
                    </select>
                  </label>
                </>
              )}
              <select
                aria-label={`Who says so, ${text(a['name'])}`}
                value={text(a['source']) || 'documented'}
                onChange={(e) => set({ source: e.target.value })}
              >
                {vocabulary().step_sources.map(({ id: s }) => (
                  <option key={s}>{s}</option>
                ))}
              </select>
            </div>
            <ReachedBy
              to={a}
              obstacles={asList(draft['obstacles'])}
              onChange={(next) => put(all.map((e, n) => (n === i ? next : e)))}
            />
          </fieldset>
        )
      })}
      <select aria-label="Add an assembly" value="" onChange={(e) => add(e.target.value)}>
        <option value="">add an assembly …</option>
        {WHAT.map(([id, name]) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </section>
  )
}
