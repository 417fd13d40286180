import { describe, expect, it } from 'vitest';
import { jpegOf } from '../core/bundle/example.ts';
import { examplePlan } from '../core/design/example.ts';
import { mergeTrials, splitTrial } from '../core/design/index.ts';
import { copyMethod, METHODS } from '../core/methods/index.ts';
import { ProblemError } from '../core/outcome/index.ts';
import { copyOf, STARTER_SHELF } from '../core/shelf/index.ts';
import { readingFor } from '../core/trial/example.ts';
import type { TrialRecord } from '../core/trial/index.ts';
import * as backups from './backup.ts';
import { EXAMPLE_PICTURE, emptyData, keysIn, memoryStores } from './example.ts';
import * as keepSafe from './keep-safe.ts';
import { StorageError } from './storage-error.ts';
import * as training from './training.ts';
import { openWorkshop, type Workshop } from './workshop.ts';

const { backUp, lookThrough, takeIn } = backups;
const { cleanUp, keepBackupFolder, noteBackup, spareIn } = keepSafe;
type Data = ReturnType<typeof emptyData>;
const plan = examplePlan();
const other = { ...examplePlan({}, 2), name: 'Other' };
const [a, b, c] = plan.patches;
const MAP = { w: 3, h: 2, pxPerMm: 1, data: 'AAECAwQF' };
const blob = (n: number) => new Blob([jpegOf(n)], { type: 'image/jpeg' });
const AT = '2026-05-05T00:00:00.000Z';
const mark = (id: string, patch: string, minute = 1): TrialRecord => ({
  ...{ id, at: `2026-05-02T09:${String(minute).padStart(2, '0')}:00.000Z` },
  ...{ kind: 'step', patch, step: 'mark', round: 1 },
});
const read = (patch: string, n: number, landed = 80): TrialRecord[] =>
  readingFor(patch, n, { landed, maps: { state: MAP, veil: MAP } }) as TrialRecord[];
const archive = (id: string, patch: null, why: string): TrialRecord => ({
  ...{ id, at: AT, kind: 'change', patch, why },
  change: { what: 'archive', archived: true },
});
const madeEvent = (id: string) => ({
  ...{ id, recipe: 'R1', at: AT, kind: 'made' as const, of: 3, good: 2, size: { w: 200, h: 150 }, note: '' },
});
const waiting = {
  ...{ id: 'W2', trial: plan.id, name: 'late.jpg', file: blob(6), takenAt: null, simulated: false },
  ...{ stage: 'dry' as const, addedAt: AT },
};
const straightened = (records: TrialRecord[], straight: string) =>
  records.map(r => (r.kind === 'reading' ? { ...r, straight } : r));
const bundle = {
  plan,
  records: [mark('m1', a.code), ...straightened(read(a.code, 1), 'p1s'), ...read(b.code, 2)],
  photos: new Map(['p1', 'p2', 'p1s'].map((id, n) => [id, jpegOf(n + 1)])),
};
const asked = { createdAt: AT, random: () => 0.37 };

/** A workshop with something of everything; one trial lost a photo and a map. */
async function furnished(): Promise<Data> {
  const data = emptyData();
  const w = over(data);
  await w.importTrial(bundle);
  await w.importTrial({
    plan: other,
    records: [mark('o1', other.patches[0].code), ...read(other.patches[0].code, 1)],
    photos: new Map([['p1', jpegOf(3)]]),
  });
  await w.addMethod(copyMethod(METHODS[0], []));
  await w.addPicture({ ...EXAMPLE_PICTURE, id: 'PIC0' }, blob(3), blob(4));
  await w.keepWaiting({ ...waiting, id: 'W1' });
  return data;
}
const over = (data: Data, refuses?: (write: number, isStoring: boolean) => boolean): Workshop =>
  openWorkshop('mine', {
    stores: async () => memoryStores(data, undefined, full, refuses).stores,
  });
const full = () =>
  new StorageError({ code: 'storage-full', say: 'There is no room left in this browser’s storage.' });
const copyOfData = (data: Data): Data => {
  const copy = emptyData();
  for (const name of Object.keys(data) as (keyof Data)[])
    for (const [key, value] of data[name]) copy[name].set(key, value);
  return copy;
};

interface Write {
  readonly act: (w: Workshop, data: Data) => Promise<unknown>;
  /** What is there before beside what everything has. */
  readonly first?: (data: Data) => Promise<void>;
  /** Many things, each whole by itself: what is in stays in, and the same again brings the rest. */
  readonly isInParts?: boolean;
}

const mine = STARTER_SHELF.tools.map((t, i) => ({ ...t, name: `${t.name} ${i}` }));
const backupOf = async () => {
  const chunks: Uint8Array[] = [];
  const to = new WritableStream<Uint8Array>({ write: chunk => void chunks.push(chunk.slice()) });
  await backUp(over(await furnished()), to, AT);
  const looked = await lookThrough(new Blob(chunks as BlobPart[]));
  if (!looked.ok) throw new ProblemError(looked.problem);
  return looked.value;
};
const backup = backupOf();

