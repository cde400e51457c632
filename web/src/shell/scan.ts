/**
 * Keys pressed while nothing is typed into: single ones are commands, a row of them is a label scanner. A digit waits a
 * moment for what follows, so that no code that begins with one walks to a station; what no command is begins a code.
 */
export type Scanning = {
  /** Is this key a command by itself? */
  command: (key: string) => boolean
  run: (key: string) => void
  /** Put the first characters of a code into the field that takes codes here; what follows is typed there. */
  scan: (text: string) => void
}

/** No hand types two keys within so many milliseconds; a scanner does. */
export const SCAN_MS = 30

export function keysOrScan({ command, run, scan }: Scanning) {
  let last: { key: string; at: number } | null = null
  let held: { key: string; timer: ReturnType<typeof setTimeout> } | null = null
  const fresh = (now: number) => (last && now - last.at <= SCAN_MS ? last.key : '')
  const release = () => {
    if (!held) return ''
    clearTimeout(held.timer)
    const key = held.key
    held = null
    return key
  }
  return {
    /** A printable key. True where it is dealt with, false where it means nothing here. */
    press(key: string, now: number): boolean {
      if (key === ' ' && !held) return false
      const before = release() || fresh(now)
      const digit = /^\d$/.test(key)
      if (before && (digit || !command(key) || /^\d$/.test(before))) {
        last = null
        scan(before + key)
        return true
      }
      last = null
      if (!command(key)) scan(key)
      else if (digit) {
        held = {
          key,
          timer: setTimeout(() => {
            held = null
            run(key)
          }, SCAN_MS),
        }
      } else {
        last = { key, at: now }
        run(key)
      }
      return true
    },
    /** Any other key ends what waits: it was a command. */
    end() {
      const key = release()
      if (key) run(key)
    },
  }
}
