import { describe, expect, it } from 'vitest'
import { problem } from '../api/client'
import { labelled } from './basics'

describe('a problem', () => {
  it('tells its place in the words of the screen', () => {
    const told = problem('x', '', 'processor, module_limit_gb')
    expect(labelled(told, { module_limit_gb: 'Largest module' }).where).toBe('processor, Largest module')
    expect(labelled(told).where).toBe('processor, module_limit_gb')
  })
})
