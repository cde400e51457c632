import js from '@eslint/js'
import hooks from 'eslint-plugin-react-hooks'
import ts from 'typescript-eslint'

/** What a part of the house may not reach into: stations and library know nothing of each other, what both show lies in machine. */
const zone = (files, ...others) => ({
  files: files.map((f) => `src/${f}/**`),
  rules: {
    'no-restricted-imports': [
      'error',
      { patterns: others.map((o) => ({ regex: `^(\\.\\./)+${o}(/|$)`, message: `nothing here reaches into ${o}` })) },
    ],
  },
})

export default ts.config(
  { ignores: ['src/api/schema.generated.d.ts'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    plugins: { 'react-hooks': hooks }, // The React Compiler is not used here, so what it cannot compile does not matter.
    rules: { ...hooks.configs.recommended.rules, 'react-hooks/incompatible-library': 'off' },
  },
  zone(['stations'], 'library'),
  zone(['library'], 'stations'),
  zone(['api', 'ui', 'map', 'glyphs', 'machine'], 'stations', 'library'),
)
