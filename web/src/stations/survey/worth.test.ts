import { expect, test } from 'vitest'
import { worthSays } from './worth'

const worth = {
  attribute: 'a.b',
  label: 'a',
  how: '',
  minutes: 2,
  parts: 0,
  among: 0,
  from_minor: null,
  to_minor: null,
}

test.each([
  [{ parts: 3 }, 'decides 3 parts'],
  [{ parts: 1, among: 1 }, 'decides 1 part; 1 more waits for this and for more'],
  [{ parts: 2, among: 12 }, 'decides 2 parts; 12 more wait for this and for more'],
  [{ among: 12 }, '12 parts wait for this and for more'], // alone it decides none, and none is said to be
  [{ among: 1 }, '1 part waits for this and for more'],
])('%j', (is, says) => expect(worthSays({ ...worth, ...is })).toBe(says))

test('prices are of what it decides, or of what waits', () => {
  expect(worthSays({ ...worth, parts: 1, from_minor: 2000, to_minor: 2000 })).toMatch(/^decides 1 part, .*20.* to .*20/)
  expect(worthSays({ ...worth, among: 2, from_minor: 0, to_minor: 900 })).toMatch(/for more, .*0.* to .*9/) // 0 is a price
})
