import { Dialog } from 'radix-ui'
import { useEffect, useState } from 'react'
import { Link, useLocation, useNavigate } from 'react-router'
import { stationPath, vocabulary } from '../words'
import { keysOrScan } from './scan'

const KEYS: [string, string][] = [
  ['/', 'find by label'],
  ['1 – 9', 'go to a station of this job'],
  ['j  k', 'next and previous row'],
  ['h  l', 'left and right in a row'],
  ['enter', 'choose'],
  ['g', 'go on: the main action'],
  ['u', 'take back your last change to this job'],
  ['esc', 'leave a field'],
  ['?', 'this list, and our words'],
]

const typing = (e: Element | null) => !!e?.closest('input:not([type=checkbox]), textarea, select')

/** Move the focus among rows, and among the cells of a row. */
function move(rows: number, cells: number) {
  const all = [...document.querySelectorAll<HTMLElement>('main [data-row]:not(:disabled)')].filter(
    (r) => r.offsetParent,
  )
  const focused = document.activeElement?.closest<HTMLElement>('[data-row]')
  const here = focused ? all.indexOf(focused) : -1
  const row = all[Math.max(0, Math.min(all.length - 1, here + rows))]
  if (!row) return
  const targets = (r: HTMLElement) => [...r.querySelectorAll<HTMLElement>('[data-cell]')]
  const column = focused ? targets(focused).indexOf(document.activeElement as HTMLElement) : -1
  const own = targets(row)
  const target = own[Math.max(0, Math.min(own.length - 1, column + cells))] ?? row
  target.focus()
  target.scrollIntoView({ block: 'nearest' })
}

/** Begin a code in the page's own field for codes, else in Find; what follows is typed there. */
function typeInto(text: string) {
  const here = [...document.querySelectorAll<HTMLInputElement>('main [data-scan]:not(:disabled)')]
  const field = here.find((f) => f.offsetParent) ?? (document.getElementById('find') as HTMLInputElement | null)
  if (!field) return
  field.focus()
  // React notices what is set the browser's own way.
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!.call(field, text)
  field.dispatchEvent(new Event('input', { bubbles: true }))
}

/** Keyboard first: one listener for the whole application. */
export function Keys({ letters }: { letters: boolean }) {
  const [open, setOpen] = useState(false)
  const go = useNavigate()
  const { pathname } = useLocation()
  useEffect(() => {
    const job = pathname.match(/^\/jobs\/(\d+)/)?.[1]
    const press = (e: KeyboardEvent) => {
      // A key that is held presses once: what it would press next is another thing by then.
      const target = document.activeElement
      if (e.repeat && (e.key === 'Enter' || e.key === ' ') && target?.closest('button, [role=checkbox], a, summary'))
        return e.preventDefault()
      if (e.repeat && !/^[jkhl]$/.test(e.key) && !typing(target)) return
      if (e.ctrlKey || e.metaKey || e.altKey) return
      if (e.key === 'Escape' && typing(document.activeElement)) (document.activeElement as HTMLElement).blur()
      if (typing(document.activeElement)) return
      if (e.key === 'Shift') return
      if (e.key.length > 1) return keys.end()
      if (keys.press(e.key, e.timeStamp)) e.preventDefault()
    }
    const station = (key: string) =>
      job && /^[1-9]$/.test(key) ? vocabulary().stations[Number(key) - 1]?.id : undefined
    const acts: Record<string, () => void> = {
      '/': () => document.getElementById('find')?.focus(),
      '?': () => setOpen(true),
      j: () => move(1, 0),
      k: () => move(-1, 0),
      h: () => move(0, -1),
      l: () => move(0, 1),
      g: () => document.querySelector<HTMLElement>('[data-main-action]')?.click(),
      u: () => window.dispatchEvent(new Event('insertum-undo')),
    }
    const keys = keysOrScan({
      command: (key) => !!station(key) || (key in acts && (letters || !/^[a-z]$/.test(key))),
      run: (key) => (station(key) ? void go(stationPath(Number(job), station(key)!)) : acts[key]!()),
      scan: typeInto,
    })
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [go, pathname, letters])
  return (
    <Dialog.Root open={open} onOpenChange={setOpen} modal={false}>
      <Dialog.Portal>
        <Dialog.Content
          className="card fixed top-1/2 left-1/2 z-50 w-96 -translate-x-1/2 -translate-y-1/2 p-5"
          aria-describedby={undefined}
        >
          <Dialog.Title className="mb-3 text-[18px] font-semibold">Keys</Dialog.Title>
          <dl className="grid grid-cols-[80px_1fr] gap-y-1.5">
            {KEYS.map(([key, does]) => (
              <div key={key} className="contents">
                <dt>
                  <kbd className="border-hair bg-mat num rounded-sm border px-1.5">{key}</kbd>
                </dt>
                <dd>{does}</dd>
              </div>
            ))}
          </dl>
          <p className="border-hair mt-3 border-t pt-2">
            <Link className="underline" to="/words" onClick={() => setOpen(false)}>
              Every word of ours, in one line
            </Link>
          </p>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
