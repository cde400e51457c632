import { Labelled } from './fields'
import { FigureInput } from './figure'

/** Fields of a form that is kept as a whole. Those of a job, which save themselves, are in fields.tsx. */

type Common<T> = { label: string; hint?: string; value: T; onChange: (value: T) => void }

export function Area({ label, hint, value, onChange }: Common<string>) {
  return (
    <Labelled label={label} hint={hint}>
      {(id) => (
        <textarea id={id} rows={2} className="w-full" value={value} onChange={(e) => onChange(e.target.value)} />
      )}
    </Labelled>
  )
}

/** A figure. What is none stays in the field, with why. */
export function Whole({ label, hint, value, onChange }: Common<number>) {
  return (
    <Labelled label={label} hint={hint}>
      {(id) => (
        <FigureInput
          id={id}
          className="w-full"
          required
          least={-Infinity}
          value={value}
          onFigure={(figure) => figure !== null && onChange(figure)}
        />
      )}
    </Labelled>
  )
}

export function Check({ label, value, onChange }: Common<boolean>) {
  return (
    <label className="flex min-h-11 items-center gap-2 self-end">
      <input type="checkbox" checked={value} onChange={(e) => onChange(e.target.checked)} />
      {label}
    </label>
  )
}

export function Pick<T extends string>({
  label,
  hint,
  value,
  options,
  onChange,
}: Common<T> & { options: [T, string][] }) {
  return (
    <Labelled label={label} hint={hint}>
      {(id) => (
        <select id={id} className="w-full" value={value} onChange={(e) => onChange(e.target.value as T)}>
          {options.map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
      )}
    </Labelled>
  )
}

/** A password: today's, or a new one. */
export function Secret({ label, hint, value, onChange, fresh = false }: Common<string> & { fresh?: boolean }) {
  return (
    <Labelled label={label} hint={hint}>
      {(id) => (
        <input
          id={id}
          required
          type="password"
          autoComplete={fresh ? 'new-password' : 'current-password'}
          className="w-full"
          value={value}
          onChange={(e) => onChange(e.target.value)}
        />
      )}
    </Labelled>
  )
}
