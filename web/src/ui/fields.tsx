import { useEffect, useId, useRef, useState } from 'react'
import { at, useEdit, useJob } from '../api/job'
import { TYPING_MS } from '../api/outbox'

type Common = { path: string; label: string; hint?: string; className?: string }

/** What a place of the job holds, as text; while it is typed in, what is typed. */
function useText(path: string, read: (value: unknown) => string, write: (text: string) => unknown) {
  const { view } = useJob()
  const edit = useEdit()
  const stored = at(view?.job, path) ?? null
  const saved = read(stored)
  // What stood there when typing began: a colleague's change since then must not be overwritten.
  const base = useRef<unknown>(null)
  const [text, setText] = useState(saved)
  const typing = useRef(false)
  useEffect(() => {
    if (!typing.current) setText(saved)
  }, [saved])
  return {
    value: text,
    onFocus: () => {
      typing.current = true
      base.current = stored
    },
    onBlur: () => {
      typing.current = false
      setText(saved)
    },
    onChange: (e: { target: { value: string } }) => {
      typing.current = true
      setText(e.target.value)
      const value = write(e.target.value)
      if (value === undefined) return
      edit(path, value, { base: base.current, pause: TYPING_MS })
      base.current = value
    },
  }
}

export function Labelled({
  label,
  hint,
  className = '',
  children,
}: {
  label: string
  hint?: string
  className?: string
  children: (id: string) => React.ReactNode
}) {
  const id = useId()
  return (
    <div className={className}>
      <label htmlFor={id} className="mb-0.5 block font-medium">
        {label}
        {hint && <span className="text-ink-2 ml-1.5 text-[12.5px] font-normal">{hint}</span>}
      </label>
      {children(id)}
    </div>
  )
}

/** One line of words kept by a form, not by the job. */
export function Words({
  label,
  hint,
  value,
  onChange,
  onLeave,
  ...more
}: {
  label: string
  hint?: string
  value: string
  onChange: (value: string) => void
  onLeave?: () => void
  required?: boolean
  autoFocus?: boolean
  autoComplete?: string
}) {
  return (
    <Labelled label={label} hint={hint}>
      {(id) => (
        <input
          id={id}
          className="w-full"
          value={value}
          onChange={(e) => onChange(e.target.value)}
          onBlur={onLeave}
          {...more}
        />
      )}
    </Labelled>
  )
}

export function TextField({ path, label, hint, className, rows }: Common & { rows?: number }) {
  const field = useText(
    path,
    (v) => (typeof v === 'string' ? v : ''),
    (t) => t,
  )
  return (
    <Labelled label={label} hint={hint} className={className}>
      {(id) =>
        rows ? (
          <textarea id={id} rows={rows} className="w-full" {...field} />
        ) : (
          <input id={id} className="w-full" {...field} />
        )
      }
    </Labelled>
  )
}

/** A number in the unit shown; `scale` is what one of it is in the stored unit. Empty is unknown. */
export function NumberField({
  path,
  label,
  hint,
  className,
  scale = 1,
  whole = false,
  required = false,
}: Common & { scale?: number; whole?: boolean; required?: boolean }) {
  const [bad, setBad] = useState(false)
  const field = useText(
    path,
    (v) => (typeof v === 'number' ? String(v / scale) : ''),
    (t) => {
      const text = t.trim().replace(',', '.')
      const value = Number(text)
      const ok = text === '' ? !required : Number.isFinite(value) && value >= 0
      setBad(!ok)
      if (!ok) return undefined
      if (text === '') return null
      return whole || scale !== 1 ? Math.round(value * scale) : value
    },
  )
  return (
    <Labelled label={label} hint={hint} className={className}>
      {(id) => (
        <>
          <input id={id} inputMode="decimal" className="num w-full" aria-invalid={bad} {...field} />
          {bad && (
            <div className="text-refused text-[12.5px]">A number, not negative{required ? ', not empty' : ''}.</div>
          )}
        </>
      )}
    </Labelled>
  )
}

export function ChoiceField({
  path,
  label,
  hint,
  className,
  options,
}: Common & { options: readonly (readonly [string, string])[] }) {
  const { view } = useJob()
  const edit = useEdit()
  const value = at(view?.job, path)
  return (
    <Labelled label={label} hint={hint} className={className}>
      {(id) => (
        <select id={id} className="w-full" value={String(value ?? '')} onChange={(e) => edit(path, e.target.value)}>
          {options.map(([key, name]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      )}
    </Labelled>
  )
}

export function CheckField({ path, label }: { path: string; label: string }) {
  const { view } = useJob()
  const edit = useEdit()
  return (
    <label className="flex items-center gap-2">
      <input type="checkbox" checked={at(view?.job, path) === true} onChange={(e) => edit(path, e.target.checked)} />
      {label}
    </label>
  )
}
