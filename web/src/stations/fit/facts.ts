import type { Schemas } from '../../api/client'
import { verdictOf, type Looked } from './rows'
import type { Preview } from '../../map/MachineMap'

/** The attribute of the machine that a question is about, where it is shown. */
export function factOf(attribute: string, data: Schemas['FitStation']) {
  return [...data.map.slots.flatMap((s) => s.facts), ...data.map.board, ...data.map.starts].find(
    (f) => f.attribute === attribute,
  )
}

/** The part that is looked at, to lie over its slot at true size. */
export function previewOf(looked: Looked | null, data: Schemas['FitStation']): Preview | null {
  if (!looked) return null
  const slot = data.map.slots.find((s) => s.id === looked.slot)
  const size = looked.row.size ?? slot?.place
  if (!size) return null
  const { w_mm, h_mm } = size
  return { slot: looked.slot, w_mm, h_mm, verdict: verdictOf(looked.cell), name: looked.row.name }
}
