import { expect, it } from 'vitest'
import { quoted } from './running-head'

it.each([
  ['Quote, job 157', '"Quote, job 157"'],
  ['Anna "A" \\ B', '"Anna \\"A\\" \\\\ B"'],
  ['two\nlines', '"two lines"'],
])('%s', (text, css) => expect(quoted(text)).toBe(css))
