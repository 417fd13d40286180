import { readFileSync } from 'node:fs';
import { strFromU8, unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { parseRecord, readBundle, writeBundle } from '../bundle/index.ts';
import { findingsOf } from '../findings/index.ts';
import { MEASURES } from '../measures/index.ts';
import { METHODS } from '../methods/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { isSaid } from '../say/testing.ts';
import numbers from './fixtures/numbers.json' with { type: 'json' };
import { recordNow, type TrialRecord, versioned } from './index.ts';

/** Trials as earlier versions wrote them, without the files of their photos; one with the maps of its readings. */
const OLD = ['read-1', 'read-2', 'read-3', 'smeared-3', 'worn-3'] as const;
const opened = (name: string) => {
  const bytes = new Uint8Array(readFileSync(`src/core/trial/fixtures/${name}.zip`));
  const bundle = readBundle(bytes);
  if (!bundle.ok) throw new ProblemError(bundle.problem);
  return { ...bundle.value, raw: JSON.parse(strFromU8(unzipSync(bytes)['trial.json'])) };
};

/** Every number that was found, by its place, to nine digits. */
function numbersIn(value: unknown, at = ''): [string, number][] {
  if (typeof value === 'number') return [[at, Number(value.toPrecision(9))]];
  // What is only said is not found.
  if (typeof value !== 'object' || value === null || isSaid(value)) return [];
  return Object.entries(value).flatMap(([key, part]) => numbersIn(part, `${at}/${key}`));
}

describe.each(OLD)('the trial %s', name => {
  const { plan, records, raw } = opened(name);

  it('has every record that it had, each saying what it said', () => {
    expect(raw.records.length).toBeGreaterThan(40);
    expect(records.map(r => r.id)).toEqual(raw.records.map((r: { id: string }) => r.id));
    for (const [i, record] of records.entries()) expect(record).toMatchObject(raw.records[i]);
  });

  it('shows what it showed, number by number', () => {
    const found = Object.fromEntries(numbersIn(findingsOf(plan, records)));
    expect(Object.keys(found).length).toBeGreaterThan(30);
    expect(found).toEqual((numbers as Record<string, unknown>)[name]);
  });

  it('is the same again when it went out and came in', () => {
    const again = readBundle(writeBundle({ plan, records, photos: new Map() }, '2026-12-02T00:00:00.000Z'));
    expect(again.ok && again.value.plan).toEqual(plan);
    expect(again.ok && again.value.records).toEqual(records);
  });
});

describe('a reading', () => {
  const { records } = opened('read-1');
  const old = records.find(r => r.kind === 'reading')!;

  it('of before there were all of today’s measures has those it lacks as not given', () => {
    const raw = opened('read-1').raw.records.find((r: { kind: string }) => r.kind === 'reading');
    const lacking = MEASURES.map(m => m.id).filter(id => !(id in raw.reading));
    expect(lacking).toEqual(['smear', 'detail']);
    expect(old).toMatchObject({ reading: { smear: null, detail: null, landed: raw.reading.landed } });
  });

  it.each(MEASURES.map(m => m.id).filter(id => !['landed', 'veil', 'stain', 'tone'].includes(id)))(
    'without %s is whole: only the four of the first version are always there',
    id => {
      const { [id]: _, ...rest } = (old as unknown as { reading: Record<string, unknown> }).reading;
      const read = parseRecord({ ...old, reading: rest });
      expect(read.ok && read.value).toMatchObject({ reading: { [id]: null } });
    },
  );
});

describe('a record', () => {
  const gloss = {
    id: 'g1',
    at: '2026-06-02T08:00:00.000Z',
    kind: 'gloss',
    patch: null,
    photo: 'p1',
    gloss: 4,
  };

  it('of the first version of its kind is brought up, and written with the version it has now', () => {
    const read = parseRecord({ ...gloss, give: 1.5 });
    if (!read.ok) throw new ProblemError(read.problem);
    expect(read.value).toEqual({ ...gloss, uncertainty: 1.5 });
    expect(versioned(read.value)).toEqual({ ...gloss, uncertainty: 1.5, version: 2 });
    expect(parseRecord(versioned(read.value))).toEqual(read);
  });

  it('whose kind never changed says no version', () => {
    const note: TrialRecord = { id: 'n1', at: gloss.at, kind: 'note', patch: null, text: 'hm' };
    expect(versioned(note)).toBe(note);
  });

  it('of a newer version is refused in words, and so is one that counts wrongly', () => {
    const newer = parseRecord({ ...gloss, uncertainty: 1, version: 3 });
    expect(!newer.ok && newer.problem).toMatchObject({
      code: 'newer',
      say: expect.stringMatching(/newer Wet Test/),
    });
    for (const version of [0, -1, 1.5, '2', null])
      expect(parseRecord({ ...gloss, uncertainty: 1, version }).ok, String(version)).toBe(false);
    for (const odd of [null, 7, [], { kind: '__proto__' }, { kind: 'constructor', version: 2 }])
      expect(parseRecord(odd).ok).toBe(false);
  });

  it('goes through all the steps from its own version on, and no other', () => {
    const kinds = { a: { steps: [(r: object) => ({ ...r, two: 1 }), (r: object) => ({ ...r, three: 1 })] } };
    expect(recordNow({ kind: 'a' }, kinds)).toEqual({ ok: true, value: { kind: 'a', two: 1, three: 1 } });
    expect(recordNow({ kind: 'a', version: 2 }, kinds)).toEqual({ ok: true, value: { kind: 'a', three: 1 } });
    expect(recordNow({ kind: 'a', version: 3 }, kinds)).toEqual({ ok: true, value: { kind: 'a' } });
    expect(recordNow({ kind: 'a', version: 4 }, kinds).ok).toBe(false);
  });
});

describe('what old methods are brought up by', () => {
  it('does not change with today’s methods', () => {
    const before = opened('read-2').plan;
    const wetRub = METHODS.find(m => m.id === 'wet-rub')!;
    const step = wetRub.steps[2] as { does: string };
    const { does } = step;
    try {
      step.does = 'other';
      expect(opened('read-2').plan).toEqual(before);
      expect(opened('read-1').plan.used.method.steps[2].does).toBe(does);
    } finally {
      step.does = does;
    }
  });
});
