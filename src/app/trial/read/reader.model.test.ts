import { describe, expect, it } from 'vitest';
import { examplePlan } from '../../../core/design/example.ts';
import { bad, good } from '../../../core/outcome/index.ts';
import { write } from '../../../core/say/index.ts';
import { EXAMPLE_READING, readingFor } from '../../../core/trial/example.ts';
import type { TrialPlan, TrialRecord } from '../../../core/trial/index.ts';
import { StorageError } from '../../../store/index.ts';
import type { PatchAnswer, Seen } from '../../../workers/index.ts';
import type { Job } from './job.ts';
import {
  asksWhetherWet,
  FRESH,
  isPending,
  keptAs,
  keptUnread,
  leftOver,
  lookedAt,
  NO_PATCH,
  nextJob,
  notKept,
  readAs,
  takenAtMs,
  withNew,
  withoutPending,
  withStarted,
} from './reader.model.ts';

const plan: TrialPlan = { ...examplePlan(), wear: ['dry-rub', 'wash'] };
const [a, b] = plan.patches.map(p => p.code);
const none = { plan, records: [] };
const file = new Blob(['x'], { type: 'image/jpeg' });
const job = (part: Partial<Job> = {}): Job => ({
  ...{ ...FRESH, id: 'j1', name: 'p.jpg', file, taken: { stage: 'dry', roundOf: () => 3 } },
  ...{ takenAt: '2026-05-03T10:00:00.000Z', simulated: false },
  ...part,
});
const STATES: readonly Job['state'][] = [
  ...(['looking', 'asking', 'waiting', 'reading', 'done', 'refused', 'cancelled'] as const),
];
const read = (code: string, part = {}): PatchAnswer => ({
  code,
  answer: good({ reading: { ...EXAMPLE_READING, ...part }, straight: file }),
});
const unread = (code: string): PatchAnswer => ({ code, answer: bad('blurred', 'It is blurred.') as never });
const seen = (part: Partial<Seen> = {}) =>
  good({ holds: 'card', thumbnail: file, size: { w: 10, h: 8 }, ...part } as Seen);
const about = { jobs: [], trialled: none, selected: undefined };

describe('the queue', () => {
  it('is busy with what is looked at, waits or is read', () => {
    expect(STATES.filter(state => isPending(job({ state })))).toEqual(['looking', 'waiting', 'reading']);
  });

  it('looks at all photos before it reads the first, each in its turn; what is asked about waits for an answer', () => {
    const jobs = [
      job({ id: '1', state: 'asking' }),
      job({ id: '2', state: 'waiting' }),
      job({ id: '3', state: 'looking' }),
      job({ id: '4', state: 'waiting' }),
    ];
    expect(nextJob(jobs)?.id).toBe('3');
    expect(nextJob(jobs.filter(j => j.state !== 'looking'))?.id).toBe('2');
    expect(nextJob([job({ state: 'asking' }), job({ state: 'done' })])).toBeUndefined();
  });

  it('begins anew with what was refused, and goes on with all that is there while something is under way', () => {
    const old = [
      job({ id: '1', state: 'done' }),
      job({ id: '2', state: 'refused' }),
      job({ id: '3', state: 'asking' }),
    ];
    const made = [job({ id: '9' })];
    expect(withNew(old, made).map(j => j.id)).toEqual(['2', '9']);
    const busy = [...old, job({ id: '4', state: 'reading' })];
    expect(withNew(busy, made).map(j => j.id)).toEqual(['1', '2', '3', '4', '9']);
  });

  it('is cancelled in what is under way only', () => {
    const states = withoutPending(STATES.map(state => job({ state }))).map(j => j.state);
    expect(states).toEqual(['cancelled', 'asking', 'cancelled', 'cancelled', 'done', 'refused', 'cancelled']);
  });

  it('reads what was asked about once it is told to', () => {
    const jobs = [job({ id: '1', state: 'asking', problem: NO_PATCH }), job({ id: '2', state: 'asking' })];
    const [one, two] = withStarted(jobs, ['1']);
    expect(one).toMatchObject({ state: 'waiting', problem: undefined });
    expect(two.state).toBe('asking');
  });
});

