import { strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { ProblemError } from '../outcome/index.ts';
import { write } from '../say/index.ts';
import { readingFor } from '../trial/example.ts';
import type { TrialRecord } from '../trial/index.ts';
import { crc32 } from './archive.ts';
import { jpegOf } from './example.ts';
import { csvFiles, imageHead, lostWords, parsePlan, readBundle, shiftTimes, writeBundle } from './index.ts';

const plan = examplePlan();
const [a, b] = plan.patches;
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
const be32 = (n: number) => [n >>> 24, (n >> 16) & 255, (n >> 8) & 255, n & 255];
const png = (w: number, h: number) =>
  Uint8Array.from([
    0x89,
    ...strToU8('PNG\r\n\x1a\n'),
    0,
    0,
    0,
    13,
    ...strToU8('IHDR'),
    ...be32(w),
    ...be32(h),
    8,
  ]);
const webp = (w: number, h: number) =>
  Uint8Array.from([
    ...strToU8('RIFF0000WEBPVP8 0000'),
    0,
    0,
    0,
    0x9d,
    1,
    0x2a,
    w & 255,
    w >> 8,
    h & 255,
    h >> 8,
  ]);
const photos = new Map([
  ['p1', jpegOf(1)],
  ['p2', jpegOf(2)],
]);
const zip = writeBundle({ plan, records, photos }, '2026-05-05T00:00:00.000Z');

/** The archive with its trial.json changed. */
const tampered = (change: (trial: Record<string, never>) => unknown) => {
  const files = unzipSync(zip);
  const trial = JSON.parse(new TextDecoder().decode(files['trial.json']));
  return zipSync({ ...files, 'trial.json': strToU8(JSON.stringify(change(trial) ?? trial)) });
};

/** The archive with one bit of a file's bytes turned round, its checksum left as it was. */
function flipped(name: string): Uint8Array {
  const files = unzipSync(zip);
  const stored = zipSync(files, { level: 0 });
  const needle = files[name].subarray(0, 40);
  const at = stored.findIndex((_, i) => needle.every((byte, k) => stored[i + k] === byte));
  const copy = stored.slice();
  copy[at + 20] ^= 1;
  return copy;
}

/** An archive with two files of one name, as no program of ours writes it. */
function twice(): Uint8Array {
  const two = zipSync({ 'trial.json': strToU8('{}'), 'trial.jsoN': strToU8('{}') }, { level: 0 });
  const wrong = strToU8('trial.jsoN');
  const copy = two.slice();
  for (let i = 0; i + wrong.length <= copy.length; i++)
    if (wrong.every((byte, k) => two[i + k] === byte)) copy[i + 9] = 'n'.charCodeAt(0);
  return copy;
}

const MAP = { w: 3, h: 2, pxPerMm: 1, data: 'AAECAwQF' };
const withReading = (t: Record<string, never>, part: object) => ({
  ...t,
  records: records.map(r => (r.kind === 'reading' ? { ...r, reading: { ...r.reading, ...part } } : r)),
});

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
      if (!back.ok) throw new ProblemError(back.problem);
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
      ['p1', png(40, 30)],
      ['p2', webp(40, 30)],
    ]);
    const other = writeBundle({ plan, records, photos: kinds }, '2026-05-05T00:00:00.000Z');
    expect(Object.keys(unzipSync(other)).filter(n => n.startsWith('photos/'))).toEqual([
      'photos/p1.png',
      'photos/p2.webp',
    ]);
    const back = readBundle(other);
    expect(back.ok && back.value.photos).toEqual(kinds);
  });

  it('keeps maps as large as they say', () => {
    const mapped = records.map(r =>
      r.kind === 'reading' ? { ...r, reading: { ...r.reading, maps: { state: MAP, veil: MAP } } } : r,
    );
    const back = readBundle(writeBundle({ plan, records: mapped, photos }, '2026-05-05T00:00:00.000Z'));
    expect(back.ok && back.value.records).toEqual(mapped);
  });

  it('says which photo is missing, and comes in without it', () => {
    const less = new Map([...photos].slice(1));
    const back = readBundle(writeBundle({ plan, records, photos: less }, '2026-05-05T00:00:00.000Z'));
    expect(back.ok && back.value.missing).toEqual(['p1']);
    expect(back.ok && [...back.value.photos.keys()]).toEqual(['p2']);
    // And says so again when it goes out once more.
    if (!back.ok) throw new ProblemError(back.problem);
    const again = readBundle(writeBundle(back.value, '2026-05-06T00:00:00.000Z'));
    expect(again.ok && again.value.missing).toEqual(['p1']);
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

describe('the head of an image', () => {
  it('tells its kind and its size', () => {
    expect(imageHead(jpegOf(1, 4032, 3024))).toEqual({ kind: 'jpg', w: 4032, h: 3024 });
    expect(imageHead(png(70_000, 2))).toEqual({ kind: 'png', w: 70_000, h: 2 });
    expect(imageHead(webp(641, 480))).toEqual({ kind: 'webp', w: 641, h: 480 });
    // VP8L packs both sides less one into 28 bits; VP8X keeps them in three bytes each.
    const lossless = Uint8Array.from([
      ...strToU8('RIFF0000WEBPVP8L0000'),
      0x2f,
      0xff,
      0xc3,
      0x95,
      0,
      0,
      0,
      0,
      0,
      0,
    ]);
    expect(imageHead(lossless)).toEqual({ kind: 'webp', w: 1024, h: 600 });
    const extended = Uint8Array.from([
      ...strToU8('RIFF0000WEBPVP8X0000'),
      0,
      0,
      0,
      0,
      0xff,
      3,
      0,
      0x57,
      2,
      0,
    ]);
    expect(imageHead(extended)).toEqual({ kind: 'webp', w: 1024, h: 600 });
  });

  it('is found behind fill bytes and tables, and not in what only begins like one', () => {
    const behind = Uint8Array.from([
      0xff,
      0xd8,
      0xff,
      0xff,
      0xc4,
      0,
      4,
      1,
      2,
      ...jpegOf(1, 8, 9).subarray(7),
    ]);
    expect(imageHead(behind)).toEqual({ kind: 'jpg', w: 8, h: 9 });
    for (const bytes of [
      Uint8Array.from([0xff, 0xd8, ...strToU8('<html><script>alert(1)</script></html>')]),
      Uint8Array.from([0xff, 0xd8, 0xff, 0xda, 0, 8, ...new Array(30).fill(0)]),
      jpegOf(1).subarray(0, 12),
      jpegOf(1, 0, 30),
      png(0, 5),
      strToU8('RIFF0000WEBPVP8? and then thirty more bytes'),
      new Uint8Array(0),
    ])
      expect(imageHead(bytes)).toBeUndefined();
  });
});

describe('a file that is not fit to be imported', () => {
  const cases: [string, Uint8Array, string][] = [
    ['is no ZIP', strToU8('hello'), 'broken'],
    ['is cut short in its trial', zip.subarray(0, 400), 'broken'],
    ['holds no trial', zipSync({ 'patches.csv': strToU8('x') }), 'foreign'],
    ['holds something of another program', zipSync({ 'document.xml': strToU8('<x/>') }), 'foreign'],
    ['climbs out of its folder', zipSync({ '../../evil.jpg': jpegOf(1) }), 'foreign'],
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
      zipSync(Object.fromEntries(Array.from({ length: 5001 }, (_, i) => [`photos/p${i}.jpg`, jpegOf(1)]))),
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
      'has a photo that says it is 60 000 pixels wide',
      writeBundle(
        { plan, records, photos: new Map([...photos, ['p1', jpegOf(1, 60_000, 60_000)]]) },
        '2026-05-05T00:00:00.000Z',
      ),
      'bad-photo',
    ],
    ['has a flipped bit in its trial', flipped('trial.json'), 'broken'],
    ['holds one name twice', twice(), 'broken'],
    [
      'has an undo of an undo',
      tampered(t => ({ ...t, records: [...records, { ...records[2], id: 'r3b', of: 'r3' }] })),
      'bad-record',
    ],
    [
      'has a record of a step there is not',
      tampered(t => ({ ...t, records: [{ ...records[1], step: 'bake' }] })),
      'bad-record',
    ],
    [
      'has a record of the year 9999',
      tampered(t => ({ ...t, records: [{ ...records[0], at: '9999-01-01T00:00:00Z' }] })),
      'bad-record',
    ],
    [
      'has a day that is in no calendar',
      tampered(t => ({ ...t, plan: { ...plan, createdAt: '2026-13-40T00:00:00Z' } })),
      'bad-plan',
    ],
    ['has more landed than there is', tampered(t => withReading(t, { landed: 100.5 })), 'bad-record'],
    ['has a veil beyond white', tampered(t => withReading(t, { veil: 1e9 })), 'bad-record'],
    [
      'has a map with nothing behind it',
      tampered(t => withReading(t, { maps: { state: MAP, veil: { ...MAP, w: 900 } } })),
      'bad-record',
    ],
    [
      'has boards of no size',
      tampered(t => ({ ...t, plan: { ...plan, board: { ...plan.board, w: 0 } } })),
      'bad-plan',
    ],
    [
      'has all patches in one place',
      tampered(t => ({ ...t, plan: { ...plan, patches: plan.patches.map(p => ({ ...p, x: 12, y: 12 })) } })),
      'bad-plan',
    ],
    [
      'has a patch beside its board',
      tampered(t => ({
        ...t,
        plan: {
          ...plan,
          patches: plan.patches.map((p, i) => (i ? p : { ...p, x: plan.board.w - plan.patchMm + 1 })),
        },
      })),
      'bad-plan',
    ],
    [
      'does two patches at once',
      tampered(t => ({ ...t, plan: { ...plan, patches: plan.patches.map(p => ({ ...p, order: 0 })) } })),
      'bad-plan',
    ],
    [
      'has far more records than work can leave',
      tampered(t => ({ ...t, records: Array.from({ length: 40_001 }, () => 0) })),
      'too-big',
    ],
    [
      'has a name of megabytes',
      tampered(t => ({ ...t, plan: { ...plan, code: 'K'.repeat(1e6) } })),
      'bad-plan',
    ],
  ];
  it.each(cases)('because it %s is refused with a sentence', (_, bytes, code) => {
    const result = readBundle(bytes);
    expect(!result.ok && result.problem.code).toBe(code);
    if (!result.ok) expect(write(result.problem.say)).toMatch(/^[A-ZÄ“].{10,}\.$/s);
  });
});

describe('the levels of a plan', () => {
  const withLevel = (key: 'medium' | 'dryHours', level: unknown) => ({
    ...plan,
    factors: plan.factors.map(f => (f.key === key ? { ...f, levels: [f.levels[0], level] } : f)),
  });
  it('are numbers where a number is varied, and names elsewhere', () => {
    expect(parsePlan(withLevel('dryHours', 'mark'))).toMatchObject({
      ok: false,
      problem: { say: 'A level of the plan is not what that factor has.' },
    });
    expect(parsePlan(withLevel('medium', 3)).ok).toBe(false);
  });
});

describe('an archive that is damaged in one place', () => {
  const files = unzipSync(zip);
  const page = Uint8Array.from([0xff, 0xd8, ...strToU8('<html>')]);
  const cases: [string, Uint8Array, readonly string[]][] = [
    [
      'lost a photo',
      zipSync(Object.fromEntries(Object.entries(files).filter(([n]) => n !== 'photos/p1.jpg'))),
      ['p1'],
    ],
    ['has a photo that is another', zipSync({ ...files, 'photos/p1.jpg': jpegOf(9) }), ['p1']],
    ['has a photo that is no picture', zipSync({ ...files, 'photos/p1.jpg': strToU8('<script>') }), ['p1']],
    [
      'has a photo that is a page behind the first bytes of one',
      writeBundle({ plan, records, photos: new Map([...photos, ['p1', page]]) }, '2026-05-05T00:00:00.000Z'),
      ['p1'],
    ],
    ['has a flipped bit in a photo', flipped('photos/p1.jpg'), ['p1']],
    ['has a flipped bit in a table, which is made anew', flipped('records.csv'), []],
    ['lost its directory', zip.subarray(0, zip.length - 40), []],
    ['is cut off in its last photo', zip.subarray(0, zip.indexOf(0x50, zip.lastIndexOf(0xd9) - 20) - 3), []],
  ];
  it.each(cases)('because it %s gives all that is whole, and names what is not', (_, bytes, lost) => {
    const result = readBundle(bytes);
    if (!result.ok) throw new ProblemError(result.problem);
    expect(result.value.plan).toEqual(plan);
    expect(result.value.records).toEqual(records);
    if (lost.length) expect(result.value.lost).toEqual(lost);
    for (const [id, photo] of result.value.photos) expect(photo).toEqual(photos.get(id));
    const gone = [...photos.keys()].filter(id => !result.value.photos.has(id));
    expect(result.value.lost ?? []).toEqual(gone);
    expect(result.value.missing ?? []).toEqual(gone);
  });

  it('says which photos were left out, the first few by name', () => {
    const many = ['a', 'b', 'c', 'd', 'e', 'f', 'g'];
    expect(lostWords('Tern', many)).toBe(
      '“Tern”: 7 photos are damaged in this file and were left out (a, b, c, d, e, f …).',
    );
    expect(lostWords('Tern', many.slice(0, 6))).toContain('(a, b, c, d, e, f)');
    expect(lostWords('Tern', ['a'])).toContain('1 photo is damaged in this file and was left out');
  });
});
