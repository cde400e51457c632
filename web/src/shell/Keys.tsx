import { Dialog } from 'radix-ui'
import { useEffect, useState } from 'react'
import { Link, useLocation, useNavigate } from 'react-router'
import { stationPath, vocabulary } from '../words'

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
      const station = job && /^[1-9]$/.test(e.key) ? vocabulary().stations[Number(e.key) - 1] : undefined
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
      if (!letters && /^[a-z]$/.test(e.key)) return
      const act = station ? () => void go(stationPath(Number(job), station.id)) : acts[e.key]
      if (!act) return
      e.preventDefault()
      act()
    }
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
