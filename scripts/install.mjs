// Installs the packages of the lock file when they are missing or older than it. Needs only Node and npm.
import { spawnSync } from 'node:child_process';
import { existsSync, statSync } from 'node:fs';

const MARK = 'node_modules/.package-lock.json';

/** Runs `npm ci` when node_modules is missing or older than the lock file; ends the process when that fails. */
export function install() {
  if (existsSync(MARK) && statSync(MARK).mtimeMs >= statSync('package-lock.json').mtimeMs) return;
  console.log('Installing packages from the lock file…');
  const done = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  if (done.status !== 0) {
    console.error('The packages could not be installed: npm needs to reach its registry once.');
    process.exit(1);
  }
}