describe('what an earlier visit left', () => {
  const left = (id: string, worn?: string) => ({
    ...{ id, name: `${id}.jpg`, file, takenAt: null, simulated: true, stage: 'dry' as const },
    ...(worn ? { worn } : {}),
  });
  it('is asked about again, as it was taken: but not what is here, nor what was read and kept', () => {
    const records = readingFor(a, 7, {});
    const found = leftOver([left('j1'), left('p7'), left('n', 'wash')], [job()], { plan, records });
    expect(found.map(j => j.id)).toEqual(['n']);
    expect(found[0]).toMatchObject({
      state: 'looking',
      simulated: true,
      taken: { stage: 'dry', worn: 'wash' },
    });
    expect(found[0].why).toContain('waiting');
  });
});

describe('a first look', () => {
  it('gives it to the patch its name says, without asking', () => {
    const found = lookedAt(job({ name: `${b}.jpg` }), seen(), about);
    expect(found).toMatchObject({ aim: { code: b }, state: 'waiting' });
  });

  it('gives one alone to the patch that is chosen; where it waited from before it is asked about', () => {
    const chosen = { ...about, selected: b };
    expect(lookedAt(job({ isAlone: true }), seen(), chosen)).toMatchObject({
      aim: { code: b },
      state: 'waiting',
    });
    expect(lookedAt(job({ isAlone: true, why: 'It was waiting.' }), seen(), chosen).state).toBe('asking');
    expect(lookedAt(job(), seen(), about).state).toBe('asking');
  });

  it('does not give two photos of one go to the same patch', () => {
    const first = lookedAt(job(), seen(), about).aim as { code: string };
    const jobs = [job({ id: 'other', aim: first })];
    expect(lookedAt(job(), seen(), { ...about, jobs }).aim).not.toEqual(first);
    // Its own aim of before does not stand in its way.
    expect(lookedAt(job(), seen(), { ...about, jobs: [job({ aim: first })] }).aim).toEqual(first);
  });

  it('asks where the records say that it was worn otherwise; a photo that is kept already is what it is', () => {
    const washed: TrialRecord = {
      ...{ id: 'w', at: '2026-05-03T09:00:00.000Z', kind: 'step', patch: b, step: 'wear-wash', round: 1 },
    };
    const trialled = { plan, records: [washed] };
    const named = job({ name: `${b}.jpg` });
    expect(lookedAt(named, seen(), { ...about, trialled })).toMatchObject({
      state: 'asking',
      wornBy: 'wash',
    });
    const again = lookedAt({ ...named, kept: 'p1', aim: { code: b } }, seen(), { ...about, trialled });
    expect(again).toMatchObject({ state: 'waiting', wornBy: undefined });
  });

  it('refuses what cannot be opened, and what is of another trial', () => {
    const broken = bad('broken', 'Not a picture.');
    expect(lookedAt(job(), broken as never, about)).toMatchObject({
      state: 'refused',
      problem: { code: 'broken' },
    });
    const other = lookedAt(job(), seen({ says: 'WET TEST OTHER X1' }), about);
    expect(other).toMatchObject({ state: 'refused', problem: { code: 'other-trial' } });
  });

  it('goes on with the picture as it can be shown, where that is another', () => {
    const jpeg = new Blob(['jpeg']);
    expect(lookedAt(job(), seen({ asJpeg: jpeg }), about).file).toBe(jpeg);
    expect(lookedAt(job(), seen(), about).file).toBe(file);
  });
});

