// npm run mutate -- FOLDER [TESTS]: changes the code of a folder of the core in small ways and counts how many of the changes a test notices.
import { spawnSync } from 'node:child_process';

const [what = 'codes', tests = `src/core/${what.split('/')[0]}/**/*.test.ts`] = process.argv.slice(2);
const { status } = spawnSync(process.execPath, ['node_modules/@stryker-mutator/core/bin/stryker.js', 'run'], {
  stdio: 'inherit',
  // A thread cannot change its own time zone, as a test of the clocks does: all of them run in that zone.
  env: { ...process.env, MUTATE: what, MUTATE_TESTS: tests, TZ: 'Europe/London' },
});
process.exit(status ?? 1);
