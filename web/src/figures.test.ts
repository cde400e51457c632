import { afterEach, expect, test } from 'vitest'
import { fixed, shownFigure, typedFigure } from './figures'
import { writeAs } from './words'

const house = (decimal: string) => writeAs({ decimal, dates: 'iso', currency: 'EUR' })
afterEach(() => house('.'))

test.each<[string, number, number]>([
  // typed, read by a house with points, by one with commas
  ['160', 160, 160],
  ['160 €', 160, 160],
  ['€ 160', 160, 160],
  ['EUR 160', 160, 160],
  ['$12.50', 12.5, 12.5],
  ['12,50', 12.5, 12.5],
  ['12.50', 12.5, 12.5],
  ['1.234,50', 1234.5, 1234.5],
  ['1,234.50', 1234.5, 1234.5],
  ['1 234,50', 1234.5, 1234.5],
  ['1’234.50', 1234.5, 1234.5],
  ['1.234', 1.234, 1234],
  ['1,234', 1234, 1.234],
  ['1.234.567', 1234567, 1234567],
  ['0.125', 0.125, 0.125],
  ['0,125', 0.125, 0.125],
  ['7,5 h', 7.5, 7.5],
  ['500 GB', 500, 500],
  ['12 %', 12, 12],
  ['30 MB/s', 30, 30],
])('%s is read as it is meant', (typed, points, commas) => {
  expect(typedFigure(typed)).toEqual({ value: points })
  house(',')
  expect(typedFigure(typed)).toEqual({ value: commas })
})

test.each(['abc', '1.2.3', '12,34,5', '1,23.456,7', '--5', '1e5x', '.', ',', '€', '5 or 6', '1.234,5.6'])(
  '%s is no figure, and is said to be none',
  (typed) => expect(typedFigure(typed)).toEqual({ problem: 'A number is written here, as 160 or 12.50.' }),
)

test('bounds are told in words', () => {
  expect(typedFigure('-5')).toEqual({ problem: 'It is not below 0.' })
  expect(typedFigure('−5')).toEqual({ problem: 'It is not below 0.' })
  expect(typedFigure('-5', { least: -10 })).toEqual({ value: -5 })
  expect(typedFigure('2.5', { whole: true })).toEqual({ problem: 'It is a whole number.' })
  expect(typedFigure(' ')).toEqual({ value: null })
  expect(typedFigure(' ', { required: true })).toEqual({ problem: 'It may not be empty.' })
})

test('figures are written with the house’s sign, and read back', () => {
  for (const decimal of ['.', ',']) {
    house(decimal)
    for (const value of [0, 1, 0.1, 12.5, 1234.5, 1.234, 0.125, 1500, 99999.99])
      expect(typedFigure(shownFigure(value))).toEqual({ value })
  }
  expect([shownFigure(0.1 + 0.2), fixed(12.34), shownFigure(null)]).toEqual(['0,3', '12,3', ''])
})
