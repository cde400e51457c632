import { expect, it } from 'vitest'
import { visitSays } from './visit'

const visit = { minutes: 14, cost_minor: 1167, worth_minor: 4800, pays_from: 25 }

it('says what a visit costs, and when it pays, only where that is known', () => {
  expect(visitSays(visit)).toMatch(/14 min, .*11\.67\. If it turns out well .*48\.00 above its price: .* 25 in 100/)
  expect(visitSays({ ...visit, pays_from: 100 })).toMatch(/as good as sure/)
  expect(visitSays({ ...visit, pays_from: null })).toMatch(/more than the answer can bring/)
  expect(visitSays({ ...visit, worth_minor: null, pays_from: null })).not.toMatch(/worth|pays|bring/)
  expect(visitSays({ ...visit, cost_minor: 0, pays_from: 0 })).toMatch(/at least 1 in 100/)
})
