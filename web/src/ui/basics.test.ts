import { describe, expect, it } from 'vitest'
import { labelled } from './basics'

describe('a problem', () => {
  it('tells its place in the words of the screen', () => {
    const problem = { what: 'x', where: 'processor, module_limit_gb', mend: '', rows: [] }
    expect(labelled(problem, { module_limit_gb: 'Largest module' }).where).toBe('processor, Largest module')
    expect(labelled(problem).where).toBe('processor, module_limit_gb')
  })
})
