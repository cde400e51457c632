import { expect, test } from 'vitest'
import { AGAIN_MS, Echoes } from './once'

test('a press that comes again at once is one, and later another', () => {
  const echoes = new Echoes()
  expect([0, 1, AGAIN_MS - 1, AGAIN_MS].map((at) => echoes.isNew('done', at))).toEqual([true, false, false, true])
})

test('a key that is held long repeats; each repetition within the time of the first is an echo', () => {
  const echoes = new Echoes()
  const times = Array.from({ length: 15 }, (_, i) => i * 33)
  expect(times.filter((at) => echoes.isNew('done', at))).toEqual([0])
})

test('two things pressed at once are two', () => {
  const echoes = new Echoes()
  expect([echoes.isNew('cover', 0), echoes.isNew('shield', 1), echoes.isNew('cover', 2)]).toEqual([true, true, false])
})
