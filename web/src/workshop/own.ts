/** A figure of the workshop's own as it is typed: nothing is nothing of its own, never 0. */
export function typedOwn(text: string, scale: number): number | null {
  const figure = Number(text.trim().replace(',', '.'))
  return text.trim() && Number.isFinite(figure) && figure >= 0 ? Math.round(figure * scale) : null
}

export const shownOwn = (value: number | null | undefined, scale: number) =>
  value === null || value === undefined ? '' : String(value / scale)
