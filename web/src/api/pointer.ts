/** JSON Pointers (RFC 6901): a place in a job. */

/** A pointer's steps: keys may hold slashes. */
const stepsOf = (path: string) =>
  path
    .slice(1)
    .split('/')
    .map((s) => s.replaceAll('~1', '/').replaceAll('~0', '~'))

/** A key as a step of a pointer. */
export const step = (key: string) => key.replaceAll('~', '~0').replaceAll('/', '~1')

/** The value at a pointer, undefined where there is nothing. */
export function at(document: unknown, path: string): unknown {
  return stepsOf(path).reduce<unknown>(
    (here, key) => (here as Record<string, unknown> | null | undefined)?.[key],
    document,
  )
}

/** The document with a value put at a pointer, or what is there taken out. The document itself stays as it was. */
export function placed(document: unknown, path: string, value: unknown, remove = false): unknown {
  const put = (here: unknown, [head, ...rest]: string[]): unknown => {
    if (head === undefined) return value
    const copy = { ...((here as Record<string, unknown> | null) ?? {}) }
    if (!rest.length && remove) delete copy[head]
    else copy[head] = put(copy[head], rest)
    return copy
  }
  return put(document, stepsOf(path))
}
