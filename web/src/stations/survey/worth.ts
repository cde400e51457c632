/** What settling an unknown is worth, in words. */

import type { Schemas } from '../../api/client'
import { money } from '../../words'

const parts = (n: number) => `${n} ${n === 1 ? 'part' : 'parts'}`

/** "€ 20 to € 31", or one price. */
const span = (from?: number | null, to?: number | null) =>
  from === to ? money(from) : `${money(from)} to ${money(to)}`

/** "decides 3 parts, € 20 to € 31; 12 more wait for this and for more": never a decision it does not bring alone. */
export function worthSays({ parts: alone, among, from_minor, to_minor }: Schemas['Worth']): string {
  const prices = from_minor === null ? '' : `, ${span(from_minor, to_minor)}`
  if (!alone) return `${parts(among)} ${among === 1 ? 'waits' : 'wait'} for this and for more${prices}`
  const rest = among ? `; ${among} more ${among === 1 ? 'waits' : 'wait'} for this and for more` : ''
  return `decides ${parts(alone)}${prices}${rest}`
}

/** "5 min · answers 14 of 36 · decides 83 parts from € 12 to € 262": each only where it is so. */
export function actSays(act: Schemas['NextAct']): string {
  const { minutes, answers, of, from_minor, to_minor, measures } = act
  const some = from_minor !== null && from_minor !== undefined
  const prices = !some
    ? ''
    : from_minor === to_minor
      ? ` at ${money(from_minor)}`
      : ` from ${span(from_minor, to_minor)}`
  return [
    `${minutes} min${act.id === 'seller' ? ' a part' : ''}`,
    measures?.length ? `measures: ${measures.join(', ')}` : '',
    answers ? `answers ${answers} of ${of}` : '',
    act.parts
      ? (act.id === 'seller'
          ? `${parts(act.parts)} wait${act.parts === 1 ? 's' : ''} for theirs`
          : `decides ${parts(act.parts)}`) + prices
      : '',
  ]
    .filter(Boolean)
    .join(' · ')
}

export const closedSays = (n: number) => (n === 1 ? 'its question' : `its ${n} questions`)
