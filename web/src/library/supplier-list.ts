/** How rows can end, in the order they are told. */
export const ENDS: [string, string][] = [
  ['taken', 'taken'],
  ['taken_without_offer', 'taken without an offer'],
  ['asked', 'asked'],
  ['left_out', 'left out'],
]

/** "40 rows taken, 2 asked": every row of the list is in one of the sums. */
export function summed(outcomes: Readonly<Record<string, number>>): string {
  const said = ENDS.filter(([end]) => outcomes[end]).map(([end, words]) => `${outcomes[end]} ${words}`)
  return said.length ? `rows: ${said.join(', ')}` : 'no rows'
}

/** What a column can mean; the price and one of number and title are needed. */
export const MEANINGS: [string, string][] = [
  ['number', 'part number'],
  ['name', 'title'],
  ['price', 'price'],
  ['stock', 'stock'],
  ['maker', 'maker'],
  ['currency', 'currency'],
  ['shop', 'shop'],
  ['group', 'group or type'],
  ['capacity', 'capacity'],
  ['pieces', 'modules of a kit'],
  ['condition', 'condition'],
]

/** Offered where a list does not say what its prices are in; any other code of three letters is typed. */
export const USUAL_CURRENCIES = ['EUR', 'CHF', 'GBP', 'USD', 'PLN', 'CZK', 'SEK', 'NOK', 'DKK']

/** "79 asked: radio cards? key?": how rows end, why, and how many. */
export function titled(ended: { outcome: string; reason: string; rows: readonly unknown[] }): string {
  const end = ENDS.find(([e]) => e === ended.outcome)?.[1] ?? ended.outcome
  return `${ended.rows.length} ${end}${ended.reason ? `: ${ended.reason}` : ''}`
}

/** The columns once one meaning is given to another head, or taken from it (""). A head means one thing. */
export function chosen(
  columns: Readonly<Record<string, string>>,
  meaning: string,
  head: string,
): Record<string, string> {
  const rest = Object.entries(columns).map(([m, h]) => [m, m !== meaning && h === head ? '' : h])
  return { ...Object.fromEntries(rest), [meaning]: head }
}
