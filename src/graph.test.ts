import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, normalize } from 'node:path';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';

/** The folder a file belongs to: a layer, or a part of the core or of the interface; a trial's stages are parts of their own. */
const folderOf = (file: string): string => {
  const [, layer, part, ...rest] = file.split('/');
  if (layer !== 'core' && layer !== 'app') return layer;
  if (rest.length === 0) return layer;
  return part === 'trial' && rest.length > 1 ? `app/trial/${rest[0]}` : `${layer}/${part}`;
};

const sources = readdirSync('src', { recursive: true })
  .map(name => join('src', String(name)))
  .filter(
    name => /\.tsx?$/.test(name) && !/\.(test|d)\.tsx?$/.test(name) && !name.startsWith('src/app/testing/'),
  );

/** All that a file imports, types and what is fetched later among it; a pattern counts as one of the files that fit. */
const importsOf = (text: string): readonly string[] => [
  ...ts.preProcessFile(text).importedFiles.map(f => f.fileName),
  ...[...text.matchAll(/import\.meta\.glob[^(]*\('([^']+)'/g)].map(([, pattern]) =>
    pattern.replaceAll('*', 'plan'),
  ),
];

const arrows = new Map<string, string>();
const packages = new Map<string, string>();
for (const file of sources)
  for (const name of importsOf(readFileSync(file, 'utf8'))) {
    const from = folderOf(file);
    if (name.startsWith('.')) {
      const to = folderOf(normalize(join(dirname(file), name)));
      if (from !== to) arrows.set(`${from} → ${to}`, `${file}: ${name}`);
    } else {
      const [scope, rest] = name.split('/');
      packages.set(`${from.split('/')[0]} → ${scope.startsWith('@') ? `${scope}/${rest}` : scope}`, file);
    }
  }

/** A table of ARCHITECTURE.md, by its heading: `a → b` for all that its second column allows. */
function tableOf(heading: string): ReadonlySet<string> {
  const doc = readFileSync('docs/ARCHITECTURE.md', 'utf8');
  const part = doc.slice(doc.indexOf(`## ${heading}`) + 3).split('\n## ')[0];
  return new Set(
    part
      .split('\n')
      .filter(line => line.startsWith('| `'))
      .flatMap(line => {
        const [, from, to] = line.split('|').map(cell => [...cell.matchAll(/`([^`]+)`/g)].map(m => m[1]));
        return from.flatMap(a => to.map(b => `${a} → ${b}`));
      }),
  );
}

/** Those of the arrows that lie on a way from a folder back to itself. */
function circles(all: Iterable<string>): string[] {
  const after = new Map<string, string[]>();
  for (const arrow of all) {
    const [from, to] = arrow.split(' → ');
    after.set(from, [...(after.get(from) ?? []), to]);
  }
  const reaches = (from: string, wanted: string, seen = new Set<string>()): boolean =>
    (after.get(from) ?? []).some(to => {
      if (to === wanted) return true;
      if (seen.has(to)) return false;
      seen.add(to);
      return reaches(to, wanted, seen);
    });
  return [...after].flatMap(([from, tos]) =>
    tos.filter(to => reaches(to, from)).map(to => `${from} → ${to}`),
  );
}

describe('the folders', () => {
  const allowed = tableOf('Which folder may use which');

  it('use no other than the table says, and the table allows nothing that is not used', () => {
    expect(
      [...arrows].filter(([arrow]) => !allowed.has(arrow)).map(([arrow, where]) => `${arrow} (${where})`),
    ).toEqual([]);
    expect([...allowed].filter(arrow => !arrows.has(arrow))).toEqual([]);
  });

  it('point one way', () => {
    expect(circles(allowed)).toEqual([]);
    expect(circles(['a → b', 'b → c', 'c → a', 'a → d'])).toEqual(['a → b', 'b → c', 'c → a']);
  });

  it('keep core from storage, network and interface, the interface’s own parts from the workshop, and the reader from what the simulated camera knows', () => {
    const of = (from: RegExp, to: RegExp) =>
      [...allowed].filter(a => from.test(a.split(' → ')[0]) && to.test(a.split(' → ')[1]));
    expect(of(/^core/, /^(app|store|workers|server|cli|phone)/)).toEqual([]);
    expect(of(/^(store|workers|server|phone)/, /^(app|cli)/)).toEqual([]);
    expect(of(/^app\/(ui|board|theme)$/, /^(workers|server|core\/(stock|advice|simulator))/)).toEqual([]);
    expect(of(/^app\/ui$/, /^store/)).toEqual([]);
    expect(of(/^core\/(reading|simulator)$/, /^core\/(reading|simulator)$/)).toEqual([]);
  });
});

describe('the layers', () => {
  it('use no package but those of the table, and all of them', () => {
    const allowed = tableOf('Which layer may use which package');
    expect(
      [...packages].filter(([arrow]) => !allowed.has(arrow)).map(([arrow, file]) => `${arrow} (${file})`),
    ).toEqual([]);
    expect([...allowed].filter(arrow => !packages.has(arrow))).toEqual([]);
  });
});
