import fc from 'fast-check';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { whatNext } from '../advice/index.ts';
import { examplePlan } from '../design/example.ts';
import { planCost, tellsOf } from '../design/index.ts';
import { explain } from '../diagnosis/index.ts';
import { callsBetween, dryingLine } from '../drying/index.ts';
import { findingsOf } from '../findings/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { deviationsOf, patchStatus, progressOf } from '../progress/index.ts';
import { recipeOf } from '../recipe/index.ts';
import { write } from '../say/index.ts';
import { agendaOf, forecast, USUAL_WORKING } from '../schedule/index.ts';
import { benchSheets, labelSheets, mapSheets } from '../sheets/index.ts';
import { summaryOf } from '../summary/index.ts';
import { readingFor } from '../trial/example.ts';
import { levelNames, type TrialRecord } from '../trial/index.ts';
import { jpegOf } from './example.ts';
import { csvFiles, readBundle, type TrialBundle, writeBundle } from './index.ts';

const plan = examplePlan();
const [a, b] = plan.patches;
const at = (minute: number) => new Date(Date.parse('2026-05-02T09:00:00Z') + minute * 60_000).toISOString();
const step = (id: string, patch: string, name: string, minute: number): TrialRecord => ({
  id,
  at: at(minute),
  kind: 'step',
  patch,
  step: name,
  round: 1,
});
const MAP = { w: 3, h: 2, pxPerMm: 1, data: 'AAECAwQF' };
const records: TrialRecord[] = [
  { id: 'r1', at: at(0), kind: 'air', patch: null, air: { tempC: 19, rh: 55 } },
  step('r2', a.code, 'mark', 1),
  step('r3', a.code, 'coat', 2),
  step('r4', a.code, 'place', 3),
  step('r5', b.code, 'mark', 4),
  { id: 'r6', at: at(5), kind: 'undo', patch: b.code, of: 'r5' },
  { id: 'r7', at: at(300), kind: 'ready', patch: a.code, ready: false, step: 'wet', round: 1 },
  { id: 'r8', at: at(600), kind: 'ready', patch: a.code, ready: true, step: 'wet', round: 1 },
  { id: 'r9', at: at(601), kind: 'coat', patch: a.code, grams: 1.2 },
  { id: 'r10', at: at(602), kind: 'note', patch: null, text: 'hm' },
  { id: 'r11', at: at(603), kind: 'spoilt', patch: plan.patches[2].code, why: 'It tore' },
  ...readingFor(a.code, 1, { landed: 88, maps: { state: MAP, veil: MAP } }),
  ...readingFor(b.code, 2, { landed: 70, veil: 0.2 }),
  { id: 'v', at: at(9000), kind: 'verdict', patch: b.code, verdict: 'fix', grade: 3, symptoms: ['veil'] },
];
const photos = new Map([
  ['p1', jpegOf(1)],
  ['p2', jpegOf(2)],
]);
const zip = writeBundle({ plan, records, photos }, '2026-05-05T00:00:00.000Z');
const files = unzipSync(zip);
const trial = JSON.parse(new TextDecoder().decode(files['trial.json']));

/** Everything that pages work out of a trial; each has to come to its end, with times a calendar knows. */
function seenOnEveryPage({ plan, records }: TrialBundle) {
  const now = Date.parse(at(700));
  const { lines, airs } = progressOf(plan, records);
  for (const line of lines) {
    const { window } = patchStatus(line, airs, now);
    if (window) for (const ms of Object.values(window)) new Date(ms).toISOString();
    levelNames(plan, line.patch);
    explain(plan, line.patch, records);
  }
  summaryOf({ plan, records });
  findingsOf(plan, records);
  recipeOf(plan, records);
  csvFiles(plan, records);
  deviationsOf(plan, records);
  for (const bar of dryingLine([{ plan, records }], now))
    for (const ms of [bar.since, bar.aim, bar.closes, bar.dry?.hi ?? now]) new Date(ms).toISOString();
  callsBetween([{ plan, records }], now - 1e9, now);
  tellsOf(plan);
  planCost(plan);
  new Date(forecast(plan, records, now).endsAt).toISOString();
  const agenda = agendaOf(plan, records, USUAL_WORKING, now);
  whatNext([{ plan, records }], USUAL_WORKING, now);
  for (const sheets of [
    labelSheets(plan),
    mapSheets(plan),
    ...(agenda.ok ? [benchSheets(plan, agenda.value)] : []),
  ])
    expect(sheets).toBeTruthy();
}

/** Refused in a sentence, or harmless. */
function checked(bytes: Uint8Array): 'refused' | 'taken' {
  const result = readBundle(bytes);
  if (!result.ok) {
    expect(write(result.problem.say)).toMatch(/^[A-ZÄ“].{10,}\.$/s);
    expect(write(result.problem.say).length).toBeLessThan(300);
    return 'refused';
  }
  seenOnEveryPage(result.value);
  return 'taken';
}

/** All paths into a value, so that any part of it can be changed. */
function pathsOf(value: unknown, path: (string | number)[] = []): (string | number)[][] {
  if (typeof value !== 'object' || value === null) return [path];
  return [path, ...Object.entries(value).flatMap(([key, part]) => pathsOf(part, [...path, key]))];
}
const PATHS = pathsOf(trial).filter(path => path.length > 0);

