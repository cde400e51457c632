import { Button } from '../../ui/basics'
import { asList, text, type Draft, type Json } from './draft'

/** What is soldered to the board, and what is drawn that is no slot. */
export function Board({ draft, onChange }: { draft: Draft; onChange: (draft: Draft) => void }) {
  const memory = (draft['memory'] ?? {}) as Json
  const chips = asList(memory['soldered'])
  const features = asList(draft['features'])
  const solder = (soldered: Json[]) => onChange({ ...draft, memory: { ...memory, soldered } })
  const draw = (next: Json[]) => onChange({ ...draft, features: next })
  const figure = (said: string) => (said.trim() ? Number(said) || said : null)
  return (
    <section className="card space-y-2 p-3">
      <h2>On the board</h2>
      {chips.map((c, i) => {
        const set = (change: Json) => solder(chips.map((x, n) => (n === i ? { ...x, ...change } : x)))
        return (
          <div key={i} className="flex flex-wrap items-center gap-1.5">
            <input
              aria-label="Soldered memory, GB"
              className="num w-16"
              value={text(c['capacity_gb'])}
              onChange={(e) => set({ capacity_gb: figure(e.target.value) ?? '' })}
            />
            GB at
            <input
              aria-label="Its rate, MT/s"
              placeholder="unknown"
              className="num w-20"
              value={text(c['rated_mts'])}
              onChange={(e) => set({ rated_mts: figure(e.target.value) })}
            />
            MT/s, channel
            <input
              aria-label="Its channel"
              placeholder="unknown"
              className="num w-20"
              value={text(c['channel'])}
              onChange={(e) => set({ channel: e.target.value || null })}
            />
            <Button
              kind="quiet"
              aria-label="Remove this soldered memory"
              onClick={() => solder(chips.filter((_, n) => n !== i))}
            >
              ×
            </Button>
          </div>
        )
      })}
      <Button kind="quiet" onClick={() => solder([...chips, { capacity_gb: 8, rated_mts: null, channel: null }])}>
        memory soldered to the board
      </Button>
      {features.map((f, i) => {
        const set = (change: Json) => draw(features.map((x, n) => (n === i ? { ...x, ...change } : x)))
        const place = (f['place'] ?? {}) as Json
        return (
          <div key={`feature ${i}`} className="flex flex-wrap items-center gap-1.5">
            <input
              aria-label="What is drawn"
              className="w-32"
              value={text(f['name'])}
              onChange={(e) => set({ name: e.target.value })}
            />
            <input
              aria-label="A word on it"
              placeholder="a word on it"
              className="min-w-0 flex-1"
              value={text(f['note'])}
              onChange={(e) => set({ note: e.target.value })}
            />
            {(['x_mm', 'y_mm', 'w_mm', 'h_mm'] as const).map((name) => (
              <input
                key={name}
                aria-label={{ x_mm: 'From left', y_mm: 'From top', w_mm: 'Width', h_mm: 'Height' }[name]}
                className="num w-14"
                value={text(place[name])}
                onChange={(e) => set({ place: { ...place, [name]: figure(e.target.value) ?? '' } })}
              />
            ))}
            <Button
              kind="quiet"
              aria-label={`Remove ${text(f['name'])}`}
              onClick={() => draw(features.filter((_, n) => n !== i))}
            >
              ×
            </Button>
          </div>
        )
      })}
      <Button
        kind="quiet"
        onClick={() =>
          draw([...features, { name: 'Fan', note: '', place: { x_mm: 100, y_mm: 20, w_mm: 60, h_mm: 60 } }])
        }
      >
        something drawn that is no slot
      </Button>
    </section>
  )
}