/** Every function of the store that writes. One that is missing here fails the last test of this file. */
const WRITES: Record<string, Write> = {
  append: { act: w => w.append(plan.id, read(c.code, 3), new Map([['p3', blob(3)]])) },
  'append: a photo read anew, its picture under the name of the first': {
    act: async w => {
      const [, reading] = straightened(read(a.code, 1, 70), 'p1s');
      await w.append(plan.id, [{ ...reading, id: 'again' }], new Map([['p1s', blob(9)]]));
    },
  },
  keepWorkedOut: { act: w => w.keepWorkedOut(plan.id, 'of', { measured: 2 }) },
  savePlan: { act: w => w.savePlan(examplePlan({}, 9)) },
  changePlan: { act: w => w.changePlan(plan.id, p => ({ ok: true, value: { ...p, name: 'Anew' } })) },
  remove: { act: w => w.remove(plan.id, AT) },
  restore: { act: w => w.restore(plan.id), first: async data => over(data).remove(plan.id, AT) },
  erase: { act: w => w.erase(plan.id) },
  importTrial: {
    act: async w => {
      const came = await w.importTrial({ ...bundle, plan: { ...plan, id: 'TRIAL9' } });
      if (!came.ok && came.problem.code === 'storage') throw full();
    },
  },
  'takeInTrial: one that is here and went on': {
    act: w =>
      w.takeInTrial({
        ...bundle,
        records: [...bundle.records, ...read(c.code, 3)],
        photos: new Map([...bundle.photos, ['p3', jpegOf(3)]]),
      }),
  },
  'takeInTrial: one that lost photos and maps': {
    act: w => w.takeInTrial(bundle),
    first: async data => {
      data.photos.delete(`${plan.id}/p1`);
      data.maps.delete(`${plan.id}/rd2`);
    },
    // Each that comes back is one more that is there.
    isInParts: true,
  },
  takeInTrial: { act: w => w.takeInTrial({ ...bundle, plan: { ...plan, id: 'TRIAL9' } }) },
  'keepMade: two put together': {
    act: async w => {
      const [x, y] = [await w.whole(plan.id), await w.whole(other.id)];
      const made = x.ok && y.ok && mergeTrials(x.value, y.value, asked);
      if (made === false || !made.ok) throw new Error('They do not go together.');
      const photos = new Map([...bundle.photos]);
      await w.keepMade(
        { ...made.value, photos },
        new Map([plan, other].map((p, i) => [p.id, [archive(`ar${i}`, null, 'on')]])),
      );
    },
  },
  keepMade: {
    act: async w => {
      const from = await w.whole(plan.id);
      const made = from.ok ? splitTrial(from.value, [a.code, b.code], asked) : from;
      if (!made.ok) throw new ProblemError(made.problem);
      const split: TrialRecord = {
        ...{ id: 'sp1', at: AT, kind: 'change', patch: null },
        change: { what: 'split', patches: [a.code, b.code], into: made.value.plan.id },
      };
      const photos = from.ok ? from.value.photos : new Map();
      await w.keepMade({ ...made.value, photos }, new Map([[plan.id, [split]]]));
    },
  },
  keepWaiting: { act: w => w.keepWaiting(waiting) },
  dropWaiting: { act: w => w.dropWaiting(plan.id, 'W1') },
  addRecipeEvents: { act: w => w.addRecipeEvents(['e1', 'e2', 'e3'].map(madeEvent)) },
  saveItems: { act: w => w.saveItems('tools', mine) },
  'saveItems: a table of many': {
    act: w =>
      w.saveItems('tools', [
        ...mine,
        copyOf(
          mine[0],
          mine.map(t => t.id),
        ),
      ]),
    first: async data => over(data).saveItems('tools', [STARTER_SHELF.tools[0]]),
  },
  removeItem: { act: w => w.removeItem('tools', STARTER_SHELF.tools[0].id) },
  addMethod: { act: w => w.addMethod({ ...copyMethod(METHODS[1], []), id: 'own-9' }) },
  saveMethod: {
    act: async w => {
      const [first] = await w.methods();
      await w.saveMethod({ ...first, name: 'Mine' }, first);
    },
  },
  removeMethod: { act: async w => w.removeMethod(copyMethod(METHODS[0], []).id) },
  addPicture: { act: w => w.addPicture(EXAMPLE_PICTURE, blob(3), blob(4)) },
  savePicture: { act: w => w.savePicture({ ...EXAMPLE_PICTURE, id: 'PIC0', name: 'Tern' }) },
  removePicture: { act: w => w.removePicture('PIC0') },
  wipe: { act: w => w.wipe(), isInParts: true },
  'backup: takeIn': {
    act: async w => takeIn(w, await backup),
    first: async data => over(data).erase(plan.id),
    isInParts: true,
  },
  'keep-safe: cleanUp': {
    act: async w => cleanUp(w, await spareIn(w)),
    first: async data => {
      await over(data).remove(plan.id, AT);
      await over(data).removePicture('PIC0');
    },
    isInParts: true,
  },
  'keep-safe: noteBackup': { act: w => noteBackup(w, { at: AT, bytes: 9, trials: 2 }) },
  'keep-safe: keepBackupFolder': { act: w => keepBackupFolder(w, { name: 'x' } as never) },
  'training: keepLearning': { act: w => training.keepLearning(w, { seen: 3 } as never) },
};

