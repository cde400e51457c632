import createClient from 'openapi-fetch'
import type { components, paths } from './schema.generated'

export type Schemas = components['schemas']
export type Problem = Schemas['Problem']
export type JobView = Schemas['JobView']
export type Verdict = Schemas['Finding']['verdict']

function cookie(name: string): string {
  return document.cookie.match(`(?:^|; )${name}=([^;]*)`)?.[1] ?? ''
}

export const client = createClient<paths>({ baseUrl: '/' })
client.use({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRFToken', cookie('csrftoken'))
    return request
  },
})

/** A problem in words of our own, where the server had none. */
export const problem = (what: string, mend: string, where = ''): Problem => ({
  what,
  where,
  mend,
  code: 'invalid',
  fields: {},
  rows: [],
})

/** What the server said was wrong, as an error that can be shown. */
export class Refused extends Error {
  constructor(
    readonly problem: Problem,
    readonly status: number,
  ) {
    super(problem.what)
  }
}

/** Did somebody else change the same thing meanwhile? */
export const isConflict = (error: unknown) => error instanceof Refused && error.problem.code === 'conflict'

const TOO_MUCH = 'more was sent than the server takes in one piece'

/** The data of an answer, or a Refused with the server's own words. */
export async function answer<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await call
  if (response.ok) return data as T
  const said = error as Partial<Problem> | undefined
  const what = response.status === 413 ? TOO_MUCH : `the server answered ${response.status}`
  throw new Refused({ ...problem(what, 'Try again; nothing was lost.'), ...said }, response.status)
}

/** Send a file to an address that takes one. */
export async function upload<T>(
  path: string,
  file: Blob,
  name: string,
  fields: Record<string, string> = {},
): Promise<T> {
  const body = new FormData()
  for (const [key, value] of Object.entries(fields)) body.append(key, value)
  body.append('file', file, name)
  const call = fetch(path, { method: 'POST', body, headers: { 'X-CSRFToken': cookie('csrftoken') } })
  return answer<T>(
    call.then(async (response) => {
      const text = await response.json().catch(() => undefined)
      return response.ok ? { data: text as T, response } : { error: text, response }
    }),
  )
}

/** Send a file to an address that answers in lines of JSON while it works. Aborting ends the work. */
export async function steps<T>(
  path: string,
  file: File,
  onStep: (step: T) => void,
  signal: AbortSignal,
  fields: Record<string, string> = {},
) {
  const body = new FormData()
  for (const [key, value] of Object.entries(fields)) body.append(key, value)
  body.append('file', file, file.name)
  const response = await fetch(path, { method: 'POST', body, signal, headers: { 'X-CSRFToken': cookie('csrftoken') } })
  if (!response.ok || !response.body)
    throw new Refused(problem(`the server answered ${response.status}`, 'Try again.'), response.status)
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader()
  let left = ''
  for (;;) {
    const { value, done } = await reader.read()
    const lines = (left + (value ?? '')).split('\n')
    left = lines.pop() ?? ''
    for (const line of lines.filter(Boolean)) {
      const step = JSON.parse(line) as T & { problem?: Problem }
      if (step.problem) throw new Refused(step.problem, 400)
      onStep(step)
    }
    if (done) return
  }
}
