import { decimalSign } from './words'

/** Figures as people type them, and as the house writes them. */

/** How many decimals a figure is shown with at most. */
const DECIMALS = 6

/** A figure as the house writes it: 12.5, or 12,5. Nothing for none. */
export function shownFigure(value: number | null | undefined): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return ''
  return String(Number(value.toFixed(DECIMALS))).replace('.', decimalSign())
}

/** A figure with so many decimals: points, hours, GB. */
export const fixed = (value: number, decimals = 1) => value.toFixed(decimals).replace('.', decimalSign())

export type Typed = { value: number | null } | { problem: string }

/** Signs and codes of money, units, and blanks that people put around a figure. */
const AROUND = /^[\s\p{Sc}]*(?:[A-Z]{3}\s)?[\s\p{Sc}]*|\s*(?:\p{Sc}|[A-Z]{3}|[a-zA-Zµ°%]{1,5}(?:\/s)?)?\s*$/gu

/**
 * What somebody typed as a figure, or what is wrong with it. Both decimal signs are read; where a point or a comma could also
 * part thousands ("1.234"), the house's own decimal sign decides.
 */
export function typedFigure(
  text: string,
  { whole = false, required = false, least = 0 }: { whole?: boolean; required?: boolean; least?: number } = {},
): Typed {
  const plain = text.trim()
  if (plain === '') return required ? { problem: 'It may not be empty.' } : { value: null }
  const body = plain
    .replace(/[−–]/g, '-')
    .replace(AROUND, '')
    .replace(/(?<=\d)[\s'’](?=\d{3})/g, '')
  const figure = Number(decimals(body))
  if (body === '' || !/^-?[\d.,]+$/.test(body) || !Number.isFinite(figure))
    return { problem: `A number is written here, as 160 or 12${decimalSign()}50.` }
  if (figure < least) return { problem: least === 0 ? 'It is not below 0.' : `It is ${shownFigure(least)} at least.` }
  if (whole && !Number.isInteger(figure)) return { problem: 'It is a whole number.' }
  return { value: figure }
}

/** With a point for the decimals and nothing else, or what no figure is. */
function decimals(text: string): string {
  const [points, commas] = [text.split('.').length - 1, text.split(',').length - 1]
  if (points && commas) {
    const sign = text.lastIndexOf(',') > text.lastIndexOf('.') ? ',' : '.'
    const other = sign === ',' ? '.' : ','
    const [head, tail, more] = text.split(sign)
    return more === undefined && thousands(head!, other) ? `${head!.replaceAll(other, '')}.${tail}` : 'none'
  }
  const sign = points ? '.' : ','
  if (points + commas > 1) return thousands(text, sign) ? text.replaceAll(sign, '') : 'none'
  // One sign before just three digits parts thousands where it is not the house's decimal sign.
  if (points + commas === 1 && sign !== decimalSign() && thousands(text, sign)) return text.replace(sign, '')
  return text.replace(',', '.')
}

function thousands(text: string, sign: string): boolean {
  const [head, ...rest] = text.replace('-', '').split(sign)
  return /^[1-9]\d{0,2}$/.test(head!) && rest.every((group) => /^\d{3}$/.test(group))
}
