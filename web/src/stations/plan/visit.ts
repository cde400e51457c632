import type { Schemas } from '../../api/client'
import { money } from '../../words'

/** Whether to open the machine once only to look: what it costs, and how often it must turn out well to pay. */
export function visitSays({ minutes, cost_minor, worth_minor, pays_from }: Schemas['Visit']): string {
  const opened = `Looking first opens the machine once more: about ${minutes} min, ${money(cost_minor)}.`
  if (worth_minor === null) return opened
  if (pays_from === null) return `${opened} That is more than the answer can bring.`
  const worth = `If it turns out well the better plan is worth ${money(worth_minor)} above its price`
  return pays_from > 99
    ? `${opened} ${worth}: a visit pays only where it is as good as sure.`
    : `${opened} ${worth}: a visit pays where at least ${Math.max(1, pays_from)} in 100 turn out well.`
}
