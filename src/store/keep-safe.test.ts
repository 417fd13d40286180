import { describe, expect, it } from 'vitest';
import { jpegOf } from '../core/bundle/example.ts';
import { examplePlan } from '../core/design/example.ts';
import { readingFor } from '../core/trial/example.ts';
import { EXAMPLE_PICTURE, emptyData, memoryStores } from './example.ts';
import { cleanUp, isBackupDue, lastBackup, noteBackup, spareIn } from './keep-safe.ts';
import { openWorkshop } from './workshop.ts';

const day = (n: number) => Date.parse('2026-05-01T12:00:00Z') + n * 86_400_000;
const blob = (n: number) => new Blob([jpegOf(n)], { type: 'image/jpeg' });

describe('a backup is due', () => {
  it('where the last one is older than fourteen days and something was made since', () => {
    expect([isBackupDue(day(0), day(1), day(14)), isBackupDue(day(0), day(1), day(14.1))]).toEqual([
      false,
      true,
    ]);
    expect(isBackupDue(day(0), day(0), day(90))).toBe(false);
  });
  it('where there was none and what there is has waited so long, and not where there is nothing', () => {
    expect([isBackupDue(undefined, day(0), day(14)), isBackupDue(undefined, day(0), day(15))]).toEqual([
      false,
      true,
    ]);
    expect(isBackupDue(day(0), undefined, day(90))).toBe(false);
  });
});

describe('what is kept of backups', () => {
  it('is when the last was made, and nothing where that cannot be read', async () => {
    const data = emptyData();
    const workshop = openWorkshop('mine', { stores: async () => memoryStores(data).stores });
    expect(await lastBackup(workshop)).toBeUndefined();
    await noteBackup(workshop, { at: '2026-05-01T00:00:00Z', bytes: 12, trials: 2 });
    expect(await lastBackup(workshop)).toEqual({ at: '2026-05-01T00:00:00Z', bytes: 12, trials: 2 });
    data.meta.set('backup', 'odd');
    expect(await lastBackup(workshop)).toBeUndefined();
  });
});

describe('a clean-up', () => {
  it('shows what it would take, takes that and no more', async () => {
    const data = emptyData();
    const workshop = openWorkshop('mine', { stores: async () => memoryStores(data).stores });
    const [kept, gone] = [examplePlan({}, 1), { ...examplePlan({}, 2), name: 'Gone' }];
    for (const plan of [kept, gone]) {
      await workshop.savePlan(plan);
      const photo = new Map([['p1', blob(1)]]);
      await workshop.append(plan.id, readingFor(plan.patches[0].code, 1, { landed: 80 }), photo);
    }
    await workshop.addPicture(EXAMPLE_PICTURE, blob(3), blob(4));
    await workshop.addPicture({ ...EXAMPLE_PICTURE, id: 'PIC2' }, blob(5), blob(6));
    expect(await spareIn(workshop)).toEqual({ trials: [], files: [] });
    await workshop.remove(gone.id, '2026-05-03T00:00:00Z');
    await workshop.removePicture('PIC2');
    const spare = await spareIn(workshop);
    expect(spare.trials).toEqual([{ id: gone.id, name: 'Gone', photos: 1, bytes: blob(1).size }]);
    expect(spare.files.map(f => f.key)).toEqual(['PIC2/original', 'PIC2/pixels']);
    // One that is brought back meanwhile keeps its files.
    await workshop.savePicture({ ...EXAMPLE_PICTURE, id: 'PIC2' });
    await cleanUp(workshop, spare);
    expect((await workshop.overview()).trials.map(t => t.summary.id)).toEqual([kept.id]);
    expect((await workshop.photo(kept.id, 'p1'))?.size).toBe(blob(1).size);
    expect(await workshop.photo(gone.id, 'p1')).toBeNull();
    expect(await workshop.pictureFile('PIC2', 'original')).toBeTruthy();
    await workshop.removePicture('PIC2');
    await cleanUp(workshop, await spareIn(workshop));
    expect(await workshop.pictureFile('PIC2', 'original')).toBeNull();
    expect(await workshop.pictureFile('PIC1', 'original')).toBeTruthy();
  });
});
