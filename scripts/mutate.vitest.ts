import { defineConfig } from 'vitest/config';

/** The tests that speak of the folder that is mutated, by `MUTATE_TESTS` (globs with commas between); all of the core without it. */
export default defineConfig({
  test: {
    include: (process.env.MUTATE_TESTS ?? 'src/core/**/*.test.ts').split(','),
    testTimeout: 60_000,
    hookTimeout: 60_000,
    isolate: false,
  },
});
