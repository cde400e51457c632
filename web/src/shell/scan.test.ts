import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { keysOrScan } from './scan'

const COMMANDS = new Set([...'jkhlgu', '/', '?', ...'123456789'])

/** What comes of keys, each with the milliseconds before it. */
function pressed(keys: readonly (readonly [string, number])[]): string[] {
  const came: string[] = []
  const on = keysOrScan({
    command: (k) => COMMANDS.has(k),
    run: (k) => came.push(k),
    scan: (t) => came.push(`scan ${t}`),
  })
  let now = 0
  for (const [key, ms] of keys) {
    vi.advanceTimersByTime(ms)
    now += ms
    if (key.length === 1) on.press(key, now)
    else on.end()
  }
  vi.advanceTimersByTime(1000)
  return came
}

describe('keys or a scan', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => void vi.useRealTimers())
  it.each([
    ['one digit is a station', [['4', 0]], ['4']],
    [
      'two digits by hand are two stations',
      [
        ['4', 0],
        ['5', 31],
      ],
      ['4', '5'],
    ],
    [
      'two digits of a scanner are a code',
      [
        ['4', 0],
        ['5', 29],
      ],
      ['scan 45'],
    ],
    ['a code that begins with a capital', [['W', 0]], ['scan W']],
    [
      'a code that begins with a command letter keeps it',
      [
        ['h', 0],
        ['4', 5],
      ],
      ['h', 'scan h4'],
    ],
    [
      'rows are walked as fast as one likes',
      [
        ['j', 0],
        ['j', 3],
        ['k', 3],
      ],
      ['j', 'j', 'k'],
    ],
    [
      'a letter long before is no part of a code',
      [
        ['g', 0],
        ['4', 31],
        ['-', 5],
      ],
      ['g', 'scan 4-'],
    ],
    [
      'a digit and enter is a station',
      [
        ['4', 0],
        ['Enter', 3],
      ],
      ['4'],
    ],
    ['a blank means nothing here', [[' ', 0]], []],
    ['nor does zero walk anywhere', [['0', 0]], ['scan 0']],
  ] as const)('%s', (_, keys, wanted) => expect(pressed(keys)).toEqual(wanted))
})
