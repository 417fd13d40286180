import 'fake-indexeddb/auto';
import localforage from 'localforage';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Picture } from '../core/artwork/index.ts';
import { examplePlan } from '../core/design/example.ts';
import { copyMethod, METHODS } from '../core/methods/index.ts';
import { copyOf, STARTER_SHELF } from '../core/shelf/index.ts';
import { readingFor } from '../core/trial/example.ts';
import { openWorkshop } from './workshop.ts';

// The storage library asks which browser it is in before it keeps files; Node 20 has no word for that.
Object.defineProperty(globalThis, 'navigator', { value: { userAgent: 'Chrome/120' }, configurable: true });

const mine = openWorkshop('mine');
const demo = openWorkshop('demo');
const jpeg = new Blob([Uint8Array.from([0xff, 0xd8, 0xff, 0xe0, 1, 2, 3])], { type: 'image/jpeg' });
const raw = (storeName: string) => localforage.createInstance({ name: 'wet-test-mine', storeName });

beforeEach(async () => {
  await mine.wipe();
  await demo.wipe();
});

describe('the stored shelf', () => {
  it('is the starter shelf until something is changed, and all of it afterwards', async () => {
    expect((await mine.shelf()).shelf).toBe(STARTER_SHELF);
    const gel = { ...STARTER_SHELF.mediums[1], onHandMl: 5 };
    await mine.saveItems('mediums', [gel]);
    const { shelf } = await mine.shelf();
    expect(shelf.mediums.find(m => m.id === gel.id)!.onHandMl).toBe(5);
    expect(shelf.mediums.map(m => m.id)).toEqual(STARTER_SHELF.mediums.map(m => m.id));
    expect(shelf.donors).toEqual(STARTER_SHELF.donors);
  });

  it('puts new items last, takes items away, and lets that be undone', async () => {
    const copy = copyOf(
      STARTER_SHELF.tools[0],
      STARTER_SHELF.tools.map(t => t.id),
    );
    await mine.saveItems('tools', [copy]);
    expect((await mine.shelf()).shelf.tools.at(-1)).toEqual(copy);
    await mine.removeItem('tools', copy.id);
    expect((await mine.shelf()).shelf.tools).toEqual(STARTER_SHELF.tools);
    await mine.saveItems('tools', [copy]);
    expect((await mine.shelf()).shelf.tools.at(-1)).toEqual(copy);
  });

  it('counts what it cannot read and leaves it where it is', async () => {
    await mine.saveItems('tools', [STARTER_SHELF.tools[0]]);
    await raw('shelf').setItem('mediums/odd', { kind: 'mediums', item: { id: 'odd', name: 'Odd' } });
    expect((await mine.shelf()).damaged).toBe(1);
    expect(await raw('shelf').getItem('mediums/odd')).toBeTruthy();
  });

  it('of the demo is another', async () => {
    await demo.removeItem('tools', STARTER_SHELF.tools[0].id);
    expect((await demo.shelf()).shelf.tools).toHaveLength(STARTER_SHELF.tools.length - 1);
    expect((await mine.shelf()).shelf.tools).toHaveLength(STARTER_SHELF.tools.length);
  });
});

describe('stored methods and pictures', () => {
  it('methods come back as they were kept; broken ones stay stored and unseen', async () => {
    const own = copyMethod(METHODS[7], []);
    await mine.saveMethod(own);
    await raw('methods').setItem('broken', { id: 'broken' });
    expect(await mine.methods()).toEqual([own]);
    await mine.removeMethod(own.id);
    expect(await mine.methods()).toEqual([]);
    expect(await raw('methods').getItem('broken')).toBeTruthy();
  });

  it('a picture keeps its original beside its pixels, also when it is taken away', async () => {
    const picture: Picture = {
      id: 'PIC1',
      name: 'Curlew',
      addedAt: '2026-05-02T08:00:00.000Z',
      edits: [{ kind: 'grey' }],
      piece: { w: 100, h: 80 },
      fit: 'fit',
      marginMm: 5,
      centreMarks: true,
      hasText: null,
      method: 'wet-rub',
      printer: 'office-laser',
      donor: 'copy-80',
      grounds: ['slate'],
    };
    await mine.addPicture(picture, new Blob(['<svg/>']), jpeg);
    await mine.savePicture({ ...picture, edits: [] });
    expect(await mine.pictures()).toEqual([{ ...picture, edits: [] }]);
    await mine.removePicture(picture.id);
    expect(await mine.pictures()).toEqual([]);
    expect(await mine.pictureFile(picture.id, 'original')).toBeTruthy();
    expect(await mine.pictureFile(picture.id, 'pixels')).toBeTruthy();
  });
});

