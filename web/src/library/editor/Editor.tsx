import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useDeferredValue, useEffect, useState } from 'react'
import { useLocation, useNavigate, useSearchParams } from 'react-router'
import { answer, client, isConflict, type Schemas } from '../../api/client'
import { MachineMap } from '../../map/MachineMap'
import { Button, ErrorNote, Heading, Note } from '../../ui/basics'
import { Assemblies } from './Assemblies'
import { Board } from './Board'
import { asList, keep, kept, remembered, text, type Draft, type Json } from './draft'
import { differences, laidOver, written } from './differences'
import { Exclusions } from './Exclusions'
import { FactsEditor } from './FactsEditor'
import { InTheWay } from './InTheWay'
import { Shell } from './Shell'
import { SlotEditor } from './SlotEditor'
import { May } from '../../shell/May'

/** A machine that is not in the library: from nothing, a copy or a reading; checked as it is typed. */
export function Editor() {
  const [params] = useSearchParams()
  const { state } = useLocation() as { state: { draft?: Draft } | null }
  const go = useNavigate()
  const cache = useQueryClient()
  const [draft, setDraft] = useState<Draft | null>(null)
  const [base, setBase] = useState<Draft | null>(null)
  const [of, setOf] = useState('')
  const [past, setPast] = useState<readonly Draft[]>([])
  const [error, setError] = useState<Error | null>(null)
  const [selected, setSelected] = useState('')
  const editing = params.get('machine')
  const { data: form } = useQuery({
    queryKey: ['machine-form'],
    queryFn: () => answer(client.GET('/api/machines/form')),
    staleTime: Infinity,
  })
  const begin = useCallback(async () => {
    if (state?.draft) return state.draft
    if (editing)
      return (await answer(client.GET('/api/machines/{slug}/data', { params: { path: { slug: editing } } }))) as Draft
    const copy = params.get('copy')
    const job = params.get('job')
    const body = {
      start: copy ? 'copy' : job ? 'reading' : 'nothing',
      machine: copy ?? '',
      configuration: params.get('configuration') ?? '',
      job: job ? Number(job) : null,
      maker: '',
      name: '',
    }
    return (await answer(client.POST('/api/machines/draft', { body }))) as Draft
  }, [editing, params, state])
  useEffect(() => {
    begin().then((begun) => {
      setDraft(begun)
      setBase(begun)
    }, setError)
  }, [begin])
  const change = (next: Draft) => {
    if (draft) setPast((before) => remembered(before, draft, next))
    setDraft(next)
    keep(next)
  }
  const undo = () => {
    const last = past.at(-1)
    if (!last) return
    setPast(past.slice(0, -1))
    setDraft(last)
    keep(last)
  }
  const old = kept()
  const late = useDeferredValue(draft)
  const { data: check } = useQuery({
    queryKey: ['machine-check', late],
    queryFn: () => answer(client.POST('/api/machines/check', { body: late! })),
    enabled: !!late,
    placeholderData: (previous) => previous,
  })
  if (!draft || !form)
    return (
      <main className="flex-1 px-6 py-4">
        <ErrorNote error={error} />
      </main>
    )
  const slot = draft.slots.find((s) => s['id'] === selected) ?? draft.slots[0]
  const whose = draft.configurations.some((c) => c['id'] === of) ? of : ''
  const put = (place: string, next: Json) => change(written(draft, whose, place, next))
  const remove = (id: unknown) => change({ ...draft, slots: draft.slots.filter((s) => s['id'] !== id) })
  const add = async (template: string) => {
    const fresh = await answer(
      client.POST('/api/machines/slot/{template}', { params: { path: { template } }, body: draft }),
    )
    change({ ...draft, slots: [...draft.slots, fresh as Json] })
    setSelected(text((fresh as Json)['id']))
  }
  const save = async (mine = false) => {
    try {
      const query = { what: 'added in the editor', new: true }
      const saved =
        editing && base
          ? await answer(client.PUT('/api/machines/edited', { body: { machine: draft, base, mine } }))
          : await answer(client.PUT('/api/machines/saved', { params: { query }, body: draft }))
      keep(null)
      await cache.invalidateQueries()
      await go(`/machines/${saved.machine}/${saved.configuration}`)
    } catch (e) {
      setError(e as Error)
    }
  }
  return (
    <main className="flex-1 overflow-y-auto px-6 py-4">
      <div className="mx-auto max-w-[1200px] space-y-3">
        <Heading
          title={editing ? `Edit ${text(draft['maker'])} ${text(draft['name'])}` : 'A machine the library lacks'}
        >
          What you do not know stays unknown. The map is drawn from what you enter.
        </Heading>
        {old && JSON.stringify(old) !== JSON.stringify(draft) && (
          <Note>
            A draft of {text(old['maker'])} {text(old['name'])} is kept in this browser.{' '}
            <Button kind="quiet" onClick={() => setDraft(old)}>
              go on with it
            </Button>
          </Note>
        )}
        <Differences draft={draft} places={form.places} of={whose} onOf={setOf} />
        <ErrorNote error={error} />
        {editing && isConflict(error) && (
          <p className="flex gap-2">
            <Button onClick={() => void save(true)}>Keep mine there</Button>
            <Button
              onClick={() =>
                void begin().then((theirs) => {
                  setError(null)
                  setBase(theirs)
                  change(theirs)
                }, setError)
              }
            >
              Load theirs
            </Button>
          </p>
        )}
        <Check check={check} />
        {check?.map && (
          <div className="mx-auto max-w-[860px]">
            <MachineMap
              map={check.map}
              height={260}
              selected={text(slot?.['id'])}
              onSelect={setSelected}
              onMove={(id, at) =>
                change({
                  ...draft,
                  slots: draft.slots.map((s) =>
                    s['id'] === id ? { ...s, place: { ...((s['place'] ?? {}) as Json), ...at } } : s,
                  ),
                })
              }
            />
            <p className="text-ink-2 text-[12.5px]">
              Drag a slot to where it lies: it snaps to whole millimetres and to its neighbours’ edges.
            </p>
          </div>
        )}
        <div className="grid grid-cols-[1fr_1.250fr] items-start gap-4 max-[1100px]:grid-cols-1">
          <div className="space-y-3">
            <Shell draft={draft} onChange={change} markKinds={form.mark_kinds} />
            <section className="card p-3">
              <h2 className="mb-1">Memory as a whole</h2>
              <FactsEditor
                attributes={form.places['memory_system'] ?? []}
                values={laidOver(draft, whose, 'memory')}
                onChange={(memory) => put('memory', memory)}
              />
            </section>
            <Board draft={draft} onChange={change} />
            <InTheWay draft={draft} onChange={change} />
            <Assemblies draft={draft} onChange={change} />
            <Exclusions draft={draft} onChange={change} />
            <section className="card p-3">
              <h2 className="mb-1">Boot</h2>
              <FactsEditor
                attributes={form.places['boot'] ?? []}
                values={laidOver(draft, whose, 'boot')}
                onChange={(boot) => put('boot', boot)}
              />
            </section>
          </div>
          <div className="space-y-3">
            <section className="card p-3">
              <h2 className="mb-1">Slots</h2>
              <div className="mb-2 flex flex-wrap gap-1.5">
                {draft.slots.map((s) => (
                  <Button
                    key={text(s['id'])}
                    aria-pressed={s === slot}
                    className={s === slot ? 'border-gold bg-gold-soft' : ''}
                    onClick={() => setSelected(text(s['id']))}
                  >
                    {text(s['name'])}
                  </Button>
                ))}
              </div>
              <select aria-label="Add a slot" value="" onChange={(e) => void add(e.target.value).catch(setError)}>
                <option value="">add a slot …</option>
                {Object.entries(form.templates).map(([id, name]) => (
                  <option key={id} value={id}>
                    {name}
                  </option>
                ))}
              </select>
            </section>
            {slot && (
              <SlotEditor
                key={text(slot['id'])}
                slot={laidOver(draft, whose, text(slot['id']))}
                attributes={form.places[text(slot['kind'])] ?? []}
                obstacles={asList(draft['obstacles'])}
                onChange={(next) => put(text(slot['id']), next)}
                onRemove={() => remove(slot['id'])}
              />
            )}
            <div className="flex items-center gap-3">
              <May role="library" does="A machine is kept by">
                <Button kind="main" data-main-action disabled={!check?.map} onClick={() => void save()}>
                  Save to the library
                </Button>
              </May>
              <Button disabled={!past.length} onClick={undo}>
                Undo
              </Button>
              <Export draft={draft} />
            </div>
          </div>
        </div>
      </div>
    </main>
  )
}