const STRANGE: unknown[] = [
  ...[
    null,
    true,
    0,
    -1,
    0.5,
    1e308,
    -1e308,
    1e9,
    20_000,
    7,
    '',
    'x',
    '0',
    '9999-01-01T00:00:00Z',
    '1969-01-01T00:00:00Z',
  ],
  ...['2026-02-31T00:00:00Z', '../x', '<b>', '=cmd()', 'a'.repeat(10_000), [], {}, [[]], [null], { id: 'x' }],
  ...['none', 'mark', 'wet-rub', 'crisp', 'K7-3AF', 'toner', 'NaN', '__proto__', '\u0000', '💧'],
  ...[
    Array.from({ length: 5000 }, () => 1),
    Array.from({ length: 300 }, () => ({})),
    { ...plan },
    records[1],
  ],
];

function changed(
  path: readonly (string | number)[],
  change: (holder: Record<string, unknown>, key: string) => void,
) {
  const copy = structuredClone(trial);
  let holder = copy as Record<string, unknown>;
  for (const key of path.slice(0, -1)) holder = holder[key] as Record<string, unknown>;
  change(holder, String(path.at(-1)));
  return zipSync({ ...files, 'trial.json': strToU8(JSON.stringify(copy)) }, { level: 1 });
}

describe('an archive that somebody or something changed', () => {
  it('is refused in words or harmless on every page, whatever single value is another', () => {
    const seen = { refused: 0, taken: 0 };
    fc.assert(
      fc.property(fc.constantFrom(...PATHS), fc.constantFrom(...STRANGE), (path, value) => {
        seen[checked(changed(path, (holder, key) => void Object.assign(holder, { [key]: value })))]++;
      }),
      { seed: 11, numRuns: 150 },
    );
    // Both happen: a test that refused all, or took all, would tell nothing.
    expect(seen.refused).toBeGreaterThan(60);
    expect(seen.taken).toBeGreaterThan(5);
  });

  it('is refused in words or harmless when parts are gone, doubled, swapped or moved a little', () => {
    const numbers = PATHS.filter(p => typeof p.reduce((v: never, k) => v[k], trial as never) === 'number');
    const lists = PATHS.filter(p => Array.isArray(p.reduce((v: never, k) => v[k], trial as never)));
    const change = fc.oneof(
      // Kept twice under two names, as a press in two tabs would.
      fc
        .tuple(
          fc.array(fc.nat(records.length - 1), { minLength: 1, maxLength: 12 }),
          fc.integer({ min: -700, max: 700 }),
        )
        .map(([which, minutes]) =>
          changed(['records'], (h, k) => {
            const list = h[k] as TrialRecord[];
            for (const [n, i] of which.entries())
              list.push({
                ...list[i],
                id: `d${n}`,
                at: new Date(Date.parse(list[i].at) + minutes * 60_000).toISOString(),
              });
          }),
        ),
      fc.constantFrom(...PATHS).map(path => changed(path, (h, k) => void delete h[k])),
      fc
        .tuple(fc.constantFrom(...numbers), fc.double({ noNaN: true, min: -3, max: 3 }))
        .map(([path, by]) => changed(path, (h, k) => void Object.assign(h, { [k]: (h[k] as number) * by }))),
      fc.tuple(fc.constantFrom(...lists), fc.nat(), fc.nat()).map(([path, i, j]) =>
        changed(path, (h, k) => {
          const list = h[k] as unknown[];
          if (list.length) list.splice(i % list.length, 0, list[j % list.length]);
        }),
      ),
      fc
        .tuple(fc.constantFrom(...lists), fc.nat())
        .map(([path, i]) => changed(path, (h, k) => void (h[k] as unknown[]).splice(i % 7, 1))),
    );
    fc.assert(
      fc.property(change, bytes => void checked(bytes)),
      { seed: 12, numRuns: 80 },
    );
  });

  it('is refused in words, or taken without the photos it hit, when a bit of it was turned round or it was cut short', () => {
    const stored = zipSync(files, { level: 0 });
    const intact = readBundle(stored);
    if (!intact.ok) throw new ProblemError(intact.problem);
    const isPartOf = (bytes: Uint8Array) => {
      const found = readBundle(bytes);
      if (!found.ok) return;
      expect(found.value.plan).toEqual(intact.value.plan);
      expect(found.value.records).toEqual(intact.value.records);
      for (const [id, photo] of intact.value.photos)
        if (!found.value.lost?.includes(id)) expect(found.value.photos.get(id)).toEqual(photo);
    };
    fc.assert(
      fc.property(fc.nat(stored.length - 1), fc.nat(7), (i, bit) => {
        const copy = stored.slice();
        copy[i] ^= 1 << bit;
        checked(copy);
        isPartOf(copy);
      }),
      { seed: 13, numRuns: 50 },
    );
    fc.assert(
      fc.property(fc.nat(zip.length - 1), length => {
        checked(zip.subarray(0, length));
        isPartOf(zip.subarray(0, length));
      }),
      { seed: 14, numRuns: 30 },
    );
  });
});
