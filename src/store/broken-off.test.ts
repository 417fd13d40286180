import { isDeepStrictEqual } from 'node:util';
import { describe, expect, it } from 'vitest';
import { jpegOf } from '../core/bundle/example.ts';
import { examplePlan } from '../core/design/example.ts';
import { STARTER_SHELF } from '../core/shelf/index.ts';
import { readingFor } from '../core/trial/example.ts';
import type { TrialRecord } from '../core/trial/index.ts';
import { EXAMPLE_PICTURE, emptyData, Killed, keysIn, memoryStores } from './example.ts';
import { openWorkshop, type Workshop } from './workshop.ts';

const plan = examplePlan();
const [a, b] = plan.patches;
const blob = (n: number) => new Blob([jpegOf(n)], { type: 'image/jpeg' });
const MAP = { w: 3, h: 2, pxPerMm: 1, data: 'AAECAwQF' };
const withMap = (records: TrialRecord[]) =>
  records.map(r =>
    r.kind === 'reading' ? { ...r, reading: { ...r.reading, maps: { state: MAP, veil: MAP } } } : r,
  );
const mark: TrialRecord = {
  id: 'm1',
  at: '2026-05-02T09:01:00.000Z',
  kind: 'step',
  patch: a.code,
  step: 'mark',
  round: 1,
};
const read = (patch: string, n: number) => withMap(readingFor(patch, n, { landed: 80 }));
const bundle = {
  plan,
  records: [mark, ...read(a.code, 1), ...read(b.code, 2)],
  photos: new Map([
    ['p1', jpegOf(1)],
    ['p2', jpegOf(2)],
  ]),
};

type Data = ReturnType<typeof emptyData>;
const over = (data: Data, most?: number): Workshop =>
  openWorkshop('mine', { stores: async () => memoryStores(data, most).stores });

/** A copy of the data, so that each end of the page starts from the same. */
const copyOf = (data: Data): Data => {
  const copy = emptyData();
  for (const name of Object.keys(data) as (keyof Data)[])
    for (const [key, value] of data[name]) copy[name].set(key, value);
  return copy;
};

/** What a maker sees of a workshop. */
async function shown(workshop: Workshop) {
  const { trials, damaged } = await workshop.overview();
  const each = await Promise.all(
    trials.map(async ({ summary, removedAt }) => {
      const { records, damaged } = await workshop.records(summary.id);
      const photos = await Promise.all(
        records.flatMap(r => (r.kind === 'photo' ? [workshop.photo(summary.id, r.photo)] : [])),
      );
      const maps = await Promise.all(
        records.flatMap(r => (r.kind === 'reading' ? [workshop.maps(summary.id, r.id)] : [])),
      );
      return {
        summary,
        removedAt,
        records,
        damaged,
        photos: photos.map(p => p !== null),
        maps: maps.map(m => m !== undefined),
      };
    }),
  );
  const shelf = (await workshop.shelf()).shelf;
  return { trials: each, damaged, shelf, pictures: await workshop.pictures() };
}

/**
 * Does something, the page going away after every number of writes in turn, and opens again: what is seen then has to
 * be all of it or nothing, and nothing may be left over that belongs to no trial.
 */
async function killedAnywhere(before: Data, act: (workshop: Workshop) => Promise<unknown>) {
  const whole = copyOf(before);
  await act(over(whole));
  const [was, is] = [await shown(over(copyOf(before))), await shown(over(whole))];
  const [keysBefore, keysAfter] = [keysIn(before), keysIn(whole)].map(keys =>
    keys.filter(key => !key.startsWith('summaries:')),
  );
  let ends = 0;
  for (let most = 0; ; most++) {
    const data = copyOf(before);
    const { stores, seen: writing } = memoryStores(data, most);
    await act(openWorkshop('mine', { stores: async () => stores })).catch(error => {
      if (!(error instanceof Killed)) throw error;
    });
    // What is done is said to be done though its intent could not be closed any more.
    const died = writing.writes > most;
    const again = over(data);
    const seen = await shown(again);
    const keys = keysIn(data).filter(key => !key.startsWith('summaries:'));
    const asBefore = isDeepStrictEqual(seen, was);
    const asAfter = isDeepStrictEqual(seen, is);
    expect(asBefore || asAfter, `${most} writes`).toBe(true);
    expect(keys, `${most} writes`).toEqual(asAfter ? keysAfter : keysBefore);
    if (!died) return ends;
    ends++;
    if (most > 400) throw new Error('It never comes to its end.');
  }
}

const withTrial = async (): Promise<Data> => {
  const data = emptyData();
  await over(data).importTrial(bundle);
  return data;
};

