/** What a line of the history says of before and after. */

/** A value in a line: nothing is called so, and what is long is cut. */
export const said = (value: unknown) =>
  value === null || value === undefined || value === ''
    ? 'nothing'
    : typeof value === 'object'
      ? JSON.stringify(value).slice(0, 160)
      : String(value).slice(0, 160)

/** From and to, place by place where a document changed. */
export function placesOf(before: unknown, after: unknown): [string, unknown, unknown][] {
  if ((before ?? null) === null && (after ?? null) === null) return []
  const plain = (v: unknown): v is Record<string, unknown> => typeof v === 'object' && v !== null && !Array.isArray(v)
  if (!plain(before) || !plain(after)) return [['', before, after]]
  return [...new Set([...Object.keys(before), ...Object.keys(after)])].map((k) => [k, before[k], after[k]])
}
