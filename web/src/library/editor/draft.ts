/** A machine as it is being edited: the open machine JSON, not yet known to be sound. */
export type Json = Record<string, unknown>
export type Claim = {
  value: unknown
  source: string
  note?: string
  bound?: '' | 'at_least' | 'at_most'
  alternatives?: unknown[]
}
export type Draft = Json & { slots: Json[]; configurations: Json[] }

export const asList = (value: unknown): Json[] => (Array.isArray(value) ? (value as Json[]) : [])
export const text = (value: unknown) => (typeof value === 'string' || typeof value === 'number' ? String(value) : '')

export const listed = (value: unknown) => (Array.isArray(value) ? value.map(String) : [])

/** The claims of a fact, whichever short form its file uses. */
export function claims(value: unknown): Claim[] {
  if (value === null || value === undefined) return []
  if (Array.isArray(value) && value.every((v) => typeof v === 'object' && v !== null)) return value as Claim[]
  if (typeof value === 'object' && !Array.isArray(value) && 'source' in value) return [value as Claim]
  return [{ value, source: 'documented' }]
}

const KEY = 'insertum-machine-draft'

/** What is typed is kept in this browser until it is saved or left. */
export function keep(draft: Draft | null) {
  if (draft) localStorage.setItem(KEY, JSON.stringify(draft))
  else localStorage.removeItem(KEY)
}

export function kept(): Draft | null {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? 'null') as Draft | null
  } catch {
    return null
  }
}

/** A stored value as it is typed, and back: mm for µm, lists with commas. */
export function typed(value: unknown, scale: number): string {
  if (value === null || value === undefined) return ''
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (Array.isArray(value)) return value.length ? value.join(', ') : 'none'
  return typeof value === 'number' && scale !== 1 ? String(value / scale) : String(value as string | number)
}

export function stored(text: string, kind: string, scale: number): unknown {
  const words = text.split(/[\s,]+/).filter((w) => w && w !== 'none')
  const number = Number(text.replace(',', '.'))
  switch (kind) {
    case 'flag':
      return text === 'yes'
    case 'number':
      return text.trim() && Number.isFinite(number) ? Math.round(number * scale) : text
    case 'list':
      return words
    case 'numbers':
      return words.map(Number)
    case 'choice':
      return /^\d+$/.test(text) ? Number(text) : text
    default:
      return text
  }
}

const LEAST = /^(?:≥|>=|at\s+least)\s*(.+)$|^(.+?)\s+or\s+more$/i
const MOST = /^(?:≤|<=|at\s+most|up\s+to)\s*(.+)$|^(.+?)\s+or\s+less$/i

/** What is typed for a claim: a value, a bound ("1.35 or more", "at most 2") or one of several ("B or M"), as files write it. */
export function claimed(claim: Claim, text: string, kind: string, scale: number): Claim {
  const plain = { ...claim }
  delete plain.bound
  delete plain.alternatives
  if (kind === 'number')
    for (const [bound, words] of [
      ['at_least', LEAST],
      ['at_most', MOST],
    ] as const) {
      // prettier-ignore
      const m = words.exec(text.trim())
      if (m) return { ...plain, value: stored(m[1] ?? m[2] ?? '', kind, scale), bound }
    }
  const several = kind === 'number' || kind === 'choice' ? text.trim().split(/\s+or\s+/) : [text]
  const [value, ...alternatives] = several.map((t) => stored(t, kind, scale))
  return alternatives.length ? { ...plain, value, alternatives } : { ...plain, value }
}

/** A claim as it is typed: its value, with its bound or its alternatives. */
export function typedClaim({ value, bound, alternatives }: Claim, scale: number): string {
  if (bound) return `${typed(value, scale)} or ${bound === 'at_least' ? 'more' : 'less'}`
  return [value, ...(alternatives ?? [])].map((v) => typed(v, scale)).join(' or ')
}

/** The states before this change, the newest last. Typing in one field is one step back, not one a letter. */
export function remembered(past: readonly Draft[], before: Draft, next: Draft): Draft[] {
  const last = past.at(-1)
  const where = changedAt(before, next)
  if (last && past.length && where && where === changedAt(last, before)) return [...past]
  return [...past, before].slice(-MOST_STEPS)
}

const MOST_STEPS = 100

const same = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b)

/** The one place two drafts differ at, '' where there are several. */
export function changedAt(a: unknown, b: unknown, at = ''): string {
  if (a === b) return ''
  const open = (v: unknown) => typeof v === 'object' && v !== null
  if (!open(a) || !open(b) || Array.isArray(a) !== Array.isArray(b)) return at || '/'
  const [left, right] = [a as Json, b as Json]
  const names = [...new Set([...Object.keys(left), ...Object.keys(right)])].filter((n) => !same(left[n], right[n]))
  return names.length === 1 ? changedAt(left[names[0]!], right[names[0]!], `${at}/${names[0]!}`) : ''
}

const slug = (words: string) =>
  words
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '') || 'machine'

/** Maker or name typed anew: id, the family's mark and the first configuration's name follow, unless they were changed by hand. */
export function renamed(draft: Draft, field: 'maker' | 'name', value: string): Draft {
  const whole = (d: Json) => `${text(d['maker'])} ${text(d['name'])}`.trim()
  const next: Draft = { ...draft, [field]: value }
  if (text(draft['id']) === slug(whole(draft))) next['id'] = slug(whole(next))
  next['marks'] = asList(draft['marks']).map((m) =>
    m['kind'] === 'family' && m['text'] === whole(draft) ? { ...m, text: whole(next) } : m,
  )
  if (field === 'name')
    next.configurations = draft.configurations.map((c) =>
      text(c['name']) === text(draft['name']) ? { ...c, name: value } : c,
    )
  return next
}

/** A step in the way is gone, and nothing waits for it, is reached by it or cut off by it any more. */
export function withoutStep(draft: Draft, id: string): Draft {
  const less = (value: unknown) => listed(value).filter((x) => x !== id)
  const reached = (all: Json[]) => all.map((x) => ({ ...x, reached_by: less(x['reached_by']) }))
  const next: Draft = {
    ...draft,
    power_off: draft['power_off'] === id ? '' : draft['power_off'],
    obstacles: asList(draft['obstacles'])
      .filter((o) => o['id'] !== id)
      .map((o) => ({ ...o, after: less(o['after']) })),
    slots: reached(draft.slots),
  }
  if (draft['assemblies']) next['assemblies'] = reached(asList(draft['assemblies']))
  return next
}

/** One more of a kind, with an id that is free: ``fan``, then ``fan-2``. */
export function oneMore(all: readonly Json[], kind: string): string {
  const taken = new Set(all.map((a) => text(a['id'])))
  const plain = kind.replaceAll('_', '-')
  for (let n = 1; ; n += 1) {
    const id = n === 1 ? plain : `${plain}-${n}`
    if (!taken.has(id)) return id
  }
}

/** A figure of the draft, null where there is none. */
export const figure = (value: unknown): number | null => (typeof value === 'number' ? value : null)
