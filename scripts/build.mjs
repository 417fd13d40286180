// Builds the app when a source is newer than the last build.
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';

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

/** Text worth compressing; pictures and fonts are compressed already. */
const TEXT = /\.(js|mjs|css|html|svg|json|webmanifest|wasm|txt)$/;
const LEAST_BYTES = 1024;

/** Writes what compresses once more beside itself, as .br and .gz, for the server to send as it is. */
export function compressAll(folder) {
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) compressAll(path);
    else if (TEXT.test(name) && statSync(path).size >= LEAST_BYTES) {
      const bytes = readFileSync(path);
      // The two large libraries would take a minute at the highest quality for two per cent less.
      const quality = bytes.length > 2e6 ? 7 : 10;
      writeFileSync(
        `${path}.br`,
        brotliCompressSync(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: quality } }),
      );
      writeFileSync(`${path}.gz`, gzipSync(bytes, { level: 9 }));
    }
  }
}
