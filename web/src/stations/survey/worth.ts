/** What settling an unknown is worth, in words. */

import type { Schemas } from '../../api/client'
import { money } from '../../words'

/** So many questions are shown at once; the rest fold. */
export const SHOWN = 8

const parts = (n: number) => `${n} ${n === 1 ? 'part' : 'parts'}`

/** "decides 3 parts, € 20 to € 31; 12 more wait for this and for more": never a decision it does not bring alone. */
export function worthSays({ parts: alone, among, from_minor, to_minor }: Schemas['Worth']): string {
  const prices = from_minor === null ? '' : `, ${money(from_minor)} to ${money(to_minor)}`
  if (!alone) return `${parts(among)} ${among === 1 ? 'waits' : 'wait'} for this and for more${prices}`
  const rest = among ? `; ${among} more ${among === 1 ? 'waits' : 'wait'} for this and for more` : ''
  return `decides ${parts(alone)}${prices}${rest}`
}
