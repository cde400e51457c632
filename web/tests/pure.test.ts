import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest'
import { at, placed, step } from '../src/api/pointer'
import { renamed } from '../src/library/editor/draft'
import { GUTTER, labels, lay, layout, WIDTH, type MapData, type Place } from '../src/map/layout'
import { due, minutes, money, stationName, stationPath, kindFor, lowered, partWord, speak } from '../src/words'

describe('places in a job', () => {
  const job = { survey: { measured: { 'drive-2.width_mm': 22, 'a/b': 1, 'a~b': 2 }, reading: null } }

  test.each([
    ['/survey/measured/drive-2.width_mm', 22],
    ['/survey/measured/a~1b', 1],
    ['/survey/measured/a~0b', 2],
    ['/survey/reading/modules', undefined], // nothing was read
    ['/nowhere/at/all', undefined],
  ])('%s', (path, value) => expect(at(job, path)).toBe(value))

  test('a key is found again under its own step', () => {
    for (const key of ['plain', 'a/b', 'a~b', '~1', '/', '~/~'])
      expect(at({ keys: { [key]: 'x' } }, `/keys/${step(key)}`)).toBe('x')
  })

  test('a value is put where nothing was, and the document stays as it was', () => {
    expect(placed(job, '/fit/build/memory-b', 'PM')).toEqual({ ...job, fit: { build: { 'memory-b': 'PM' } } })
    expect(placed(job, '/survey/reading/maker', 'Veyra')).toMatchObject({ survey: { reading: { maker: 'Veyra' } } })
    expect(placed(job, '/survey/measured/a~1b', undefined, true)).toEqual({
      survey: { measured: { 'drive-2.width_mm': 22, 'a~b': 2 }, reading: null },
    })
    expect(Object.keys(job.survey.measured)).toHaveLength(3)
  })
})

describe('words', () => {
  test.each([
    [12160, 'EUR', '€ 121.60'],
    [-900, 'EUR', '− € 9.00'],
    [5, 'GBP', '£ 0.05'],
    [100, 'CHF', 'CHF 1.00'],
    [0, 'EUR', '€ 0.00'],
    [null, 'EUR', '–'], // no price is not 0
    [undefined, 'EUR', '–'],
  ])('%s %s is %s', (minor, currency, said) => expect(money(minor, currency)).toBe(said))

  test.each([
    [0, '0 min'],
    [89, '1 min'],
    [90, '2 min'],
  ])('%d seconds are %s', (seconds, said) => expect(minutes(seconds)).toBe(said))

  test('a name of the trade keeps its letters inside a sentence', () => {
    expect(['Room below', 'Wi-Fi, far away', 'PCIe lanes', 'M.2 key', ''].map(lowered)).toEqual([
      'room below',
      'Wi-Fi, far away',
      'PCIe lanes',
      'M.2 key',
      '',
    ])
  })

  test('stations have a path, and names the server gives', () => {
    expect(stationPath(147, 'hand_over')).toBe('/jobs/147/hand-over')
    speak({
      kinds: [{ id: 'lantern', one: 'lantern', many: 'lanterns', slots: ['hook'] }],
      other_parts: [{ id: 'kit', says: 'small parts' }],
      stations: [{ id: 'hand_over', says: 'Hand over' }],
      limits: [],
      sources: [],
      step_sources: [],
      marks: [],
      in_the_way: [],
    })
    expect([stationName('hand_over'), stationName('odd')]).toEqual(['Hand over', 'odd'])
    expect([partWord('lantern'), partWord('kit'), partWord('odd')]).toEqual(['lantern', 'small parts', 'odd'])
    expect([kindFor('hook'), kindFor('bay')]).toEqual(['lantern', ''])
  })
  describe('a due day, seen on Thursday 26 November', () => {
    beforeAll(() => void vi.useFakeTimers().setSystemTime(new Date(2026, 10, 26, 23, 30)))
    afterAll(() => void vi.useRealTimers())
    test.each([
      ['', 'no date'],
      ['2026-11-24', 'due 2 days ago'],
      ['2026-11-25', 'due yesterday'],
      ['2026-11-26', 'due today'],
      ['2026-11-27', 'due tomorrow'],
      ['2026-11-28', 'due Sat'],
      ['2026-12-02', 'due Wed'],
      ['2026-12-03', 'due 3 Dec'], // a week on: which Thursday is meant would not be clear
    ])('%s', (day, said) => expect(due(day)).toBe(said))
  })
})

