import { useState } from 'react'
import type { Schemas } from '../api/client'
import { Button } from '../ui/basics'
import { Labelled, Words } from '../ui/fields'
import { Tasks } from './Tasks'
import { Area, Check, Pick, Whole } from '../ui/form'

export type Workshop = Schemas['Workshop']

export const BLANK: Workshop = {
  name: '',
  address: '',
  logo: '',
  currency: 'EUR',
  rate_minor_per_hour: 5000,
  schools: { memory: 'free', grade: 'free', drive: 'free', spinning: true, makes: [] },
  decimal: '.',
  dates: 'iso',
  letter_keys: true,
  session_hours: 12,
  backup_days: 7,
  tax_percent: 0,
  prices_hold_tax: true,
  quote_days: 14,
  warranty: '',
  markup_percent: 0,
  tasks: {},
  approved_makes: [],
}

type Set = (change: Partial<Workshop>) => void

/** What a workshop is and how it reckons, in the order it is asked for. */
export function SettingsForm({
  start,
  busy,
  label,
  onSave,
  tasks,
  children,
}: {
  start: Workshop
  tasks?: readonly Schemas['TaskLine'][]
  busy: boolean
  label: string
  onSave: (workshop: Workshop) => void
  children?: React.ReactNode
}) {
  const [own, setOwn] = useState(start)
  const set: Set = (change) => setOwn({ ...own, ...change })
  return (
    <form
      className="space-y-3"
      onSubmit={(e) => {
        e.preventDefault()
        onSave(own)
      }}
    >
      <Door own={own} set={set} />
      <Reckoning own={own} set={set} />
      <Schools own={own} set={set} />
      <House own={own} set={set} />
      {tasks && <Tasks own={own} set={set} tasks={tasks} />}
      {children}
      <Button kind="main" type="submit" data-main-action disabled={busy}>
        {label}
      </Button>
    </form>
  )
}

export type Part = { own: Workshop; set: Set }

function Door({ own, set }: Part) {
  const [wrong, setWrong] = useState('')
  const logo = (file: File | undefined) => {
    if (!file) return
    if (!/^image\/(png|jpeg)$/.test(file.type) || file.size > 140_000) {
      setWrong('A PNG or JPEG of at most 140 kB.')
      return
    }
    const reader = new FileReader()
    reader.onload = () => set({ logo: String(reader.result) })
    reader.readAsDataURL(file)
    setWrong('')
  }
  return (
    <fieldset className="card grid grid-cols-2 gap-3 p-3 max-[700px]:grid-cols-1">
      <legend className="font-label text-ink-2 px-1 text-[13px] font-semibold uppercase">The workshop</legend>
      <Words label="Name of the workshop" value={own.name} onChange={(name) => set({ name })} />
      <Area label="Address on its papers" value={own.address} onChange={(address) => set({ address })} />
      <Area label="Warranty on its papers" value={own.warranty} onChange={(warranty) => set({ warranty })} />
      <div>
        <Labelled label="Logo on its papers" hint="PNG or JPEG">
          {(id) => (
            <input id={id} type="file" accept="image/png,image/jpeg" onChange={(e) => logo(e.target.files?.[0])} />
          )}
        </Labelled>
        {wrong && <p className="text-refused">{wrong}</p>}
        {own.logo && (
          <p className="mt-1 flex items-center gap-2">
            <img src={own.logo} alt="The logo" className="h-12 bg-white" />
            <Button kind="quiet" onClick={() => set({ logo: '' })}>
              none
            </Button>
          </p>
        )}
      </div>
    </fieldset>
  )
}