describe('a photo that was read', () => {
  it('is done; of a board it says how many were read, and which not', () => {
    expect(readAs(job(), [read(a)], none)).toEqual({
      keep: true,
      done: { state: 'done', share: 1, word: '', unread: [] },
    });
    const board = readAs(job(), [read(a), unread(b)], none);
    expect(board).toMatchObject({
      keep: true,
      done: { word: '1 of 2 patches read and kept', unread: [{ code: b }] },
    });
  });

  it('is refused where nothing of it was read', () => {
    const came = readAs(job(), [unread(a), unread(b)], none);
    expect(came).toMatchObject({ keep: false, change: { state: 'refused', problem: { code: 'blurred' } } });
    expect(readAs(job(), [], none)).toMatchObject({ keep: false, change: { problem: NO_PATCH } });
  });

  it('is asked about where it looks damp beside the others, once', () => {
    const others = plan.patches.slice(1, 6).flatMap((p, i) => readingFor(p.code, i, { darker: 0 } as never));
    const trialled = { plan, records: others };
    const damp = [read(a, { darker: 30 })];
    expect(asksWhetherWet(job(), damp, trialled)).toBe(true);
    expect(readAs(job(), damp, trialled)).toMatchObject({
      keep: false,
      change: { state: 'asking', isWet: 'by look' },
    });
    expect(asksWhetherWet(job({ isSurelyDry: true }), damp, trialled)).toBe(false);
    expect(asksWhetherWet(job({ taken: { stage: 'wet', roundOf: () => 1 } }), damp, trialled)).toBe(false);
    expect(asksWhetherWet(job(), [...damp, read(b)], trialled)).toBe(false);
    expect(asksWhetherWet(job(), [read(a, { darker: 0 })], trialled)).toBe(false);
  });
});

describe('what is kept of a photo', () => {
  const washed = job({ taken: { stage: 'dry', worn: 'wash', roundOf: code => (code === a ? 2 : 5) } });
  it('is how it was worn, after which round, and where its straightened picture is', () => {
    const { drafts, files } = keptAs(washed, [read(a)], none);
    expect(drafts).toMatchObject([
      { kind: 'photo', patch: a, photo: 'j1', stage: 'dry', worn: 'wash', round: 2, simulated: false },
      { kind: 'reading', patch: a, photo: 'j1', straight: 'j1s' },
    ]);
    expect([...files.keys()]).toEqual(['j1', 'j1s']);
  });

  it('of a board is each patch after its own round, with a picture each; what was not read is left out', () => {
    const { drafts, files } = keptAs(washed, [read(a), unread('ZZ'), read(b)], none);
    expect(drafts.map(d => [d.kind, d.patch])).toEqual([
      ['photo', a],
      ['reading', a],
      ['photo', b],
      ['reading', b],
    ]);
    expect(drafts.flatMap(d => (d.kind === 'photo' ? [d.round] : []))).toEqual([2, 5]);
    expect([...files.keys()]).toEqual(['j1', 'j1s0', 'j1s2']);
  });

  it('read anew is a reading only, with a picture of its own beside the earlier one', () => {
    const again = keptAs(job({ kept: 'old' }), [read(a)], none);
    expect(again.drafts.map(d => d.kind)).toEqual(['reading']);
    const [straight] = again.files.keys();
    expect(straight).toMatch(/^olds.{4,}/);
    expect([...keptAs(job({ kept: 'old' }), [read(a)], none).files.keys()][0]).not.toBe(straight);
  });

  it('unread is the photo alone', () => {
    const { drafts, files } = keptUnread(washed, b, none);
    expect(drafts).toMatchObject([{ kind: 'photo', patch: b, worn: 'wash', round: 5 }]);
    expect([...files.keys()]).toEqual(['j1']);
  });

  it('was taken when it says so, else now', () => {
    expect(takenAtMs({ takenAt: '2026-05-03T10:00:00.000Z' })).toBe(Date.parse('2026-05-03T10:00:00.000Z'));
    expect(takenAtMs({ takenAt: null })).toBeGreaterThan(Date.parse('2026-06-01T00:00:00Z'));
  });

  it('says that it was not kept, and why', () => {
    expect(notKept(new StorageError({ code: 'full', say: 'There is no room.' }))).toMatchObject({
      code: 'full',
      say: 'This photo was not kept. There is no room.',
    });
    expect(write(notKept(new Error('it broke')).say)).toBe('This photo was not kept: it broke.');
    expect(write(notKept('?').say)).toContain('something failed');
  });
});
