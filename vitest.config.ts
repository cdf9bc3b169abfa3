import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: ['tests/{unit,service,reference}/**/*.test.ts'],
    testTimeout: 30_000,
    pool: 'forks',
  },
})