/** Whose facts are edited below, and what configurations say differently, side by side. */
function Differences({
  draft,
  places,
  of,
  onOf,
}: {
  draft: Draft
  places: Record<string, Schemas['AttributeForm'][]>
  of: string
  onOf: (configuration: string) => void
}) {
  if (draft.configurations.length < 2) return null
  const words = (place: string, name: string) => {
    const kind =
      place === 'memory' ? 'memory_system' : text(draft.slots.find((s) => s['id'] === place)?.['kind']) || place
    const known = places[kind]?.find((a) => a.name === name)
    return { label: known?.label ?? name.replaceAll('_', ' '), scale: known?.scale ?? 1 }
  }
  const lines = differences(draft, words)
  return (
    <section className="card p-3" aria-label="Differences between configurations">
      <label className="flex items-center gap-2">
        Facts below are those of
        <select value={of} onChange={(e) => onOf(e.target.value)}>
          <option value="">every configuration</option>
          {draft.configurations.map((c) => (
            <option key={text(c['id'])} value={text(c['id'])}>
              {text(c['name'])}, {text(c['processor'])}
            </option>
          ))}
        </select>
      </label>
      {lines.length > 0 && (
        <table className="mt-2 w-full text-[12.5px]">
          <thead>
            <tr>
              {['Differs in', 'As a rule', ...draft.configurations.map((c) => text(c['name']))].map((h, i) => (
                <th key={i} className="px-2 py-1 text-left">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {lines.map((d) => (
              <tr key={d.place + d.name} className="[&>td]:border-hair [&>td]:border-t [&>td]:px-2 [&>td]:py-1">
                <td>
                  {d.place}: {d.name}
                </td>
                <td className="text-ink-2 num">{d.shell}</td>
                {d.each.map((e, i) => (
                  <td key={i} className="num">
                    {e || <span className="text-ink-2">as a rule</span>}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  )
}

function Check({ check }: { check: Schemas['Checked'] | undefined }) {
  if (!check || check.map) return <Note kind="seats">Sound as it stands.</Note>
  return (
    <Note kind="refused">
      <span role="alert">
        {check.where}: {check.what}. {check.mend}
      </span>
    </Note>
  )
}

function Export({ draft }: { draft: Draft }) {
  const href = `data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify(draft, null, 1))}`
  return (
    <a className="underline" href={href} download={`${text(draft['id']) || 'machine'}.json`}>
      the draft as a file
    </a>
  )
}
