import { expect, test } from 'vitest'
import type { Schemas } from '../../api/client'
import { actSays, closedSays, worthSays } from './worth'

const worth = {
  attribute: 'a.b',
  label: 'a',
  how: '',
  tool: '',
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
  expect(worthSays({ ...worth, parts: 1, from_minor: 2000, to_minor: 2000 })).toBe('decides 1 part, € 20.00')
  expect(worthSays({ ...worth, among: 2, from_minor: 0, to_minor: 900 })).toMatch(/for more, .*0.* to .*9/) // 0 is a price
})

const act: Schemas['NextAct'] = {
  id: 'cover',
  name: 'Open the cover and look',
  minutes: 12,
  answers: 0,
  of: 0,
  parts: 0,
  closed: '',
  asks: [],
  measures: [],
}

test.each([
  [
    { ...act, answers: 14, of: 36, parts: 83, from_minor: 1200, to_minor: 26200 },
    '12 min · answers 14 of 36 · decides 83 parts from € 12.00 to € 262.00',
  ],
  [{ ...act, answers: 2, of: 9 }, '12 min · answers 2 of 9'], // it decides nothing alone, and nothing is said to be
  [{ ...act, parts: 1, from_minor: 3100, to_minor: 3100 }, '12 min · decides 1 part at € 31.00'],
  [{ ...act, parts: 1 }, '12 min · decides 1 part'], // without a price none is told
  [{ ...act, id: 'trial' as const, measures: ['Hours off mains'] }, '12 min · measures: Hours off mains'],
  [{ ...act, id: 'seller' as const, minutes: 5, parts: 3 }, '5 min a part · 3 parts wait for theirs'],
  [{ ...act, id: 'seller' as const, minutes: 5, parts: 1 }, '5 min a part · 1 part waits for theirs'],
])('an act says what it answers and decides: %o', (given, says) => {
  expect(actSays(given)).toBe(says)
})

test('its questions are counted', () => {
  expect([closedSays(1), closedSays(4)]).toEqual(['its question', 'its 4 questions'])
})
