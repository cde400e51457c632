/** How rows can end, in the order they are told. */
const ENDS: [string, string][] = [
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
]

/** The columns once one meaning is given to another head, or taken from it (""). A head means one thing. */
export function chosen(
  columns: Readonly<Record<string, string>>,
  meaning: string,
  head: string,
): Record<string, string> {
  const rest = Object.entries(columns).map(([m, h]) => [m, m !== meaning && h === head ? '' : h])
  return { ...Object.fromEntries(rest), [meaning]: head }
}
