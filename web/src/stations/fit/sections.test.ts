import { describe, expect, it } from 'vitest'
import { cellSays, joined, nextSlot, ordered, reasons, lookedAt, opensOn, sections, underWay, type Row } from './rows'

// cells: slot, verdict (0 seats … 4 harm), words, price of accessories
const row = (number: string, kind: string, cells: number[][], more: Partial<Row> = {}) =>
  ({
    number,
    kind,
    name: number,
    maker: '',
    detail: '',
    price_minor: 1000,
    on_shelf: 0,
    adds: 0,
    unit: '',
    per_gb: null,
    size: null,
    cells,
    ...more,
  }) as unknown as Row
const WHERE = {
  slots: [
    { number: 'a', name: 'A' },
    { number: 'b', name: 'B' },
    { number: 'd', name: 'D' },
  ],
  holds: { a: 'memory', b: 'memory', d: 'm2_drive' },
  kinds: [
    { id: 'memory', one: 'memory', many: 'memory', slots: ['memory'] },
    { id: 'm2_drive', one: 'card drive', many: 'card drives', slots: ['m2_drive'] },
    { id: 'battery', one: 'battery', many: 'batteries', slots: ['battery'] },
    { id: 'accessory', one: 'accessory', many: 'accessories', slots: [] },
    { id: 'lantern', one: 'lantern', many: 'lanterns', slots: ['hook'] },
  ],
  words: ['', 'too long', 'DDR3 into DDR4', 'slower'],
}
const ASKED = { kind: '', sort: 'adds' as const, held: new Set<string>(), open: new Set<string>() }

describe('Fit', () => {
  const rows = [
    row('best', 'memory', [[0, 0, 0, 0], [1, 3, 2, 0]], { adds: 5 }),
    row('maybe', 'memory', [[0, 2, 0, 0]], { adds: 9 }),
    row('old', 'memory', [[0, 3, 2, 0]]),
    row('long', 'm2_drive', [[2, 3, 1, 0]]),
    row('card', 'm2_drive', [[2, 1, 3, 0]]),
  ]
  const told = (items: ReturnType<typeof sections>) =>
    items.map((i) => (i.type === 'row' ? i.row.number : i.type === 'head' ? `# ${i.kind} ${i.columns.map((c) => c.name).join('')} ${i.count}` : i.says))

  it('is one section a kind with its own slots, the refused folded into one line', () => {
    expect(told(sections(rows, WHERE, ASKED))).toEqual([
      '# memory AB 2', 'best', 'maybe', '1 refused: 1 DDR3 into DDR4',
      '# m2_drive D 1', 'card', '1 refused: 1 too long',
    ])
  })

  it('shows the refused where somebody unfolds them, and what is in the build always', () => {
    expect(told(sections(rows, WHERE, { ...ASKED, kind: 'memory', open: new Set(['memory']) }))).toContain('old')
    expect(told(sections(rows, WHERE, { ...ASKED, held: new Set(['long']) }))).toContain('long')
    expect(told(sections(rows, WHERE, { ...ASKED, held: new Set(['long']) })).join()).not.toContain('too long')
  })

  it('opens on the part in the build, else on the best that goes in', () => {
    const station = { rows, slots: WHERE.slots } as unknown as Parameters<typeof opensOn>[0]
    expect(opensOn(station, {})?.row.number).toBe('best')
    const held = row('held', 'memory', [[0, 1, 3, 0]], { adds: 99 })
    expect(opensOn({ ...station, rows: [held, ...rows] } as typeof station, {})?.row.number).toBe('best')
    expect(opensOn({ ...station, rows: [held] } as typeof station, {})?.row.number).toBe('held')
    expect(opensOn(station, { a: 'maybe' })).toMatchObject({ row: { number: 'maybe' }, slot: 'a' })
    expect(opensOn(station, { d: 'maybe' })?.row.number).toBe('best') // it is not judged there
    const none = { ...station, rows: rows.filter((r) => r.number === 'old') } as typeof station
    expect(opensOn(none, {})).toBeNull() // nothing goes in: nothing is shown as if it did
  })

  it('shows what is looked at as it is judged now, and lets go of what is gone', () => {
    const then = row('maybe', 'memory', [[0, 0, 0, 0]])
    const seen = { row: then, cell: then.cells[0]!, slot: 'a' }
    const station = { rows, slots: WHERE.slots } as unknown as Parameters<typeof opensOn>[0]
    expect(lookedAt(seen, station, {})?.cell[1]).toBe(2) // it seated under other limits; now it is measured first
    expect(lookedAt(seen, { ...station, rows: rows.filter((r) => r.number !== 'maybe') }, {})?.row.number).toBe('best')
    expect(lookedAt(null, station, {})?.row.number).toBe('best')
  })

  it('has a section for a kind nobody here has heard of', () => {
    const where = { ...WHERE, slots: [{ number: 'h', name: 'Hook' }], holds: { h: 'hook' } }
    const found = sections([row('wick', 'lantern', [[0, 0, 0, 0]])], where, ASKED)
    expect(found[0]).toMatchObject({ type: 'head', kind: 'lantern', name: 'lanterns', count: 1 })
    expect(found[1]).toMatchObject({ type: 'row', kind: 'lantern' })
  })

  it('says once what every part of a section waits for', () => {
    const waits = (slot: string, ...labels: string[]) => ({ kind: 'memory', slot, asks: labels, labels })
    const line = (...common: ReturnType<typeof waits>[]) => told(sections(rows, { ...WHERE, common }, ASKED))[1]
    expect(line(waits('a', 'densest chips', 'takes at most'), waits('b', 'densest chips', 'takes at most'))).toBe(
      'Each one to measure first waits for densest chips, takes at most.',
    )
    expect(line(waits('a', 'densest chips'))).toBe('Each one to measure first waits for densest chips in A.')
    expect(line(waits('a', 'x'), waits('b', 'y'))).toBe('Each one to measure first waits for x in A; y in B.')
    expect(line()).toBe('best')
  })

  it('says in a cell only what is not said above it', () => {
    const r = row('maybe', 'memory', [[0, 2, 1, 0], [1, 2, 1, 0], [2, 3, 1, 0]])
    const data = { words: WHERE.words, common: [{ kind: 'memory', slot: 'a', asks: [], labels: [] }], besides: { 'maybe a': 'ranks unknown' } }
    expect(cellSays(r, r.cells[0]!, 'a', data)).toBe('ranks unknown')
    expect(cellSays(r, r.cells[0]!, 'a', { ...data, besides: {} })).toBe('')
    expect(cellSays(r, r.cells[1]!, 'b', data)).toBe('too long')
    expect(cellSays(r, r.cells[2]!, 'a', data)).toBe('too long')
  })

  it('says so where a machine has no slot of the kind', () => {
    expect(told(sections(rows, WHERE, { ...ASKED, kind: 'battery' }))).toEqual(['This machine has no slot for batteries.'])
  })

  it('puts what goes in before what is measured first, then what it adds, then the price', () => {
    const here = new Set([0])
    const cheap = row('cheap', 'memory', [[0, 0, 0, 0]], { adds: 5, price_minor: 500 })
    expect(ordered([rows[1]!, rows[0]!, cheap], 'adds', here).map((r) => r.number)).toEqual(['cheap', 'best', 'maybe'])
    expect(ordered([rows[0]!, cheap, row('none', 'memory', [[0, 0, 0, 0]], { price_minor: null })], 'price', here).at(-1)!.number).toBe('none')
  })

  it('counts nothing and denies nothing while rows are on their way', () => {
    const all = sections(rows, WHERE, { kind: '', sort: 'adds', held: new Set(), open: new Set() })
    const shown = underWay(all)
    expect(shown.some((i) => i.type === 'folded' || i.type === 'none')).toBe(false)
    expect(shown.filter((i) => i.type === 'row')).toEqual(all.filter((i) => i.type === 'row'))
    expect(shown.flatMap((i) => (i.type === 'head' ? [i.count] : [])).every((n) => n === null)).toBe(true)
    expect(underWay(sections([], WHERE, { kind: '', sort: 'adds', held: new Set(), open: new Set() }))).toEqual([])
  })

  it('counts every refused part once, by its mildest reason', () => {
    const many = [...'abcdef'].map((n, i) => row(n, 'memory', [[0, 3, (i % 3) + 1, 0], [1, 4, 0, 0]]))
    expect(reasons(many, new Set([0, 1]), WHERE.words)).toBe('6 refused: 2 too long, 2 DDR3 into DDR4, 2 slower')
  })
}) // prettier-ignore

