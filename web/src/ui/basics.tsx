import { Tooltip as Radix } from 'radix-ui'
import { useEffect, useRef, type ButtonHTMLAttributes, type ReactNode } from 'react'
import { problem, Refused, type Problem } from '../api/client'
import { useHanded } from './handed'

type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & { kind?: 'main' | 'plain' | 'quiet' }

/** One main action a screen; everything else is plain or quiet. */
export function Button({ kind = 'plain', className = '', ...rest }: ButtonProps) {
  const looks = {
    main: 'bg-copper text-on-copper font-semibold px-3 py-2 hover:brightness-110',
    plain: 'border border-hair bg-card px-2.5 py-1 font-medium hover:border-ink-2',
    quiet: 'text-ink-2 px-1 hover:text-ink hover:underline',
  }
  return (
    <button
      type="button"
      className={`rounded-sm disabled:cursor-not-allowed disabled:opacity-50 ${looks[kind]} ${className}`}
      {...rest}
    />
  )
}

export function Tag({ children }: { children: ReactNode }) {
  return (
    <span className="border-hair text-ink-2 font-label inline-block rounded-[2px] border px-1 text-[11.5px] whitespace-nowrap font-semibold tracking-[0.02em]">
      {children}
    </span>
  )
}

const NOTE = {
  plain: 'border-hair',
  seats: 'border-seats',
  held_back: 'border-held',
  measure_first: 'border-measure',
  refused: 'border-refused',
  harm: 'border-harm-bg bg-harm text-white',
}

export function Note({ kind = 'plain', children }: { kind?: keyof typeof NOTE; children: ReactNode }) {
  return <div className={`bg-card mb-1.5 border-l-3 px-2 py-1 text-[12.5px] ${NOTE[kind]}`}>{children}</div>
}

/** What went wrong, where, and what to do. */
export function Trouble({
  problem,
  onClose,
  children,
}: {
  problem: Problem
  onClose?: () => void
  children?: ReactNode
}) {
  return (
    <div role="alert" className="card border-refused mb-3 border-l-3 px-3 py-2">
      <div className="flex justify-between gap-3">
        <span className="font-semibold">{capital(problem.what)}</span>
        {onClose && (
          <Button kind="quiet" onClick={onClose}>
            Close
          </Button>
        )}
      </div>
      <div className="text-ink-2">{[problem.where, problem.mend].filter(Boolean).join(' · ')}</div>
      {!!problem.rows?.length && (
        <ul className="num mt-1 max-h-40 overflow-auto">
          {problem.rows.map((r, i) => (
            <li key={i}>
              row {r.row}, {r.column}: {r.what}
            </li>
          ))}
        </ul>
      )}
      {children}
    </div>
  )
}

export function ErrorNote({ error, labels }: { error: Error | null; labels?: Readonly<Record<string, string>> }) {
  if (!error) return null
  if (error instanceof Refused) return <Trouble problem={labelled(error.problem, labels)} />
  return <Trouble problem={problem('no answer from the server', 'What you typed is kept and sent when it is back.')} />
}

/** A problem whose place is told by the words on the screen rather than by the file's. */
export function labelled(problem: Problem, labels: Readonly<Record<string, string>> = {}): Problem {
  const where = problem.where.replace(/[a-z][a-z0-9_]*/g, (word) => labels[word] ?? word)
  return { ...problem, where }
}

export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

/** A heading with its question, and a line under it. */
export function Heading({ title, children }: { title: string; children?: ReactNode }) {
  const at = useRef<HTMLHeadingElement>(null)
  useEffect(() => {
    const job = location.pathname.match(/^\/jobs\/(\d+)/)?.[1]
    document.title = `${title}${job ? ` · job ${job}` : ''} · Insertum`
  }, [title])
  useEffect(() => {
    // Who goes to another page is at its beginning; a field that took the focus itself keeps it.
    const main = at.current?.closest('main')
    if (history.state?.idx && !main?.contains(document.activeElement)) at.current?.focus({ preventScroll: true })
  }, [])
  return (
    <div className="mb-2.5">
      <h1 ref={at} tabIndex={-1} className="outline-none">
        {title}
      </h1>
      {children && <div className="text-ink-2 flex flex-wrap items-center gap-x-2.5 gap-y-1">{children}</div>}
    </div>
  )
}

/** Says more on hover and focus. */
export function Tip({ text, children }: { text: string; children: ReactNode }) {
  return (
    <Radix.Root>
      <Radix.Trigger asChild>{children}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          sideOffset={4}
          className="bg-ink text-card z-50 max-w-72 rounded-sm px-2 py-1 text-[12.5px] whitespace-pre-line"
        >
          {text}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  )
}

/** A surface for a file: drop it, or press to choose it. */
export function FileDrop({
  label,
  accept,
  place,
  onFile,
}: {
  label: string
  accept: string
  /** What a file is handed to that was dropped elsewhere. */
  place?: string
  onFile: (file: File) => void
}) {
  useHanded(place, onFile)
  return (
    <label
      className="border-hair bg-card hover:border-ink-2 focus-within:border-copper block cursor-pointer rounded-sm border border-dashed px-3 py-2"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault()
        const file = e.dataTransfer.files[0]
        if (file) onFile(file)
      }}
    >
      {label}
      <input
        type="file"
        accept={accept}
        className="sr-only"
        onChange={(e) => {
          const file = e.target.files?.[0]
          if (file) onFile(file)
          e.target.value = ''
        }}
      />
    </label>
  )
}
