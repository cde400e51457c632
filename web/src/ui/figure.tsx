import { useState, type InputHTMLAttributes } from 'react'
import { shownFigure, typedFigure } from '../figures'
import { Labelled } from './fields'

type Bounds = { whole?: boolean; required?: boolean; least?: number }

/** Why a text is no figure here, "" where it is one. */
export function figureProblem(text: string, bounds: Bounds = {}): string {
  const typed = typedFigure(text, bounds)
  return 'problem' in typed ? typed.problem : ''
}

/** The figure in a text, null where there is none or it is no figure. */
export function figureOf(text: string, bounds: Bounds = {}): number | null {
  const typed = typedFigure(text, bounds)
  return 'problem' in typed ? null : typed.value
}

type Own = Bounds & {
  /** In the stored unit; `scale` of it are one of the unit shown. */
  value: number | null | undefined
  scale?: number
  /** Told when the field is left, not with every key. */
  late?: boolean
  onFigure: (value: number | null) => void
}

/** A figure, without a label of its own. What is none stays as it was typed, with why, and is told to nobody. */
export function FigureInput({
  value,
  scale = 1,
  late = false,
  whole,
  required,
  least,
  onFigure,
  className = '',
  ...more
}: Own &
  Omit<
    InputHTMLAttributes<HTMLInputElement>,
    'value' | 'onChange'
  >) /* prettier-ignore */ {
  const bounds = { whole: whole && scale === 1, required, least }
  const saved = value === null || value === undefined ? '' : shownFigure(value / scale)
  const [text, setText] = useState<string | null>(null)
  const shown = text ?? saved
  const problem = text === null ? '' : figureProblem(text, bounds)
  const tell = (typed: string) => {
    const found = typedFigure(typed, bounds)
    if ('problem' in found) return
    const stored = found.value === null ? null : scale === 1 ? found.value : Math.round(found.value * scale)
    if (stored !== (value ?? null)) onFigure(stored)
  }
  return (
    <>
      <input
        inputMode="decimal"
        {...more}
        className={`num ${className}`}
        aria-invalid={problem ? true : undefined}
        value={shown}
        onChange={(e) => {
          setText(e.target.value)
          if (!late) tell(e.target.value)
        }}
        onBlur={() => {
          if (late && text !== null) tell(text)
          if (!problem) setText(null)
        }}
        onKeyDown={(e) => late && e.key === 'Enter' && tell(shown)}
      />
      {problem && <span className="text-refused block text-[12.5px]">{problem}</span>}
    </>
  )
}

/** A figure with its label in a form that is sent as a whole: kept as it was typed. */
export function FigureText({
  label,
  hint,
  value,
  onChange,
  ...bounds
}: Bounds & { label: string; hint?: string; value: string; onChange: (text: string) => void }) {
  const problem = value ? figureProblem(value, bounds) : ''
  return (
    <Labelled label={label} hint={hint}>
      {(id) => (
        <>
          <input
            id={id}
            inputMode="decimal"
            className="num w-full"
            aria-invalid={problem ? true : undefined}
            value={value}
            onChange={(e) => onChange(e.target.value)}
          />
          {problem && <span className="text-refused block text-[12.5px]">{problem}</span>}
        </>
      )}
    </Labelled>
  )
}
