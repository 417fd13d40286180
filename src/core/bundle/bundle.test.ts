import { strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { readingFor } from '../trial/example.ts';
import type { TrialRecord } from '../trial/index.ts';
import { csvFiles, readBundle, shiftTimes, writeBundle } from './index.ts';
import { crc32 } from './zip.ts';

const plan = examplePlan();
const [a, b] = plan.patches;
const jpeg = (n: number) => Uint8Array.from([0xff, 0xd8, 0xff, 0xe0, n, 1, 2, 3]);
const records: TrialRecord[] = [
  { id: 'r1', at: '2026-05-02T09:00:00.000Z', kind: 'air', patch: null, air: { tempC: 19, rh: 55 } },
  { id: 'r2', at: '2026-05-02T09:01:00.000Z', kind: 'step', patch: a.code, step: 'mark', round: 1 },
  { id: 'r3', at: '2026-05-02T09:02:00.000Z', kind: 'undo', patch: a.code, of: 'r2' },
  { id: 'r4', at: '2026-05-02T09:03:00.000Z', kind: 'note', patch: b.code, text: '=cmd()' },
  ...readingFor(a.code, 1, { landed: 88.5 }),
  ...readingFor(b.code, 2, { landed: 70, veil: 0.2 }),
  {
    id: 'r9',
    at: '2026-05-04T09:03:00.000Z',
    kind: 'verdict',
    patch: b.code,
    verdict: 'fix',
    grade: 3,
    symptoms: ['veil'],
  },
];
const photos = new Map([
  ['p1', jpeg(1)],
  ['p2', jpeg(2)],
]);
const zip = writeBundle({ plan, records, photos }, '2026-05-05T00:00:00.000Z');

/** The archive with its trial.json changed. */
const tampered = (change: (trial: Record<string, never>) => unknown) => {
  const files = unzipSync(zip);
  const trial = JSON.parse(new TextDecoder().decode(files['trial.json']));
  return zipSync({ ...files, 'trial.json': strToU8(JSON.stringify(change(trial) ?? trial)) });
};

describe('a trial in a file', () => {
  it('comes back without any loss', () => {
    const back = readBundle(zip);
    expect(back.ok && back.value.plan).toEqual(plan);
    expect(back.ok && back.value.records).toEqual(records);
    expect(back.ok && back.value.photos).toEqual(photos);
  });

  it('has the batch of the medium and the day its jar was opened in the table of patches', () => {
    const mediums = plan.used.mediums.map((m, i) => ({ ...m, batch: `B${i}`, opened: '2026-03-01' }));
    const dated = { ...plan, used: { ...plan.used, mediums } };
    const [head, ...rows] = csvFiles(dated, [])
      ['patches.csv'].split('\n')
      .map(row => row.split(','));
    const [batch, opened] = ['medium_batch', 'medium_opened'].map(c => head.indexOf(c));
    expect(rows).toHaveLength(plan.patches.length);
    const used = new Set(rows.map(r => r[batch]));
    expect([...used].sort()).toEqual(mediums.map(m => m.batch).sort());
    for (const r of rows) expect(r[opened]).toBe('2026-03-01');
  });

  it('is the same file when exported again', () => {
    const again = (bytes: Uint8Array) => {
      const back = readBundle(bytes);
      if (!back.ok) throw new Error(back.problem.say);
      return writeBundle(back.value, '2026-05-05T00:00:00.000Z');
    };
    expect(again(again(zip))).toEqual(again(zip));
  });

  it('has tables that a spreadsheet cannot be tricked with', () => {
    const tables = csvFiles(plan, records);
    expect(tables['patches.csv'].split('\n')).toHaveLength(13);
    expect(tables['patches.csv']).toContain('medium,cure_time');
    expect(tables['records.csv']).toContain("'=cmd()");
    expect(tables['readings.csv']).toContain('88.5');
  });

  it('says every kind of record in words a spreadsheet can hold', () => {
    const at = '2026-05-02T10:00:00.000Z';
    const more: TrialRecord[] = [
      { id: 's1', at, kind: 'step', patch: a.code, step: 'coat', round: 1, told: at, also: [b.code] },
      { id: 's2', at, kind: 'step', patch: b.code, step: 'rub', round: 2, skipped: true },
      { id: 's3', at, kind: 'spoilt', patch: b.code, why: 'It tore' },
      { id: 's4', at, kind: 'ready', patch: a.code, step: 'coat', round: 1, ready: false },
      { id: 's5', at, kind: 'coat', patch: a.code, grams: 1.4, source: 'scale' },
    ].map(r => r as TrialRecord);
    const said = csvFiles(plan, [...records, ...more])
      ['records.csv'].split('\n')
      .map(line => line.replace(/^[^,]*,[^,]*,/, ''));
    for (const words of [
      `${a.code},step,"coat round 1, told later, with ${b.code}"`,
      `${b.code},step,"rub round 2, skipped"`,
      `${b.code},spoilt,It tore`,
      `${a.code},ready,not ready for coat round 1`,
      `${a.code},coat,1.4 g (scale)`,
      `,air,19 °C 55 % (hand)`,
      `${b.code},verdict,fix`,
    ])
      expect(said).toContain(words);
  });

  it('keeps photos of every kind that a camera writes, each under its own ending', () => {
    const kinds = new Map([
      ['p1', Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 1])],
      ['p2', strToU8('RIFF0000WEBPVP8 ')],
    ]);
    const other = writeBundle({ plan, records, photos: kinds }, '2026-05-05T00:00:00.000Z');
    expect(Object.keys(unzipSync(other)).filter(n => n.startsWith('photos/'))).toEqual([
      'photos/p1.png',
      'photos/p2.webp',
    ]);
    const back = readBundle(other);
    expect(back.ok && back.value.photos).toEqual(kinds);
  });

  it('moves in time as a whole', () => {
    const moved = shiftTimes(plan, records, 3_600_000);
    expect(moved.records[0].at).toBe('2026-05-02T10:00:00.000Z');
    expect(moved.plan.createdAt).toBe('2026-05-02T09:00:00.000Z');
  });

  it('has the checksum every ZIP tool knows', () => {
    expect(crc32(strToU8('123456789'))).toBe('cbf43926');
  });
});

