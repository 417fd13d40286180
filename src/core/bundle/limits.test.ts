import { strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { ProblemError } from '../outcome/index.ts';
import type { Words } from '../say/index.ts';
import { readingFor } from '../trial/example.ts';
import type { TrialPlan, TrialRecord } from '../trial/index.ts';
import { crc32, salvage, unpack } from './archive.ts';
import { jpegOf } from './example.ts';
import { checkTrial, csvFiles, parsePlan, readBundle, shiftTimes, writeBundle } from './index.ts';

const plan = examplePlan();
const [a, b] = plan.patches;
const at = '2026-05-02T09:00:00.000Z';
const codeOf = (found: { ok: boolean; problem?: { code: string } }) =>
  found.ok ? 'taken' : found.problem!.code;
const sayOf = (found: { ok: boolean; problem?: { say: Words } }) => (found.ok ? 'taken' : found.problem!.say);

describe('the limits of an archive', () => {
  const files = { 'a.txt': strToU8('123456'), 'b.txt': strToU8('1234') };
  const limits = { names: /^[a-c]\.txt$/, files: 2, fileBytes: 6, totalBytes: 10 };
  const opened = (part: object, of: Record<string, Uint8Array> = files) =>
    unpack(zipSync(of), { ...limits, ...part });

  it('take what is just at them, and refuse one more of anything', () => {
    const whole = opened({});
    if (!whole.ok) throw new ProblemError(whole.problem);
    expect(whole.value['a.txt']).toEqual(files['a.txt']);
    expect(codeOf(opened({ files: 1 }))).toBe('too-big');
    expect(codeOf(opened({ fileBytes: 5 }))).toBe('too-big');
    expect(codeOf(opened({ totalBytes: 9 }))).toBe('too-big');
    expect(codeOf(opened({ names: /^a\.txt$/ }))).toBe('foreign');
    expect(sayOf(opened({ names: /^a\.txt$/ }))).toContain('“b.txt”');
    expect(codeOf(unpack(zipSync({}), limits))).toBe('taken');
  });

  it('see a flipped bit of what is stored and of what is packed, and a file of two names', () => {
    const level0 = zipSync(files, { level: 0 });
    // Local header 30 bytes, name 5: the first byte of the file itself.
    const flipped = level0.slice();
    flipped[35] ^= 1;
    expect(sayOf(unpack(flipped, limits))).toContain('its checksum does not fit');
    const twice = zipSync({ 'a.txt': strToU8('x'), 'b.txt': strToU8('y') }, { level: 0 });
    for (let i = 0; i < twice.length - 5; i++)
      if (String.fromCharCode(...twice.subarray(i, i + 5)) === 'b.txt') twice[i] = 'a'.charCodeAt(0);
    expect(sayOf(unpack(twice, limits))).toContain('two files of one name');
  });

  it('find the directory behind a comment, and none in what only ends like one', () => {
    const plain = zipSync(files);
    const comment = strToU8('kept in the shed');
    const longer = new Uint8Array(plain.length + comment.length);
    longer.set(plain);
    longer.set(comment, plain.length);
    longer[plain.length - 2] = comment.length;
    expect(codeOf(unpack(longer, limits))).toBe('taken');
    expect(codeOf(unpack(plain.subarray(0, plain.length - 1), limits))).toBe('damaged');
    expect(codeOf(unpack(plain.subarray(plain.length - 22), limits))).toBe('damaged');
    expect(codeOf(unpack(new Uint8Array(21), limits))).toBe('damaged');
  });

  it('check with the checksum of the standard', () => {
    expect(crc32(strToU8(''))).toBe('00000000');
    expect(crc32(strToU8('a'))).toBe('e8b7be43');
    expect(crc32(new Uint8Array(32))).toBe('190a55ad');
  });
});

describe('the photos of an archive', () => {
  const [photo, reading] = readingFor(a.code, 1, { landed: 80 });
  const withPhoto = (bytes: Uint8Array) =>
    readBundle(writeBundle({ plan, records: [photo, reading], photos: new Map([['p1', bytes]]) }, at));

  it('may be as large as a browser can draw, and no larger', () => {
    expect(codeOf(withPhoto(jpegOf(1, 16_384, 3000)))).toBe('taken');
    expect(sayOf(withPhoto(jpegOf(1, 16_385, 3000)))).toContain('16385 × 3000 pixels');
    expect(codeOf(withPhoto(jpegOf(1, 3000, 16_385)))).toBe('bad-photo');
    expect(codeOf(withPhoto(jpegOf(1, 6500, 8000)))).toBe('taken');
    expect(codeOf(withPhoto(jpegOf(1, 6501, 8000)))).toBe('bad-photo');
    // One without a width is no picture: it is left out, and all else is taken.
    const without = withPhoto(jpegOf(1, 0, 8000));
    expect(without.ok && without.value.lost).toEqual(['p1']);
  });

  const changed = (change: (trial: Record<string, unknown>) => object) => {
    const zip = unzipSync(
      writeBundle({ plan, records: [photo, reading], photos: new Map([['p1', jpegOf(1)]]) }, at),
    );
    const trial = JSON.parse(new TextDecoder().decode(zip['trial.json'])) as Record<string, unknown>;
    return readBundle(
      zipSync({ ...zip, 'trial.json': strToU8(JSON.stringify({ ...trial, ...change(trial) })) }),
    );
  };
  const listed = (t: Record<string, unknown>) => t.photos as { id: string; file: string; crc32: string }[];

  it('are listed once each, by a name of letters and digits, with the checksum they have', () => {
    expect(codeOf(changed(() => ({})))).toBe('taken');
    expect(codeOf(changed(t => ({ photos: [...listed(t), ...listed(t)] })))).toBe('bad-photo');
    expect(codeOf(changed(t => ({ photos: listed(t).map(p => ({ ...p, id: 'p_1' })) })))).toBe(
      'missing-photo',
    );
    expect(codeOf(changed(t => ({ photos: listed(t).map(p => ({ ...p, id: 'x'.repeat(41) })) })))).toBe(
      'missing-photo',
    );
    const another = changed(t => ({ photos: listed(t).map(p => ({ ...p, crc32: '00000000' })) }));
    expect(another.ok && another.value.lost).toEqual(['p1']);
    expect(codeOf(changed(() => ({ missing: ['no/way'] })))).toBe('broken');
    expect(codeOf(changed(() => ({ photos: [] })))).toBe('missing-photo');
    // Named as missing it may be gone.
    expect(codeOf(changed(() => ({ photos: [], missing: ['p1'] })))).toBe('taken');
  });
});

describe('a plan', () => {
  const parsed = (change: Partial<TrialPlan>) => sayOf(parsePlan({ ...plan, ...change }));
  const moved = (change: (p: TrialPlan['patches'][number], i: number) => object) =>
    parsed({ patches: plan.patches.map((p, i) => ({ ...p, ...change(p, i) })) });

  it('fits together in every part', () => {
    expect(parsed({})).toBe('taken');
    expect(parsed({ method: 'film-pull' })).toContain('not the one it names');
    expect(parsed({ factors: [plan.factors[0], plan.factors[0]] })).toContain('the same thing twice');
    expect(parsed({ design: { ...plan.design, groupKey: 'finish' } })).toContain('what it does not vary');
    expect(parsed({ design: { ...plan.design, stripKey: 'finish' } })).toContain('what it does not vary');
    expect(parsed({ design: { ...plan.design, interactions: [[0, 2]] } })).toContain('a pair of things');
    expect(parsed({ design: { ...plan.design, interactions: [[0, 1]] } })).toBe('taken');
    expect(moved((p, i) => (i === 1 ? { order: plan.patches[0].order } : p))).toContain('order of work');
    expect(moved((p, i) => (i === 1 ? { code: a.code } : p))).toContain('the same code');
    expect(moved((p, i) => (i === 0 ? { levels: [3, 0] } : p))).toContain(`Patch ${a.code} does not fit`);
    expect(moved((p, i) => (i === 0 ? { levels: [0] } : p))).toContain('does not fit');
    expect(moved((p, i) => (i === 0 ? { levels: [] } : p))).toContain('does not fit');
    expect(moved((p, i) => (i === 0 ? { board: plan.board.count } : p))).toContain('does not fit');
    const { method } = plan.used;
    const twice = { ...method, steps: [...method.steps, method.steps[1]] };
    expect(parsed({ used: { ...plan.used, method: twice } })).toContain('Two steps');
  });

  it('lies on its boards, to half a millimetre, and no patch on another', () => {
    const edge = plan.board.w - plan.patchMm;
    const boards = { ...plan.board, count: plan.patches.length };
    const alone = (x: number, y: number) =>
      parsed({
        board: boards,
        patches: plan.patches.map((p, i) => ({ ...p, board: i, ...(i ? { x: 10, y: 10 } : { x, y }) })),
      });
    expect(alone(edge + 0.5, 10)).toBe('taken');
    expect(alone(edge + 0.51, 10)).toContain('does not lie on its board');
    expect(alone(10, plan.board.h - plan.patchMm + 0.51)).toContain('does not lie on its board');
    const two = (x: number, y: number, board = 0) =>
      parsed({
        board: boards,
        patches: plan.patches.map((p, i) => ({
          ...p,
          board: i === 1 ? board : i,
          ...(i === 1 ? { x, y } : { x: 10, y: 10 }),
        })),
      });
    const { patchMm } = plan;
    expect(two(10 + patchMm - 0.5, 10)).toBe('taken');
    expect(two(10 + patchMm - 0.51, 10)).toContain('lie on one another');
    expect(two(10, 10 + patchMm - 0.5)).toBe('taken');
    expect(two(10, 10 + patchMm - 0.51)).toContain('lie on one another');
    expect(two(10, 10, 1)).toBe('taken');
  });
});

describe('records', () => {
  const step = (id: string, part: object = {}): TrialRecord =>
    ({ id, at, kind: 'step', patch: a.code, step: 'mark', round: 1, ...part }) as TrialRecord;
  const checked = (...records: TrialRecord[]) => sayOf(checkTrial(plan, records, new Set(['p1'])));

  it('are of this trial, each its own, and point to what is there', () => {
    expect(checked(step('r1'), step('r2', { patch: b.code }))).toBe('taken');
    expect(checked(step('r1'), step('r1'))).toContain('the same name (r1)');
    expect(checked(step('r1', { patch: 'ZZ-222' }))).toContain('patch ZZ-222');
    expect(checked(step('r1', { also: [b.code, 'ZZ-222'] }))).toContain('patch ZZ-222');
    expect(checked(step('r1', { step: 'polish' }))).toContain('“polish”');
    expect(checked(step('r1', { kind: 'ready', ready: true, step: 'polish' }))).toContain('“polish”');
    expect(checked(step('r1', { step: 'worn-wash' }))).toBe('taken');
    const undo = (id: string, of: string): TrialRecord => ({ id, at, kind: 'undo', patch: null, of });
    expect(checked(step('r1'), undo('u1', 'r1'))).toBe('taken');
    expect(checked(undo('u1', 'r1'))).toContain('not there');
    expect(checked(step('r1'), undo('u1', 'r1'), undo('u2', 'u1'))).toContain('another undo');
    const [photo, reading] = readingFor(a.code, 1, { landed: 80 });
    expect(checked(reading)).toMatch(/has no photo|missing/);
    expect(sayOf(checkTrial(plan, [photo], new Set()))).toContain('missing from the file');
  });

  it('move in time with all the times they hold', () => {
    const told = { told: '2026-05-02T09:02:00.000Z', begun: '2026-05-02T08:58:00.000Z' };
    const [moved] = shiftTimes(plan, [step('r1', told)], 60_000).records;
    expect(moved).toMatchObject({
      at: '2026-05-02T09:01:00.000Z',
      told: '2026-05-02T09:03:00.000Z',
      begun: '2026-05-02T08:59:00.000Z',
    });
  });

  it('stand in tables of these columns', async () => {
    const records = [
      step('r1'),
      step('r2', { patch: b.code, also: [a.code] }),
      ...readingFor(a.code, 1, { landed: 88.5, veil: 0.12 }),
      {
        id: 'v1',
        at,
        kind: 'verdict',
        patch: a.code,
        verdict: 'fix',
        grade: 3,
        symptoms: ['veil'],
      } as TrialRecord,
    ];
    const tables = csvFiles(plan, records);
    await expect(Object.entries(tables).flat().join('\n')).toMatchFileSnapshot('tables.txt');
  });
});

describe('what is saved of a damaged archive', () => {
  const files = { 'a.txt': strToU8('anchor '.repeat(40)), 'b.txt': strToU8('1234'), 'c.txt': strToU8('56') };
  const limits = { names: /^[a-c]\.txt$/, files: 3, fileBytes: 280, totalBytes: 290 };
  const names = (found: { files: object }) => Object.keys(found.files);

  it('is every file that is whole, packed or not, wherever the damage is', () => {
    const whole = zipSync(files);
    expect(salvage(whole, limits)).toEqual({ files, damaged: [] });
    // Each byte in turn another: at most the file it belongs to is lost, and none is taken that is not as it was.
    for (let i = 0; i < whole.length; i++) {
      const changed = whole.slice();
      changed[i] ^= 0x41;
      const saved = salvage(changed, limits);
      expect(names(saved).length, `byte ${i}`).toBeGreaterThanOrEqual(2);
      for (const name of names(saved)) expect(saved.files[name]).toEqual(files[name as keyof typeof files]);
    }
  });

  it('is what stands before the cut, and the one that is cut is named', () => {
    const whole = zipSync(files, { level: 0 });
    const second = whole.indexOf(0x50, 60);
    expect(names(salvage(whole.subarray(0, second), limits))).toEqual(['a.txt']);
    const directory = whole.findIndex(
      (_, i) => whole[i] === 0x50 && whole[i + 2] === 1 && whole[i + 3] === 2,
    );
    const cut = salvage(whole.subarray(0, directory - 1), limits);
    expect(names(cut)).toEqual(['a.txt', 'b.txt']);
  });

  it('keeps to the same limits as any archive', () => {
    const whole = zipSync(files);
    expect(names(salvage(whole, { ...limits, files: 2 }))).toHaveLength(2);
    expect(names(salvage(whole, { ...limits, fileBytes: 279 }))).toEqual(['b.txt', 'c.txt']);
    expect(names(salvage(whole, { ...limits, totalBytes: 284 }))).toEqual(['a.txt', 'b.txt']);
    expect(names(salvage(whole, { ...limits, totalBytes: 283 }))).toEqual(['a.txt', 'c.txt']);
    expect(names(salvage(whole, { ...limits, names: /^a/ }))).toEqual(['a.txt']);
  });
});
