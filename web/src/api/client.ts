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

/** What the server said was wrong, as an error that can be shown. */
export class Refused extends Error {
  constructor(
    readonly problem: Problem,
    readonly status: number,
  ) {
    super(problem.what)
  }
}

const TOO_MUCH = 'more was sent than the server takes in one piece'

/** The data of an answer, or a Refused with the server's own words. */
export async function answer<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await call
  if (response.ok) return data as T
  const said = error as Partial<Problem> | undefined
  throw new Refused(
    {
      ...said,
      what: said?.what ?? (response.status === 413 ? TOO_MUCH : `the server answered ${response.status}`),
      where: said?.where ?? '',
      mend: said?.mend ?? 'Try again; nothing was lost.',
      rows: said?.rows ?? [],
    },
    response.status,
  )
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
    throw new Refused(
      { what: `the server answered ${response.status}`, where: '', mend: 'Try again.', rows: [] },
      response.status,
    )
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
