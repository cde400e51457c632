/** What a line of the history says of before and after. */

import { moment } from '../words'

const MOMENT = /^\d{4}-\d\d-\d\dT\d\d:\d\d/

/** A value in a line: nothing is called so, a moment stands by the clock of the place, what is long is cut. */
export function said(value: unknown): string {
  if (value === null || value === undefined || value === '') return 'nothing'
  if (typeof value === 'string') return MOMENT.test(value) ? moment(value) : value.slice(0, 160)
  if (typeof value !== 'object') return String(value)
  if (!Object.keys(value).length) return 'nothing'
  const plain = Array.isArray(value) && value.every((v) => typeof v === 'string' || typeof v === 'number')
  return (plain ? value.join(', ') : JSON.stringify(value)).slice(0, 160)
}

/** From and to, place by place where a document changed. */
export function placesOf(before: unknown, after: unknown): [string, unknown, unknown][] {
  if ((before ?? null) === null && (after ?? null) === null) return []
  const plain = (v: unknown): v is Record<string, unknown> => typeof v === 'object' && v !== null && !Array.isArray(v)
  if (!plain(before) || !plain(after)) return [['', before, after]]
  return [...new Set([...Object.keys(before), ...Object.keys(after)])].map((k) => [k, before[k], after[k]])
}
