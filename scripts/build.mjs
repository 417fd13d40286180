// Builds the app when a source is newer than the last build.
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';

const SOURCES = ['src', 'public', 'index.html', 'vite.config.ts', 'package-lock.json'];

function newest(path) {
  const info = statSync(path);
  if (!info.isDirectory()) return info.mtimeMs;
  return Math.max(0, ...readdirSync(path).map(name => newest(join(path, name))));
}

/** Runs the build unless dist is newer than every source; ends the process when it fails. */
export function buildIfStale() {
  const built = 'dist/index.html';
  if (existsSync(built) && statSync(built).mtimeMs > Math.max(...SOURCES.map(newest))) return;
  console.log('Building the app…');
  const done = spawnSync(process.execPath, ['node_modules/vite/bin/vite.js', 'build', '--logLevel', 'warn'], {
    stdio: 'inherit',
  });
  if (done.status !== 0) process.exit(done.status ?? 1);
}
