import { availableParallelism } from 'node:os'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    // Only to end what hangs: on a slow machine with a slow disk, what takes two seconds has taken thirty.
    testTimeout: 300_000,
    hookTimeout: 300_000,
    setupFiles: ['tests/setUp.ts'],
    pool: 'forks',
    // Left to itself it would keep one processor idle.
    maxWorkers: availableParallelism(),
    // They share what is read in: each file makes workspaces of its own, and reading all of it anew takes longer than most of the tests.
    isolate: false,
    projects: [
      { extends: true, test: { name: 'source', include: ['tests/{unit,service,reference}/**/*.test.ts'] } },
      // These start the application as it was built.
      { extends: true, test: { name: 'built', include: ['tests/built/**/*.test.ts'], globalSetup: 'tests/built/furnished.ts' } },
    ],
  },
})
