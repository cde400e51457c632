import { afterEach, describe, expect, it } from 'vitest'
import { day, inHouse, moment, money, offered, pieces, sign, together, writeAs } from './words'

const house = (more: object) => writeAs({ decimal: '.', dates: 'iso', currency: 'EUR', ...more })
afterEach(() => house({}))

describe('how the house writes', () => {
  it('writes money with its own sign and decimals, and another currency as it is', () => {
    expect(money(12160)).toBe('€ 121.60')
    expect(money(-5)).toBe('− € 0.05')
    expect(money(undefined)).toBe('–')
    house({ decimal: ',', currency: 'CHF' })
    expect(money(12160)).toBe('CHF 121,60')
    expect(money(12160, 'GBP')).toBe('£ 121,60')
    expect(sign()).toBe('CHF')
  })
  it('writes an offer in its own money, for as many as it buys', () => {
    expect(money(5980, 'JPY')).toBe('JPY 5980')
    expect(money(12500, 'KWD')).toBe('KWD 12.500')
    expect(offered({ shop: 'Quay', price_minor: 3900 })).toBe('Quay € 39.00')
    expect(offered({ shop: 'Quay', price_minor: 3900, currency: 'USD', pieces: 2, tax: 'net' })).toBe(
      'Quay $ 39.00 for 2 net',
    )
  })
  it('turns the money of a sentence and nothing else in it', () => {
    const said = 'In all € 31.57: parts € 14.90, version 1.14, 2.5-inch, EUR 7.005.'
    expect(inHouse(said)).toBe(said)
    house({ decimal: ',' })
    expect(inHouse(said)).toBe('In all € 31,57: parts € 14,90, version 1.14, 2.5-inch, EUR 7.005.')
    expect(inHouse('bench work CHF 27.50')).toBe('bench work CHF 27,50')
  })
  it('writes a day in three ways and leaves alone what is none', () => {
    expect(day('2026-11-30T10:00:00+00:00')).toBe('2026-11-30')
    house({ dates: 'dmy' })
    expect(day('2026-11-30')).toBe('30.11.2026')
    house({ dates: 'mdy' })
    expect(day('2026-11-30')).toBe('11/30/2026')
    expect(day('soon')).toBe('soon')
  })
})

it('writes a moment by the clock of this place, and its day', () => {
  const at = new Date(2026, 10, 3, 9, 5).toISOString()
  writeAs({ decimal: '.', dates: 'dmy', currency: 'EUR' })
  expect([moment(at), day(at), day('2026-11-03')]).toEqual(['03.11.2026 09:05', '03.11.2026', '03.11.2026'])
  writeAs({ decimal: '.', dates: 'iso', currency: 'EUR' })
  expect(moment(new Date(2026, 10, 3, 0, 0).toISOString())).toBe('2026-11-03 00:00') // also where UTC is a day behind
  expect([moment(null), moment(''), moment('soon'), day('soon')]).toEqual(['', '', 'soon', 'soon'])
})

describe('what a label leaves open', () => {
  it('is told without field names', () =>
    expect(pieces(['capacity_gb', 'chip_width', 'read_mb_s', 'below_um', 'fru'])).toBe(
      'capacity, chip width, reading rate, height below the board, fru',
    ))
})

it('writes every figure of a sentence as the house does, and nothing that is no figure', () => {
  writeAs({ decimal: ',', dates: 'iso', currency: 'EUR' })
  const says =
    'For € 12.50: 2.4 GHz is as it was, 5.5 h instead of 3.2 h, 23.5 GB/s; rules 2026.11.5, firmware 1.24, 3.5–4.5 h'
  expect(inHouse(says)).toBe(
    'For € 12,50: 2.4 GHz is as it was, 5,5 h instead of 3,2 h, 23,5 GB/s; rules 2026.11.5, firmware 1.24, 3,5–4,5 h',
  )
  writeAs({ decimal: '.', dates: 'iso', currency: 'EUR' })
})

describe('what stays in one line', () => {
  it.each([
    ['In all € 31.57: 250 GB, about 25 minutes.', 'In all €\u00a031.57: 250\u00a0GB, about 25\u00a0minutes.'],
    ['+ 8 GB memory of 2 h', '+\u00a08\u00a0GB memory of 2\u00a0h'],
    ['Drive 2 has 2 GBs', 'Drive 2 has 2 GBs'],
  ])('%s', (said, kept) => expect(together(said)).toBe(kept))
})
