import { readdirSync, readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { fetchAhead } from './ahead.ts';

const fetchedIn = (file: string) =>
  [...readFileSync(`src/store/${file}`, 'utf8').matchAll(/import\('([^']+)'\)/g)].map(([, path]) => path);

it('all that the store fetches when it is needed can be fetched before there is no server to ask', async () => {
  const later = readdirSync('src/store')
    .filter(name => name.endsWith('.ts') && !name.includes('.test.') && name !== 'ahead.ts')
    .flatMap(fetchedIn)
    .filter(path => path.startsWith('../core/'));
  expect(later.length).toBeGreaterThan(2);
  expect([...new Set(later)].sort()).toEqual(fetchedIn('ahead.ts').sort());
  await fetchAhead();
});