describe('stored trials', () => {
  const plan = examplePlan();
  const [patch] = plan.patches;

  it('are listed newest first, removed ones marked, damaged ones counted', async () => {
    const newer = { ...examplePlan({}, 2), createdAt: '2026-06-01T08:00:00.000Z' };
    await mine.savePlan(plan);
    await mine.savePlan(newer);
    await mine.remove(plan, '2026-06-02T08:00:00.000Z');
    await raw('plans').setItem('bad', { plan: { schema: 2 } });
    const { trials, damaged } = await mine.list();
    expect(trials.map(t => t.plan.id)).toEqual([newer.id, plan.id]);
    expect(trials[1].removedAt).toBe('2026-06-02T08:00:00.000Z');
    expect(damaged).toBe(1);
    await mine.restore(plan);
    expect((await mine.list()).trials.every(t => !t.removedAt)).toBe(true);
  });

  it('go out and come in whole, once', async () => {
    await mine.savePlan(plan);
    for (const record of readingFor(patch.code, 1, { landed: 80 })) await mine.append(plan.id, record);
    await mine.keepPhoto('p1', jpeg);
    const file = await mine.exportTrial(plan);
    if (!file.ok) throw new Error(file.problem.say);
    const again = await mine.importTrial(file.value);
    expect(!again.ok && again.problem.say).toMatch(/in this workshop already/);
    await mine.erase(plan.id);
    expect((await mine.list()).trials).toEqual([]);
    expect(await mine.photo('p1')).toBeNull();
    const back = await mine.importTrial(file.value);
    expect(back.ok && back.value).toEqual(plan);
    expect((await mine.records(plan.id)).records).toHaveLength(2);
    expect(await mine.photo('p1')).toBeTruthy();
  });

  it('that cannot be stored whole leave nothing behind', async () => {
    await mine.savePlan(plan);
    for (const record of readingFor(patch.code, 1, { landed: 80 })) await mine.append(plan.id, record);
    await mine.keepPhoto('p1', jpeg);
    const file = await mine.exportTrial(plan);
    if (!file.ok) throw new Error(file.problem.say);
    await mine.erase(plan.id);
    const put = IDBObjectStore.prototype.put;
    let left = 2;
    IDBObjectStore.prototype.put = function (this: IDBObjectStore, ...args: Parameters<typeof put>) {
      if (left-- <= 0) throw new DOMException('The quota has been exceeded.', 'QuotaExceededError');
      return put.apply(this, args);
    };
    const full = await mine.importTrial(file.value);
    IDBObjectStore.prototype.put = put;
    expect(!full.ok && full.problem.say).toMatch(/could not store this trial/);
    expect((await mine.list()).trials).toEqual([]);
  });

  it('are refused when the file is no trial, and when the same is among the removed ones, with the way out', async () => {
    const none = await mine.importTrial(new Uint8Array([1, 2, 3]));
    expect(!none.ok && none.problem.say).toMatch(/not a ZIP/);
    await mine.savePlan(plan);
    const file = await mine.exportTrial(plan);
    if (!file.ok) throw new Error(file.problem.say);
    await mine.remove(plan, '2026-05-03T08:00:00.000Z');
    const again = await mine.importTrial(file.value);
    expect(!again.ok && [again.problem.say, again.problem.wayOut].join(' ')).toMatch(
      /among the removed trials\. Bring it back/,
    );
    expect((await mine.list()).trials[0].removedAt).toBeTruthy();
  });

  it('without a photo they name are not exported, and say so', async () => {
    await mine.savePlan(plan);
    for (const record of readingFor(patch.code, 1, { landed: 80 })) await mine.append(plan.id, record);
    const file = await mine.exportTrial(plan);
    expect(!file.ok && file.problem.code).toBe('missing-photo');
  });

  it('keep damaged records and count them', async () => {
    await mine.savePlan(plan);
    await raw('records').setItem(`${plan.id}/odd`, { id: 'odd', kind: 'dance' });
    const { records, damaged } = await mine.records(plan.id);
    expect(records).toEqual([]);
    expect(damaged).toBe(1);
  });
});
