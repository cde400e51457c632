import { describe, expect, it } from 'vitest'
import { BLANK, read, written } from './processor-form'

describe('a processor’s page', () => {
  it('sends what stays empty as unknown, and “none” as a list that is known to be empty', () => {
    const sent = read({ ...BLANK, name: ' Rill 350 ', maker: 'Corvane' })
    expect(sent).toMatchObject({ name: 'Rill 350', cores: null, memory_generations: null, companion_radios: null })
    expect(sent.densities_gbit).toEqual([])
    expect(read({ ...BLANK, companion_radios: 'None' }).companion_radios).toEqual([])
  })

  it('reads lists and rates by modules', () => {
    const sent = read({
      ...BLANK,
      memory_generations: '4, 5',
      speeds_by_modules: '3: 4400; 4:4000',
      densities_gbit: '8,16',
    })
    expect(sent.memory_generations).toEqual([4, 5])
    expect(sent.speeds_by_modules).toEqual({ '3': 4400, '4': 4000 })
    expect(sent.densities_gbit).toEqual([8, 16])
  })

  it('sends a slip as typed, never as another figure', () => {
    expect(read({ ...BLANK, speed_mts: '48OO' }).speed_mts).toBe('48OO')
    expect(read({ ...BLANK, total_limit_gb: '-8' }).total_limit_gb).toBe('-8')
  })

  it('shows what it sends', () => {
    const form = {
      ...BLANK,
      name: 'Beck 680',
      maker: 'Corvane',
      speeds_by_modules: '3: 4400, 4: 4000',
      companion_radios: 'none',
    }
    const sent = read(form)
    expect(written({ ...sent, id: 'beck-680', format: 'insertum-processor/1' } as never)).toEqual(form)
  })
})
