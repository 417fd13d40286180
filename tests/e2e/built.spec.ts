import { readdirSync, readFileSync, statSync } from 'node:fs';
import { expect, test } from '@playwright/test';

interface Chunk {
  readonly file: string;
  readonly imports?: readonly string[];
  readonly isEntry?: boolean;
}

/** kB (1000 bytes) that come over the wire for an entry and all that it imports at once, compressed as the server sends it. */
function weight(entry: string, as: 'br' | 'gz'): number {
  const chunks: Record<string, Chunk> = JSON.parse(readFileSync('dist/.vite/manifest.json', 'utf8'));
  const found = new Set<string>();
  const take = (name: string) => {
    if (found.has(name)) return;
    found.add(name);
    for (const other of chunks[name].imports ?? []) take(other);
  };
  take(Object.keys(chunks).find(name => chunks[name].isEntry)!);
  take(entry);
  return [...found].reduce((sum, name) => sum + size(`dist/${chunks[name].file}`, as), 0) / 1000;
}

/** As it is sent: what is too small to be compressed is sent as it is. */
function size(file: string, as: 'br' | 'gz'): number {
  try {
    return statSync(`${file}.${as}`).size;
  } catch {
    return statSync(file).size;
  }
}

/** Asked of each worker, kB as they are before compression: none carries what it does not call. */
const WORKERS: Record<string, number> = {
  artwork: 30,
  bundle: 150,
  camera: 200,
  evidence: 400,
  planner: 800,
  reader: 350,
  sheets: 1050,
};

test('what is loaded before anything is seen is light: the opening view, the bench on a phone, and each worker', () => {
  expect(weight('src/app/home/opening.tsx', 'gz')).toBeLessThan(300);
  expect(weight('src/app/bench/bench.tsx', 'br')).toBeLessThan(250);
  for (const name of readdirSync('dist/assets')) {
    const [, worker] = /^(\w+)\.worker-.*\.js$/.exec(name) ?? [];
    if (worker)
      expect(statSync(`dist/assets/${name}`).size / 1000, worker).toBeLessThan(WORKERS[worker] ?? 0);
  }
});