describe('a file that is not fit to be imported', () => {
  const cases: [string, Uint8Array, string][] = [
    ['is no ZIP', strToU8('hello'), 'broken'],
    ['is cut short', zip.subarray(0, zip.length - 40), 'broken'],
    ['holds no trial', zipSync({ 'patches.csv': strToU8('x') }), 'foreign'],
    ['holds something of another program', zipSync({ 'document.xml': strToU8('<x/>') }), 'foreign'],
    ['climbs out of its folder', zipSync({ '../../evil.jpg': jpeg(1) }), 'foreign'],
    ['has broken JSON', zipSync({ 'trial.json': strToU8('{') }), 'broken'],
    ['is from a newer version', tampered(t => ({ ...t, schema: 99 })), 'newer'],
    ['is of another format', tampered(t => ({ ...t, format: 'other' })), 'foreign'],
    [
      'has a plan with a missing field',
      tampered(t => ({ ...t, plan: { ...(t.plan as object), board: undefined } })),
      'bad-plan',
    ],
    [
      'has a patch whose code is wrong',
      tampered(t => ({
        ...t,
        plan: { ...plan, patches: plan.patches.map((p, i) => (i ? p : { ...p, code: 'K7-222' })) },
      })),
      'bad-plan',
    ],
    [
      'has a level that does not exist',
      tampered(t => ({
        ...t,
        plan: { ...plan, patches: plan.patches.map((p, i) => (i ? p : { ...p, levels: [7, 0] })) },
      })),
      'bad-plan',
    ],
    [
      'has a plan that names what it does not hold',
      tampered(t => ({ ...t, plan: { ...plan, used: { ...plan.used, mediums: [] } } })),
      'bad-plan',
    ],
    [
      'has two patches of one code',
      tampered(t => ({
        ...t,
        plan: { ...plan, patches: plan.patches.map((p, i) => (i === 1 ? { ...p, code: a.code } : p)) },
      })),
      'bad-plan',
    ],
    [
      'has a method that is not the one it names',
      tampered(t => ({ ...t, plan: { ...plan, method: 'film-pull' } })),
      'bad-plan',
    ],
    [
      'has a patch on a board there is not',
      tampered(t => ({
        ...t,
        plan: { ...plan, patches: plan.patches.map((p, i) => (i ? p : { ...p, board: 40 })) },
      })),
      'bad-plan',
    ],
    [
      'has a plan without a version',
      tampered(t => ({ ...t, plan: { ...plan, schema: 'two' } })),
      'no-version',
    ],
    ['has no records', tampered(t => ({ ...t, records: 'none' })), 'broken'],
    ['has no list of photos', tampered(t => ({ ...t, photos: 'none' })), 'broken'],
    ['names photos in no way', tampered(t => ({ ...t, photos: [null] })), 'missing-photo'],
    [
      'has a reading of a photo that was never taken',
      tampered(t => ({ ...t, records: records.filter(r => r.id !== 'ph1') })),
      'bad-record',
    ],
    [
      'has a record of a step made together with a stranger',
      tampered(t => ({ ...t, records: [{ ...records[1], also: ['ZZ-ZZZ'] }] })),
      'bad-record',
    ],
    [
      'holds more files than any trial',
      zipSync(Object.fromEntries(Array.from({ length: 5001 }, (_, i) => [`photos/p${i}.jpg`, jpeg(1)]))),
      'too-big',
    ],
    [
      'has a damaged record',
      tampered(t => ({ ...t, records: [{ ...records[0], at: 'yesterday' }] })),
      'bad-record',
    ],
    [
      'has a record of an unknown kind',
      tampered(t => ({ ...t, records: [{ ...records[0], kind: 'spell' }] })),
      'bad-record',
    ],
    [
      'has a record about a stranger',
      tampered(t => ({ ...t, records: [{ ...records[1], patch: 'ZZ-ZZZ' }] })),
      'bad-record',
    ],
    [
      'has an undo of nothing',
      tampered(t => ({ ...t, records: [{ ...records[2], of: 'nothing' }] })),
      'bad-record',
    ],
    ['has the same record twice', tampered(t => ({ ...t, records: [records[0], records[0]] })), 'bad-record'],
    [
      'lacks a photo',
      zipSync(Object.fromEntries(Object.entries(unzipSync(zip)).filter(([n]) => n !== 'photos/p1.jpg'))),
      'missing-photo',
    ],
    ['has a damaged photo', zipSync({ ...unzipSync(zip), 'photos/p1.jpg': jpeg(9) }), 'bad-photo'],
    [
      'has a photo that is no picture',
      zipSync({ ...unzipSync(zip), 'photos/p1.jpg': strToU8('<script>') }),
      'bad-photo',
    ],
  ];
  it.each(cases)('because it %s is refused with a sentence', (_, bytes, code) => {
    const result = readBundle(bytes);
    expect(!result.ok && result.problem.code).toBe(code);
    if (!result.ok) expect(result.problem.say).toMatch(/^[A-ZÄ“].{10,}\.$/s);
  });
});
