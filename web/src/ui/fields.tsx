import { useEffect, useId, useRef, useState } from 'react'
import { at, useEdit, useJob, useJobNumber, useOutbox } from '../api/job'
import { outbox, TYPING_MS } from '../api/outbox'
import { shownFigure, typedFigure } from '../figures'
import { capital } from './basics'

type Common = { path: string; label: string; hint?: string; className?: string }

/** What was typed at a place and was not taken: by this field, or by the server. */
const NOT_TAKEN = Symbol('not taken')

/**
 * What a place of the job holds, as text; while it is typed in, what is typed. What is not taken stays in the field, with
 * why, until it is mended.
 */
function useText(
  path: string,
  asked: string,
  read: (value: unknown) => string,
  write: (text: string) => { value: unknown } | { problem: string },
) {
  const { view } = useJob()
  const number = useJobNumber()
  const edit = useEdit()
  const aside = useOutbox().aside.find((a) => a.job === number && a.path === path)
  const stored = at(view?.job, path) ?? null
  const saved = read(stored)
  // What stood there when typing began: a colleague's change since then must not be overwritten.
  const base = useRef<unknown>(null)
  const [text, setText] = useState(saved)
  const [bad, setBad] = useState('')
  const typing = useRef(false)
  const refused = aside ? aside.value : NOT_TAKEN
  const stands = refused === NOT_TAKEN ? saved : read(refused)
  useEffect(() => {
    if (!typing.current && !bad) setText(stands)
  }, [stands, bad])
  const problem = bad || (aside ? capital(aside.problem.what) + '.' : '')
  return {
    problem,
    field: {
      value: text,
      'aria-invalid': problem ? true : undefined,
      onFocus: () => {
        typing.current = true
        base.current = stored
      },
      onBlur: () => {
        typing.current = false
        if (!bad) setText(stands)
      },
      onChange: (e: { target: { value: string } }) => {
        typing.current = true
        setText(e.target.value)
        const typed = write(e.target.value)
        setBad('problem' in typed ? typed.problem : '')
        if ('problem' in typed) return
        if (aside) outbox.putAway(aside)
        edit(path, typed.value, { base: base.current, pause: TYPING_MS, asked })
        base.current = typed.value
      },
    },
  }
}

/** Why what stands in a field is not taken. */
function Why({ problem }: { problem: string }) {
  return problem && <div className="text-refused text-[12.5px]">{problem}</div>
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
  const { field, problem } = useText(
    path,
    label,
    (v) => (typeof v === 'string' ? v : ''),
    (t) => ({ value: t }),
  )
  return (
    <Labelled label={label} hint={hint} className={className}>
      {(id) => (
        <>
          {rows ? (
            <textarea id={id} rows={rows} className="w-full" {...field} />
          ) : (
            <input id={id} className="w-full" {...field} />
          )}
          <Why problem={problem} />
        </>
      )}
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
  const { field, problem } = useText(
    path,
    label,
    (v) => (typeof v === 'number' ? shownFigure(v / scale) : ''),
    (t) => {
      const typed = typedFigure(t, { whole: whole && scale === 1, required })
      if ('problem' in typed || typed.value === null) return typed
      return { value: scale !== 1 ? Math.round(typed.value * scale) : typed.value }
    },
  )
  return (
    <Labelled label={label} hint={hint} className={className}>
      {(id) => (
        <>
          <input id={id} inputMode="decimal" className="num w-full" {...field} />
          <Why problem={problem} />
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
        <select
          id={id}
          className="w-full"
          value={String(value ?? '')}
          onChange={(e) => edit(path, e.target.value, { asked: label })}
        >
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
      <input
        type="checkbox"
        checked={at(view?.job, path) === true}
        onChange={(e) => edit(path, e.target.checked, { asked: label })}
      />
      {label}
    </label>
  )
}
