import { Button } from '../../ui/basics'
import { asList, listed, text, withoutStep, type Draft, type Json, figure } from './draft'
import { FigureInput } from '../../ui/figure'
import { vocabulary } from '../../words'

/** What must come off on the way in, in which order, and who says so. */
export function InTheWay({ draft, onChange }: { draft: Draft; onChange: (draft: Draft) => void }) {
  const obstacles = asList(draft['obstacles'])
  const put = (next: Json[]) => onChange({ ...draft, obstacles: next })
  const set = (i: number, change: Json) => put(obstacles.map((o, n) => (n === i ? { ...o, ...change } : o)))
  const remove = (id: string) => onChange(withoutStep(draft, id))
  const add = () => {
    const taken = new Set(obstacles.map((o) => text(o['id'])))
    let n = obstacles.length + 1
    while (taken.has(`step-${n}`)) n += 1
    const last = obstacles.at(-1)
    const after = last ? [text(last['id'])] : []
    put([...obstacles, { id: `step-${n}`, what: 'screws', name: `Step ${n}`, after, seconds: 60 }])
  }
  return (
    <section className="card space-y-2 p-3">
      <h2>In the way</h2>
      {!obstacles.length && <p className="text-ink-2">Nothing yet: say what comes off before the slots are reached.</p>}
      {obstacles.map((o, i) => (
        <fieldset key={text(o['id'])} className="border-hair border-t pt-2">
          <div className="grid grid-cols-[90px_1fr_70px_56px_64px_auto] items-center gap-1">
            <select aria-label="What it is" value={text(o['what'])} onChange={(e) => set(i, { what: e.target.value })}>
              {vocabulary().in_the_way.map(({ id: w }) => (
                <option key={w}>{w}</option>
              ))}
            </select>
            <input aria-label="Its name" value={text(o['name'])} onChange={(e) => set(i, { name: e.target.value })} />
            <input
              aria-label="Tool"
              placeholder="tool"
              value={text(o['tool'])}
              onChange={(e) => set(i, { tool: e.target.value })}
            />
            <FigureInput
              aria-label="Screws"
              placeholder="screws"
              whole
              value={figure(o['screws'])}
              onFigure={(v) => set(i, { screws: v ?? 0 })}
            />
            <FigureInput
              aria-label="Seconds off and on again"
              placeholder="s"
              whole
              value={figure(o['seconds'])}
              onFigure={(v) => set(i, { seconds: v ?? 0 })}
            />
            <Button kind="quiet" aria-label={`Remove ${text(o['name'])}`} onClick={() => remove(text(o['id']))}>
              ×
            </Button>
          </div>
          <div className="mt-1 flex flex-wrap items-center gap-1.5 text-[12.5px]">
            <FigureInput
              aria-label="Screw length, mm"
              placeholder="mm long"
              className="w-20"
              value={figure(o['length_mm'])}
              onFigure={(v) => set(i, { length_mm: v })}
            />
            <label className="flex items-center gap-1">
              <input
                type="checkbox"
                checked={o['captive'] === true}
                onChange={(e) => set(i, { captive: e.target.checked })}
              />
              captive
            </label>
            <input
              aria-label="Where"
              placeholder="where"
              className="w-36"
              value={text(o['place'])}
              onChange={(e) => set(i, { place: e.target.value })}
            />
            <input
              aria-label="Hint"
              placeholder="a hint for the bench"
              className="min-w-40 flex-1"
              value={text(o['hint'])}
              onChange={(e) => set(i, { hint: e.target.value })}
            />
            <input
              aria-label="Caution"
              placeholder="a caution"
              className="min-w-40 flex-1"
              value={text(o['caution'])}
              onChange={(e) => set(i, { caution: e.target.value })}
            />
          </div>
          <div className="mt-1 flex flex-wrap items-center gap-x-3 text-[12.5px]">
            <span className="text-ink-2">after</span>
            {obstacles
              .filter((x) => x !== o)
              .map((x) => {
                const id = text(x['id'])
                const after = listed(o['after'])
                return (
                  <label key={id} className="flex items-center gap-1">
                    <input
                      type="checkbox"
                      checked={after.includes(id)}
                      onChange={(e) =>
                        set(i, { after: e.target.checked ? [...after, id] : after.filter((a) => a !== id) })
                      }
                    />
                    {text(x['name'])}
                  </label>
                )
              })}
            <select
              aria-label="Who says so"
              value={text(o['source']) || 'documented'}
              onChange={(e) => set(i, { source: e.target.value })}
            >
              {vocabulary().step_sources.map(({ id: s }) => (
                <option key={s}>{s}</option>
              ))}
            </select>
          </div>
        </fieldset>
      ))}
      <Button onClick={add}>One more step</Button>
      <label className="block">
        Power is cut by{' '}
        <select value={text(draft['power_off'])} onChange={(e) => onChange({ ...draft, power_off: e.target.value })}>
          <option value="">nothing named yet</option>
          {obstacles.map((o) => (
            <option key={text(o['id'])} value={text(o['id'])}>
              {text(o['name'])}
            </option>
          ))}
        </select>
      </label>
      <label className="block">
        The system starts from{' '}
        <select value={text(draft['boot_slot'])} onChange={(e) => onChange({ ...draft, boot_slot: e.target.value })}>
          <option value="">no slot named yet</option>
          {draft.slots
            .filter((s) => ['m2_drive', 'bay'].includes(text(s['kind'])))
            .map((s) => (
              <option key={text(s['id'])} value={text(s['id'])}>
                {text(s['name'])}
              </option>
            ))}
        </select>
      </label>
    </section>
  )
}

/** Which of the steps lead to a slot or an assembly. */
export function ReachedBy({ to, obstacles, onChange }: { to: Json; obstacles: Json[]; onChange: (to: Json) => void }) {
  const reached = listed(to['reached_by'])
  if (!obstacles.length) return null
  return (
    <div className="flex flex-wrap items-center gap-x-3">
      <span className="text-ink-2">reached by</span>
      {obstacles.map((o) => {
        const id = text(o['id'])
        return (
          <label key={id} className="flex items-center gap-1">
            <input
              type="checkbox"
              checked={reached.includes(id)}
              onChange={(e) =>
                onChange({ ...to, reached_by: e.target.checked ? [...reached, id] : reached.filter((r) => r !== id) })
              }
            />
            {text(o['name'])}
          </label>
        )
      })}
    </div>
  )
}