describe('like slots', () => {
  const heads = (rows: Row[], more: object = {}) =>
    sections(rows, { ...WHERE, ...more }, { ...ASKED, kind: 'memory' }).flatMap((i) =>
      i.type === 'head' ? i.columns.map((c) => c.name) : [],
    )
  const same = row('x', 'memory', [
    [0, 0, 3, 0],
    [1, 0, 3, 0],
  ])
  it.each([
    ['every part is judged alike', [same], {}, ['A, B']],
    [
      'one part differs in its words',
      [
        same,
        row('y', 'memory', [
          [0, 0, 3, 0],
          [1, 0, 0, 0],
        ]),
      ],
      {},
      ['A', 'B'],
    ],
    [
      'one differs in an accessory',
      [
        row('y', 'memory', [
          [0, 0, 3, 0],
          [1, 0, 3, 150],
        ]),
      ],
      {},
      ['A', 'B'],
    ],
    ['one goes into one of them alone', [row('y', 'memory', [[0, 0, 3, 0]])], {}, ['A', 'B']],
    ['what is waited for differs', [same], { common: [{ kind: 'memory', slot: 'a', labels: ['height'] }] }, ['A', 'B']],
    ['what it does besides differs', [same], { besides: { 'x a': 'slower' } }, ['A', 'B']],
  ] as const)('%s', (_, rows, more, wanted) => expect(heads([...rows], more)).toEqual(wanted))

  it('says what names begin with once', () => {
    expect(joined(['Memory A', 'Memory B', 'Memory C'])).toBe('Memory A, B, C')
    expect(joined(['Left', 'Right'])).toBe('Left, Right')
    expect(joined(['Drive 1', 'Card 2'])).toBe('Drive 1, Card 2')
  })

  it('puts a part into the next of them that does not hold it', () => {
    const column = {
      name: 'A, B',
      slots: [
        { number: 'a', name: 'A', index: 0 },
        { number: 'b', name: 'B', index: 1 },
      ],
    }
    expect(nextSlot(column, 'x', {}).number).toBe('a')
    expect(nextSlot(column, 'x', { a: 'x' }).number).toBe('b')
    expect(nextSlot(column, 'x', { a: 'x', b: 'x' }).number).toBe('a')
    expect(nextSlot(column, 'x', { a: 'y' }).number).toBe('a')
  })
})
