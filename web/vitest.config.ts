import { defineConfig } from 'vitest/config'

// A slow disk is no fault: modules that are loaded for the first time may take seconds on a busy machine.
export default defineConfig({
  test: {
    include: ['src/**/*.test.ts', 'tests/**/*.test.ts'],
    environment: 'node',
    testTimeout: 60_000,
    hookTimeout: 120_000,
  },
})
