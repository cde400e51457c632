import type { Schemas, Verdict } from './api/client'

const SYMBOLS: Record<string, string> = { EUR: '€', GBP: '£', USD: '$' }

const house = { decimal: '.', dates: 'iso', currency: 'EUR' }

/** How this house writes numbers, dates and money; told once, when somebody signs in. */
export function writeAs(told: { decimal: string; dates: string; currency: string }) {
  house.decimal = told.decimal
  house.dates = told.dates
  house.currency = told.currency
}

/** The sign before decimals in this house. */
export const decimalSign = () => house.decimal

/** Minor units as money: 12160 → "€ 121.60", or with the house's comma. */
export function money(minor: number | null | undefined, currency = house.currency): string {
  if (minor === null || minor === undefined) return '–'
  const sign = minor < 0 ? '− ' : ''
  const places = decimalsOf(currency)
  const figure = (Math.abs(minor) / 10 ** places).toFixed(places).replace('.', house.decimal)
  return `${sign}${SYMBOLS[currency] ?? currency} ${figure}`
}

/** Decimal places of a currency's minor unit (ISO 4217): 2 of EUR, 0 of JPY, 3 of KWD. */
export function decimalsOf(currency: string): number {
  if (/^(BIF|CLP|DJF|GNF|ISK|JPY|KMF|KRW|PYG|RWF|UGX|VND|VUV|XAF|XOF|XPF)$/.test(currency)) return 0
  return /^(BHD|IQD|JOD|KWD|LYD|OMR|TND)$/.test(currency) ? 3 : 2
}

type Priced = { shop: string; price_minor: number; currency?: string; pieces?: number; tax?: string }

/** An offer as the shop made it: in its own money, for a kit, net or gross where that is told. */
export function offered(o: Priced): string {
  const kit = (o.pieces ?? 1) > 1 ? ` for ${o.pieces}` : ''
  return `${o.shop} ${money(o.price_minor, o.currency || undefined)}${kit}${o.tax ? ` ${o.tax}` : ''}`
}

/** The sign of the house's money, as fields show it. */
export const sign = () => SYMBOLS[house.currency] ?? house.currency

/** A figure with decimals before a unit. Bands (2.4 GHz), versions and rules' dates have none of these. */
const UNITS =
  /(?<![\d.])(\d+)\.(\d+)(?=(?:–[\d.]+)? ?(?:h|min|s|GB|TB|GB\/s|MB\/s|Mb\/s|MT\/s|Wh|W|V|mm|ns|%|points?)(?![\w/]))/g

/** A sentence of the server's with its money and figures as the house writes them: "€ 121.60" → "€ 121,60". */
export function inHouse(text: string): string {
  if (house.decimal === '.') return text
  return text
    .replace(/((?:[€£$]|\b[A-Z]{3}) \d+)\.(\d\d)(?!\d)/g, `$1${house.decimal}$2`)
    .replace(UNITS, `$1${house.decimal}$2`)
}

/** A day as the house writes it: 2026-11-30, 30.11.2026 or 11/30/2026. Of a moment, the day it was here. */
export function day(iso: string): string {
  const [y, m, d] = (iso.length > 10 ? here(iso).slice(0, 10) : iso).split('-')
  if (!y || !m || !d) return iso
  return house.dates === 'dmy' ? `${d}.${m}.${y}` : house.dates === 'mdy' ? `${m}/${d}/${y}` : `${y}-${m}-${d}`
}

/** Day and time of a moment, by the clock of this place. */
export function moment(iso: string | null | undefined): string {
  if (!iso) return ''
  return Number.isNaN(Date.parse(iso)) ? iso : `${day(iso)} ${here(iso).slice(11)}`
}

/** What the server says in words, a moment in it by the clock and in the form of the place. */
export const byTheClock = (words: string) => (/^\d{4}-\d\d-\d\dT\d\d:\d\d/.test(words) ? moment(words) : words)

/** A moment, which is stored in UTC, as 2026-11-30T09:05 of this place. */
function here(iso: string): string {
  const at = new Date(iso)
  if (Number.isNaN(at.getTime())) return iso
  const two = (n: number) => String(n).padStart(2, '0')
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}T${two(at.getHours())}:${two(at.getMinutes())}`
}

export const minutes = (seconds: number) => `${Math.round(seconds / 60)} min`

export const VERDICTS: Record<Verdict, { word: string; text: string }> = {
  seats: { word: 'Seats', text: 'text-seats' },
  held_back: { word: 'Held back', text: 'text-held' },
  measure_first: { word: 'Measure first', text: 'text-measure' },
  refused: { word: 'Refused', text: 'text-refused' },
  harm: { word: 'Harm', text: 'text-ink font-semibold' },
}

type Vocabulary = Schemas['Vocabulary']

let said: Vocabulary = {
  kinds: [],
  other_parts: [],
  stations: [],
  limits: [],
  sources: [],
  step_sources: [],
  marks: [],
  in_the_way: [],
}

/** The words the house speaks in; told once, when somebody signs in. */
export function speak(told: Vocabulary) {
  said = told
}

/** Every list the core decides: kinds, stations, limits, sources. */
export const vocabulary = () => said

/** A label inside a sentence: names of the trade keep their letters (Wi-Fi, PCIe, M.2). */
export const lowered = (label: string) =>
  /^\S+[A-Z0-9]/.test(label) ? label : label.charAt(0).toLowerCase() + label.slice(1)

const wordOf = (list: readonly Schemas['Words'][], id: string) => list.find((w) => w.id === id)?.says ?? id

export type StationId = Schemas['Station']
export const stationPath = (number: number, station: string) => `/jobs/${number}/${station.replace('_', '-')}`
export const stationName = (id: string) => wordOf(said.stations, id)
export const limitsName = (id: string) => wordOf(said.limits, id)

/** A kind of part as one says it: "card drive"; what triage names beside the kinds as well. */
export const partWord = (id: string) => said.kinds.find((k) => k.id === id)?.one ?? wordOf(said.other_parts, id)

/** The kind of part that goes into a kind of slot. */
export const kindFor = (slot: string) => said.kinds.find((k) => k.slots.includes(slot))?.id ?? ''

/** A due date in bench words. */
export function due(iso: string): string {
  if (!iso) return 'no date'
  const day = new Date(`${iso}T12:00:00`)
  const today = new Date()
  today.setHours(12, 0, 0, 0)
  const days = Math.round((day.getTime() - today.getTime()) / 86_400_000)
  if (days === 0) return 'due today'
  if (days === 1) return 'due tomorrow'
  if (days < 0) return days === -1 ? 'due yesterday' : `due ${-days} days ago`
  if (days < 7) return `due ${day.toLocaleDateString('en-GB', { weekday: 'short' })}`
  return `due ${day.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })}`
}

const PIECES: Record<string, string> = {
  capacity_gb: 'capacity',
  grade_mts: 'grade',
  read_mb_s: 'reading rate',
  below_um: 'height below the board',
}

/** What a label leaves open, in words. */
export const pieces = (fields: readonly string[]) => fields.map((f) => PIECES[f] ?? f.replaceAll('_', ' ')).join(', ')

/** A line never ends between a sign and its figure, or a figure and its unit. */
export const together = (text: string) =>
  text
    .replace(/(\p{Sc}|[+−]) (?=\d)/gu, '$1\u00a0')
    .replace(/(\d) (?=(?:GB|TB|MB\/s|GB\/s|Mb\/s|Wh|min|minutes|h)\b)/g, '$1\u00a0')