describe('a page that goes away between any two writes', () => {
  it('leaves records with their photos and maps, or none of them', async () => {
    const data = emptyData();
    await over(data).savePlan(plan);
    const ends = await killedAnywhere(data, w =>
      w.append(plan.id, read(a.code, 1), new Map([['p1', blob(1)]])),
    );
    // The intent, a photo, a map, the entry, the intent taken back: each a moment to go away at.
    expect(ends).toBeGreaterThanOrEqual(5);
  });

  it('leaves a press at the bench, or none', async () => {
    const data = emptyData();
    await over(data).savePlan(plan);
    await killedAnywhere(data, w => w.append(plan.id, [mark]));
  });

  it('leaves an imported trial whole, or nothing of it', async () => {
    expect(await killedAnywhere(emptyData(), w => w.importTrial(bundle))).toBeGreaterThan(6);
  });

  it('leaves a trial that came back from a phone joined, or as it was; given once more it is all there', async () => {
    const c = plan.patches[2].code;
    // Both went on: here a mark was made meanwhile, there a third patch was read.
    const meanwhile: TrialRecord = { ...mark, id: 'm2', patch: b.code, at: '2026-05-02T09:05:00.000Z' };
    const here = await withTrial();
    await over(here).append(plan.id, [meanwhile]);
    const back = {
      plan,
      records: [...bundle.records, ...read(c, 3)],
      photos: new Map([...bundle.photos, ['p3', jpegOf(3)]]),
    };
    const ends = await killedAnywhere(here, w => w.takeInTrial(back));
    expect(ends).toBeGreaterThan(2);
    for (let most = 0; most <= ends; most++) {
      const data = copyOf(here);
      await over(data, most)
        .takeInTrial(back)
        .catch(() => {});
      const again = over(data);
      expect((await again.takeInTrial(back)).ok, `${most} writes`).toBe(true);
      const { records } = await again.records(plan.id);
      const ids = records.map(r => r.id);
      expect(new Set(ids).size, `${most} writes`).toBe(ids.length);
      expect(ids.sort()).toEqual([...back.records.map(r => r.id), 'm2'].sort());
      expect(await again.photo(plan.id, 'p3')).not.toBeNull();
    }
  });

  it('leaves an erased trial whole, or nothing of it', async () => {
    // Once erasing has begun it is finished at the next opening.
    expect(await killedAnywhere(await withTrial(), w => w.erase(plan.id))).toBeGreaterThan(6);
  });

  it('leaves a removed trial removed, or not', async () => {
    await killedAnywhere(await withTrial(), w => w.remove(plan.id, '2026-06-01T08:00:00.000Z'));
  });

  it('leaves a picture with its files, or neither', async () => {
    await killedAnywhere(emptyData(), w => w.addPicture(EXAMPLE_PICTURE, new Blob(['<svg/>']), blob(1)));
  });

  it('leaves a wiped workshop empty, or as it was', async () => {
    await killedAnywhere(await withTrial(), w => w.wipe());
  });

  it('leaves a shelf that was never changed the starter shelf, and one that was changed whole', async () => {
    const item = { ...STARTER_SHELF.mediums[1], onHandMl: 5 };
    const data = emptyData();
    const whole = STARTER_SHELF.mediums.map(m => (m.id === item.id ? item : m));
    for (let most = 0; most < 200; most += 7) {
      const dead = copyOf(data);
      await over(dead, most)
        .saveItems('mediums', [item])
        .catch(() => undefined);
      const { shelf, damaged } = await over(dead).shelf();
      expect([STARTER_SHELF.mediums, whole]).toContainEqual(shelf.mediums);
      expect(shelf.donors).toEqual(STARTER_SHELF.donors);
      expect(damaged).toBe(0);
    }
  });
});

describe('records that an earlier version kept one by one', () => {
  const old = (): Data => {
    const data = emptyData();
    data.plans.set(plan.id, { plan });
    for (const record of bundle.records) data.records.set(`${plan.id}/${record.id}`, record);
    data.records.set(`${plan.id}/odd`, { id: 'odd', kind: 'dance' });
    for (const [id] of bundle.photos) data.photos.set(id, blob(1));
    return data;
  };

  it('are all there after moving, maps apart, photos found, and what cannot be read kept', async () => {
    const data = old();
    const workshop = over(data);
    const { records, damaged } = await workshop.records(plan.id);
    expect(records.map(r => r.id).sort()).toEqual(bundle.records.map(r => r.id).sort());
    expect(damaged).toEqual([{ id: 'odd', kind: 'dance' }]);
    expect(await workshop.maps(plan.id, 'rd1')).toEqual({ state: MAP, veil: MAP });
    expect(await workshop.photo(plan.id, 'p1')).toBeTruthy();
    expect([...data.records.keys()]).toEqual([]);
    const file = await workshop.exportTrial(plan.id);
    expect(file.ok).toBe(true);
  });

  it('are moved to the last one wherever moving is broken off', async () => {
    const reference = await shown(over(old()));
    for (let most = 0; most < 30; most++) {
      const data = old();
      await over(data, most)
        .overview()
        .catch(() => undefined);
      // And once more, so that it is taken up twice.
      await over(data, 3)
        .overview()
        .catch(() => undefined);
      expect(await shown(over(data))).toEqual(reference);
      expect([...data.records.keys()]).toEqual([]);
    }
  });

  it('that an old tab writes meanwhile are moved the next time, and none twice', async () => {
    const data = old();
    await over(data).overview();
    data.records.set(`${plan.id}/late`, { ...mark, id: 'late', patch: b.code });
    data.records.set(`${plan.id}/m1`, mark);
    const { records } = await over(data).records(plan.id);
    expect(records.filter(r => r.id === 'm1')).toHaveLength(1);
    expect(records.some(r => r.id === 'late')).toBe(true);
  });

  it('of many trials are moved without reading one trial for another', async () => {
    const data = emptyData();
    for (let i = 0; i < 12; i++) {
      const own = examplePlan({}, i + 5);
      data.plans.set(own.id, { plan: own });
      for (let k = 0; k < 20; k++)
        data.records.set(`${own.id}/s${k}`, { ...mark, id: `s${k}`, patch: own.patches[0].code });
    }
    const { stores, seen } = memoryStores(data);
    await openWorkshop('mine', { stores: async () => stores }).overview();
    expect(seen.reads.filter(r => r.startsWith('records:') && r !== 'records:*')).toHaveLength(12 * 20);
  });
});