function Reckoning({ own, set }: Part) {
  return (
    <fieldset className="card grid grid-cols-4 gap-3 p-3 max-[900px]:grid-cols-2">
      <legend className="font-label text-ink-2 px-1 text-[13px] font-semibold uppercase">How it reckons</legend>
      <Words
        label="Currency"
        hint="three letters"
        value={own.currency}
        onChange={(v) => set({ currency: v.toUpperCase().slice(0, 3) })}
      />
      <Whole
        label="Bench work"
        hint="an hour"
        value={own.rate_minor_per_hour / 100}
        onChange={(v) => set({ rate_minor_per_hour: Math.round(v * 100) })}
      />
      <Whole label="Mark-up" hint="%" value={own.markup_percent} onChange={(v) => set({ markup_percent: v })} />
      <Whole label="Quotes hold" hint="days" value={own.quote_days} onChange={(v) => set({ quote_days: v })} />
      <Whole label="Tax" hint="%" value={own.tax_percent} onChange={(v) => set({ tax_percent: v })} />
      <Check label="Prices hold the tax" value={own.prices_hold_tax} onChange={(v) => set({ prices_hold_tax: v })} />
      <div className="col-span-2">
        <Words
          label="Approved makes"
          hint="with commas; none for any"
          value={own.approved_makes.join(', ')}
          onChange={(v) => set({ approved_makes: v.split(',').map((m) => m.trimStart()) })}
          onLeave={() => set({ approved_makes: [...new Set(own.approved_makes.map((m) => m.trim()).filter(Boolean))] })}
        />
      </div>
    </fieldset>
  )
}

function Schools({ own, set }: Part) {
  const schools = own.schools!
  const change = (more: Partial<typeof schools>) => set({ schools: { ...schools, ...more } })
  return (
    <fieldset className="card grid grid-cols-4 gap-3 p-3 max-[900px]:grid-cols-2">
      <legend className="font-label text-ink-2 px-1 text-[13px] font-semibold uppercase">How new jobs start</legend>
      <Pick
        label="Memory"
        value={schools.memory}
        options={[
          ['free', 'whatever is best'],
          ['add', 'add to what is there'],
          ['pair', 'a matched pair'],
        ]}
        onChange={(memory) => change({ memory })}
      />
      <Pick
        label="Memory grade"
        value={schools.grade}
        options={[
          ['free', 'whatever is best'],
          ['running', 'never above running speed'],
          ['newest', 'newest common grade'],
        ]}
        onChange={(grade) => change({ grade })}
      />
      <Pick
        label="Drives"
        value={schools.drive}
        options={[
          ['free', 'whatever is best'],
          ['replace', 'the old one leaves'],
          ['keep', 'the old one stays'],
        ]}
        onChange={(drive) => change({ drive })}
      />
      <Check label="Spinning drives too" value={schools.spinning} onChange={(spinning) => change({ spinning })} />
    </fieldset>
  )
}

function House({ own, set }: Part) {
  return (
    <fieldset className="card grid grid-cols-4 gap-3 p-3 max-[900px]:grid-cols-2">
      <legend className="font-label text-ink-2 px-1 text-[13px] font-semibold uppercase">The house</legend>
      <Pick
        label="Decimals"
        value={own.decimal}
        options={[
          ['.', '12.50'],
          [',', '12,50'],
        ]}
        onChange={(decimal) => set({ decimal })}
      />
      <Pick
        label="Dates"
        value={own.dates}
        options={[
          ['iso', '2026-11-30'],
          ['dmy', '30.11.2026'],
          ['mdy', '11/30/2026'],
        ]}
        onChange={(dates) => set({ dates })}
      />
      <Whole
        label="Signed out after"
        hint="hours of rest"
        value={own.session_hours}
        onChange={(v) => set({ session_hours: v })}
      />
      <Whole
        label="Ask for a backup after"
        hint="days; 0 never"
        value={own.backup_days}
        onChange={(v) => set({ backup_days: v })}
      />
      <Check
        label="Letter keys (j, k, g, u …)"
        value={own.letter_keys}
        onChange={(letter_keys) => set({ letter_keys })}
      />
    </fieldset>
  )
}
