import { expect, it } from 'vitest'
import { shownOwn, typedOwn } from './own'

it('takes an empty field for nothing of its own, and a nought for a nought', () => {
  expect(typedOwn('', 60)).toBeNull()
  expect(typedOwn(' ', 60)).toBeNull()
  expect(typedOwn('0', 60)).toBe(0)
  expect(typedOwn('12,5', 60)).toBe(750)
  expect(typedOwn('4.5', 100)).toBe(450)
  expect([typedOwn('many', 60), typedOwn('-1', 60)]).toEqual([null, null])
  expect([shownOwn(null, 60), shownOwn(undefined, 60), shownOwn(0, 60), shownOwn(750, 60)]).toEqual([
    '',
    '',
    '0',
    '12.5',
  ])
})