describe('the map', () => {
  const machine = { width_mm: 320, depth_mm: 220 } as MapData
  const place = (contacts: Place['contacts']) => ({ x_mm: 10, y_mm: 20, w_mm: 80, h_mm: 22, contacts }) as Place

  test('is to scale, in the middle, and as large as it can be', () => {
    const drawn = layout(machine, 254)
    expect(drawn.k).toBe(1) // (254 − 34) ÷ 220; the width would let it be 436 ÷ 320
    expect(drawn.shell).toEqual({ x: 240, y: 12, w: 320, h: 220 })
    expect(drawn.box({ x_mm: 10, y_mm: 20, w_mm: 80, h_mm: 22 })).toEqual({ x: 250, y: 32, w: 80, h: 22 })
    const low = layout(machine, 1000) // here the gutters bound it
    expect(low.shell.w).toBeCloseTo(WIDTH - 2 * GUTTER)
    expect(low.shell.h / low.shell.w).toBeCloseTo(220 / 320)
  })

  test.each([
    ['left', { x_mm: 10, y_mm: 20 }],
    ['right', { x_mm: 48, y_mm: 20 }], // 10 + 80 − 42
    ['top', { x_mm: 29, y_mm: 20 }], // centred: 10 + (80 − 42) ÷ 2
    ['bottom', { x_mm: 29, y_mm: 20 }],
  ] as const)('a 42 mm card lies against the contacts on the %s', (contacts, where) =>
    expect(lay(place(contacts), { w_mm: 42, h_mm: 22 })).toMatchObject({ ...where, w_mm: 42, h_mm: 22 }),
  )

  test('a narrower card is centred across its contacts', () =>
    expect(lay(place('left'), { w_mm: 42, h_mm: 12 })).toMatchObject({ x_mm: 10, y_mm: 25 }))

  const thing = (id: string, x: number, y: number) => ({ id, name: id, detail: '', box: { x, y, w: 60, h: 20 } })

  test('labels keep the order of what they name and never lie on each other', () => {
    const things = Array.from({ length: 7 }, (_, i) => thing(`s${i}`, 250, 100 + i * 8))
    const ys = labels(things, 300).map((l) => l.y)
    expect(labels(things, 300).map((l) => l.id)).toEqual(things.map((t) => t.id))
    for (let i = 1; i < ys.length; i++) expect(ys[i]! - ys[i - 1]!).toBeGreaterThanOrEqual(36)
    expect(Math.max(...ys)).toBeLessThanOrEqual(300)
  })

  test('a label stands on the side with fewer things in its way', () => {
    const found = labels([thing('one', 250, 100), thing('two', 330, 100), thing('far', 500, 200)], 300)
    expect(Object.fromEntries(found.map((l) => [l.id, l.side]))).toEqual({ one: 'left', two: 'right', far: 'right' })
  })
})

describe('a machine typed anew', () => {
  const blank = {
    maker: 'Maker',
    name: 'New machine',
    id: 'maker-new-machine',
    marks: [
      { kind: 'family', text: 'Maker New machine' },
      { kind: 'board', text: 'B-1' },
    ],
    slots: [],
    configurations: [
      { id: 'first', name: 'New machine' },
      { id: 'second', name: 'Own name' },
    ],
  }
  test('is called by what is typed: id, mark and configuration follow', () => {
    const typed = renamed(renamed(blank, 'maker', 'Halden'), 'name', 'Gannet 15')
    expect(typed['id']).toBe('halden-gannet-15')
    expect(typed['marks']).toEqual([
      { kind: 'family', text: 'Halden Gannet 15' },
      { kind: 'board', text: 'B-1' },
    ])
    expect(typed.configurations.map((c) => c['name'])).toEqual(['Gannet 15', 'Own name'])
  })
  test('leaves alone what was changed by hand', () => {
    const own = { ...blank, id: 'mine', marks: [{ kind: 'family', text: 'Gannet' }] }
    const typed = renamed(own, 'maker', 'Halden')
    expect(typed['id']).toBe('mine')
    expect(typed['marks']).toEqual([{ kind: 'family', text: 'Gannet' }])
  })
})
