import { describe, expect, it } from 'vitest'
import { asked } from './asks'

const fields = (...weights: Record<string, number>[]) =>
  asked(weights.map((w) => ({ weights: w }))).flatMap((a) => a.fields)

describe('what a complaint needs to be known', () => {
  it.each([
    ['nothing is complained of', [], []],
    ['slow with many pages', [{ memory_capacity: 3, drive_speed: 1 }], ['peak', 'pages', 'limit']],
    ['the disk is full', [{ drive_space: 3 }], ['filled']],
    ['dies after two hours', [{ runtime: 4 }], ['draw']],
    ['Wi-Fi drops out', [{ radio_throughput: 2, radio_reach: 0 }], ['line', 'router']],
    ['looks dead', [{}], ['broken']],
    ['a weight of nothing is none', [{ runtime: 0 }], ['broken']],
    ['two ask each field once', [{ drive_space: 1 }, { drive_space: 2, runtime: 1 }], ['draw', 'filled']],
  ] as const)('%s', (_, weights, wanted) => expect(fields(...weights)).toEqual(wanted))
})