/** All that is stored, but for caches; a fold says nothing that the log does not. */
const asText = (value: unknown) =>
  JSON.stringify(value, (key, x) =>
    // The work an entry belongs to is named at random.
    key === 'work' ? 0 : x instanceof ArrayBuffer ? String(new Uint8Array(x)) : x,
  );
const stored = (data: Data) =>
  keysIn(data)
    .filter(key => !/^(summaries|folds):/.test(key))
    .map(key => {
      const [store, ...rest] = key.split(':');
      const value = data[store as keyof Data].get(rest.join(':'));
      return [key, value instanceof Blob ? value.size : asText(value)];
    });

/** Does it with the storage refusing as told, then once more with room again; says what went wrong with that. */
async function faulty(
  { act, isInParts }: Write,
  from: Data,
  refuses: (write: number, isStoring: boolean) => boolean,
) {
  const before = stored(from);
  const whole = copyOfData(from);
  await act(over(whole), whole);
  await over(whole).overview();
  const after = stored(whole);
  const data = copyOfData(from);
  let isRoom = false;
  const w = over(data, (n, isStoring) => !isRoom && refuses(n, isStoring));
  const said = await act(w, data).then(
    () => 'kept',
    error => {
      if (!(error instanceof StorageError)) throw error;
      return 'refused';
    },
  );
  if (said === 'refused' && !isInParts) {
    // Whether the page is opened anew now or goes on: nothing of it is there.
    const reopened = copyOfData(data);
    await over(reopened).overview();
    expect(stored(reopened), 'opened anew after it was refused').toEqual(before);
  }
  isRoom = true;
  const again = copyOfData(data);
  if (said === 'refused') await act(w, data);
  await over(data).overview();
  expect(stored(data), `${said}, done again, opened anew`).toEqual(after);
  if (said === 'refused') {
    // And where it was opened anew in between.
    await over(again).overview();
    await act(over(again), again);
    await over(again).overview();
    expect(stored(again), 'opened anew, then done again').toEqual(after);
  }
  return said;
}

const writesOf = async ({ act }: Write, from: Data): Promise<number> => {
  const data = copyOfData(from);
  const { stores, seen } = memoryStores(data);
  const w = openWorkshop('mine', { stores: async () => stores });
  await act(w, data);
  return seen.writes;
};

describe('whatever writes', () => {
  it.each(Object.entries(WRITES))(
    '%s: refused at any write it leaves all as it was, and done again is done once',
    async (_, write) => {
      const from = await furnished();
      await write.first?.(from);
      await over(from).overview();
      const writes = await writesOf(write, from);
      expect(writes).toBeGreaterThan(0);
      // Of a long row of the same, the first, the last and one in forty.
      const moments = Array.from({ length: writes }, (_, i) => i + 1).filter(
        k => k < 9 || k > writes - 5 || k % 40 === 0,
      );
      for (const k of moments) {
        // One write that fails; a storage that is full from then on; one that does not answer from then on.
        await faulty(write, from, n => n === k);
        await faulty(write, from, (n, isStoring) => isStoring && n >= k);
        await faulty(write, from, n => n >= k);
      }
    },
  );

  it('stands in this table', () => {
    const READS = [
      ...[
        'opened',
        'overview',
        'recheck',
        'plan',
        'records',
        'maps',
        'photo',
        'waitingPhotos',
        'workedOut',
        'exportTrial',
      ],
      ...['whole', 'asStored', 'recipeEvents', 'shelf', 'methods', 'pictures', 'pictureFile', 'name'],
    ];
    const known = new Set(Object.keys(WRITES).map(name => name.split(':')[0]));
    expect(Object.keys(over(emptyData())).filter(name => !known.has(name) && !READS.includes(name))).toEqual(
      [],
    );
    // Those beside it that write: every function of these files that is given away, but for those that only look.
    const beside = { 'keep-safe': keepSafe, training, backup: backups };
    const LOOKS = [
      'lastBackup',
      'backupFolder',
      'isBackupDue',
      'OLD_DAYS',
      'spareIn',
      'learningIn',
      'backUp',
      'lookThrough',
    ];
    for (const [file, given] of Object.entries(beside))
      for (const name of Object.keys(given).filter(n => !LOOKS.includes(n)))
        expect(WRITES).toHaveProperty([`${file}: ${name}`]);
  });
});
