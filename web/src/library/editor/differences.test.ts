import { describe, expect, it } from 'vitest'
import { differences, laidOver, written } from './differences'
import type { Draft } from './draft'

const DRAFT = {
  memory: { total_limit_gb: [{ value: 32, source: 'documented' }] },
  slots: [{ id: 'd', name: 'Drive 1', key: 'M', pcie_generation: 3 }],
  configurations: [
    { id: 'one', differs: {} },
    { id: 'two', differs: { d: { pcie_generation: 4 } } },
  ],
} as unknown as Draft
const label = (_: string, name: string) => ({ label: name, scale: 1 })

describe('what configurations say differently', () => {
  it('is laid over the shell', () => {
    expect(laidOver(DRAFT, 'two', 'd')).toMatchObject({ key: 'M', pcie_generation: 4 })
    expect(laidOver(DRAFT, 'one', 'd')['pcie_generation']).toBe(3)
    expect(laidOver(DRAFT, '', 'memory')).toBe(DRAFT['memory'])
  })

  it('is written for one of them and leaves the shell and the others alone', () => {
    const next = written(DRAFT, 'one', 'd', { ...DRAFT.slots[0]!, key: 'B' })
    expect(next.slots).toEqual(DRAFT.slots)
    expect(next.configurations[0]!['differs']).toEqual({ d: { key: 'B' } })
    expect(next.configurations[1]).toBe(DRAFT.configurations[1])
  })

  it('is no difference any more once it is as the shell says', () => {
    const next = written(DRAFT, 'two', 'd', { ...DRAFT.slots[0]! })
    expect(next.configurations[1]!['differs']).toEqual({})
  })

  it('says unknown of one where its claims are taken away', () => {
    const rest = { id: 'd', name: 'Drive 1', pcie_generation: 3 }
    expect(written(DRAFT, 'one', 'd', rest).configurations[0]!['differs']).toEqual({ d: { key: null } })
  })

  it('writes the shell where nobody is named', () => {
    expect(written(DRAFT, '', 'memory', { x: 1 })['memory']).toEqual({ x: 1 })
  })

  it('stands side by side', () => {
    expect(differences(DRAFT, label)).toEqual([
      { place: 'Drive 1', name: 'pcie_generation', shell: '3', each: ['', '4'] },
    ])
  })
})
