import js from '@eslint/js'
import hooks from 'eslint-plugin-react-hooks'
import ts from 'typescript-eslint'

export default ts.config(
  { ignores: ['src/api/schema.generated.d.ts'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  { plugins: { 'react-hooks': hooks }, // The React Compiler is not used here, so what it cannot compile does not matter.
    rules: { ...hooks.configs.recommended.rules, 'react-hooks/incompatible-library': 'off' },
  },
)
