/** What a line of the history says of before and after. */

import { moment } from '../words'

const MOMENT = /^\d{4}-\d\d-\d\dT\d\d:\d\d/

/** So much of one value stands in a line. */
const LONGEST = 160

/** A value in a line: nothing is called so, a moment stands by the clock of the place, what is cut shows that it is. */
export function said(value: unknown): string {
  const words = spelt(value)
  return words.length > LONGEST ? `${words.slice(0, LONGEST)}…` : words
}

function spelt(value: unknown): string {
  if (value === null || value === undefined || value === '') return 'nothing'
  if (typeof value === 'string') return MOMENT.test(value) ? moment(value) : value
  if (typeof value !== 'object') return String(value)
  if (Array.isArray(value)) return value.length ? value.map(inner).join(', ') : 'nothing'
  const named = Object.entries(value).map(([name, v]) => [name.replaceAll('_', ' '), inner(v)])
  const told = named.filter(([, words]) => words !== 'nothing').map((pair) => pair.join(' '))
  return told.join('; ') || 'nothing'
}

/** What has names of its own stands in brackets inside something else. */
function inner(value: unknown): string {
  const words = spelt(value)
  return typeof value === 'object' && !Array.isArray(value) && words !== 'nothing' ? `(${words})` : words
}

/** From and to, place by place where a document changed. */
export function placesOf(before: unknown, after: unknown): [string, unknown, unknown][] {
  if ((before ?? null) === null && (after ?? null) === null) return []
  const plain = (v: unknown): v is Record<string, unknown> => typeof v === 'object' && v !== null && !Array.isArray(v)
  if (!plain(before) || !plain(after)) return [['', before, after]]
  return [...new Set([...Object.keys(before), ...Object.keys(after)])].map((k) => [k, before[k], after[k]])
}
