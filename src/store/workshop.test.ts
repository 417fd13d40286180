import { write } from '../core/say/index.ts';
import { said } from '../core/say/testing.ts';
import 'fake-indexeddb/auto';
import localforage from 'localforage';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Picture } from '../core/artwork/index.ts';
import { jpegOf } from '../core/bundle/example.ts';
import { readBundle } from '../core/bundle/index.ts';
import { examplePlan } from '../core/design/example.ts';
import { copyMethod, METHODS } from '../core/methods/index.ts';
import { good, ProblemError } from '../core/outcome/index.ts';
import { copyOf, STARTER_SHELF } from '../core/shelf/index.ts';
import { readingFor } from '../core/trial/example.ts';
import { EXAMPLE_PICTURE, emptyData, memoryStores } from './example.ts';
import { asStorageError } from './storage-error.ts';
import { openStores, STORES } from './stores.ts';
import { openWorkshop } from './workshop.ts';

// The storage library asks which browser it is in before it keeps files; Node 20 has no word for that.
Object.defineProperty(globalThis, 'navigator', { value: { userAgent: 'Chrome/120' }, configurable: true });

const mine = openWorkshop('mine');
const demo = openWorkshop('demo');
const jpeg = new Blob([jpegOf(1)], { type: 'image/jpeg' });
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
    await mine.addMethod(own);
    await raw('methods').setItem('broken', { id: 'broken' });
    expect(await mine.methods()).toEqual([own]);
    await mine.removeMethod(own.id);
    expect(await mine.methods()).toEqual([]);
    expect(await raw('methods').getItem('broken')).toBeTruthy();
  });

  it('a picture keeps its original beside its pixels, also when it is taken away', async () => {
    const picture: Picture = { ...EXAMPLE_PICTURE, edits: [{ kind: 'grey' }] };
    await mine.addPicture(picture, new Blob(['<svg/>']), jpeg);
    await mine.savePicture({ ...picture, edits: [] });
    expect(await mine.pictures()).toEqual([{ ...picture, edits: [] }]);
    await mine.removePicture(picture.id);
    expect(await mine.pictures()).toEqual([]);
    expect(await mine.pictureFile(picture.id, 'original')).toBeTruthy();
    expect(await mine.pictureFile(picture.id, 'pixels')).toBeTruthy();
  });
});

/** The archive of a trial as a checked bundle. */
const unpacked = (bytes: Uint8Array) => {
  const bundle = readBundle(bytes);
  if (!bundle.ok) throw new ProblemError(bundle.problem);
  return bundle.value;
};
const exported = async (trial: string) => {
  const file = await mine.exportTrial(trial);
  if (!file.ok) throw new ProblemError(file.problem);
  return unpacked(file.value);
};

describe('stored trials', () => {
  const plan = examplePlan();
  const [patch] = plan.patches;
  const MAP = { w: 3, h: 2, pxPerMm: 1, data: 'AAECAwQF' };
  const read = readingFor(patch.code, 1, { landed: 80, maps: { state: MAP, veil: MAP } });
  const files = new Map([['p1', jpeg]]);

  it('are listed newest first, removed ones marked, damaged ones named', async () => {
    const newer = { ...examplePlan({}, 2), createdAt: '2026-06-01T08:00:00.000Z' };
    await mine.savePlan(plan);
    await mine.savePlan(newer);
    await mine.remove(plan.id, '2026-06-02T08:00:00.000Z');
    await raw('plans').setItem('bad', { plan: { schema: 2, name: 'Tide tins' } });
    const { trials, damaged } = await mine.overview();
    expect(trials.map(t => t.summary.id)).toEqual([newer.id, plan.id]);
    expect(trials[1].removedAt).toBe('2026-06-02T08:00:00.000Z');
    expect(await mine.plan(plan.id)).toBeUndefined();
    // A change that comes late does not bring it back.
    await mine.changePlan(plan.id, now => good({ ...now, name: 'Late' }));
    expect(await mine.plan(plan.id)).toBeUndefined();
    await mine.changePlan(plan.id, now => good({ ...now, name: plan.name }));
    expect(damaged).toMatchObject([{ id: 'bad', name: 'Tide tins' }]);
    expect(JSON.parse(await mine.asStored('bad')).stored.plan.name).toBe('Tide tins');
    await mine.restore(plan.id);
    expect((await mine.overview()).trials.every(t => !t.removedAt)).toBe(true);
    expect(await mine.plan(plan.id)).toEqual({ ok: true, value: plan });
  });

  it('go out and come in whole, once', async () => {
    await mine.savePlan(plan);
    await mine.append(plan.id, read, files);
    const file = await exported(plan.id);
    expect(file.records).toEqual(read);
    const again = await mine.importTrial(file);
    expect(said(!again.ok && again.problem.say)).toMatch(/in this workshop already/);
    await mine.erase(plan.id);
    expect((await mine.overview()).trials).toEqual([]);
    expect(await mine.photo(plan.id, 'p1')).toBeNull();
    expect(await mine.maps(plan.id, 'rd1')).toBeUndefined();
    const told: number[] = [];
    const back = await mine.importTrial(file, share => told.push(share));
    expect(back.ok && back.value).toEqual(plan);
    expect(told.length).toBeGreaterThan(1);
    expect((await mine.records(plan.id)).records).toHaveLength(2);
    expect(await mine.photo(plan.id, 'p1')).toBeTruthy();
    expect(await exported(plan.id)).toEqual(file);
  });

  it('keep maps apart from the records', async () => {
    await mine.savePlan(plan);
    await mine.append(plan.id, read, files);
    const { records } = await mine.records(plan.id);
    const reading = records.find(r => r.kind === 'reading');
    expect(reading?.kind === 'reading' && reading.reading.maps).toBeUndefined();
    expect(await mine.maps(plan.id, 'rd1')).toEqual({ state: MAP, veil: MAP });
    await raw('maps').setItem(`${plan.id}/rd1`, { state: { ...MAP, w: 900 } });
    expect(await mine.maps(plan.id, 'rd1')).toBeUndefined();
  });

  it('that cannot be stored whole leave nothing behind, and say why', async () => {
    await mine.savePlan(plan);
    await mine.append(plan.id, read, files);
    const file = await exported(plan.id);
    await mine.erase(plan.id);
    const put = IDBObjectStore.prototype.put;
    let left = 4;
    IDBObjectStore.prototype.put = function (this: IDBObjectStore, ...args: Parameters<typeof put>) {
      if (left-- <= 0) throw new DOMException('The quota has been exceeded.', 'QuotaExceededError');
      return put.apply(this, args);
    };
    const full = await mine.importTrial(file);
    IDBObjectStore.prototype.put = put;
    expect(said(!full.ok && full.problem.say)).toMatch(/could not store this trial: There is no room/);
    expect((await mine.overview()).trials).toEqual([]);
    expect(await raw('photos').keys()).toEqual([]);
    expect(await raw('log').keys()).toEqual([]);
  });

  it('are refused when the same is among the removed ones, with the way out', async () => {
    await mine.savePlan(plan);
    const file = await exported(plan.id);
    await mine.remove(plan.id, '2026-05-03T08:00:00.000Z');
    const again = await mine.importTrial(file);
    expect(!again.ok && [again.problem.say, again.problem.wayOut].map(x => said(x)).join(' ')).toMatch(
      /among the removed trials\. Bring it back/,
    );
    expect((await mine.overview()).trials[0].removedAt).toBeTruthy();
    const stranger = await mine.importTrial({ ...file, records: [{ ...read[0], patch: 'ZZ-ZZZ' }] });
    expect(!stranger.ok && stranger.problem.code).toBe('bad-record');
  });

  it('keep small photos inside the database and large ones as files, and give both back as they were', async () => {
    await mine.savePlan(plan);
    const [photo] = readingFor(plan.patches[0].code, 1, {});
    const of = (bytes: number) => new Blob([new Uint8Array(bytes).fill(9)], { type: 'image/png' });
    const [small, large] = [of(48 * 1024), of(48 * 1024 + 1)];
    await mine.append(
      plan.id,
      [photo],
      new Map([
        ['p1', small],
        ['p2', large],
      ]),
    );
    expect(await raw('photos').getItem(`${plan.id}/p1`)).toMatchObject({ type: 'image/png' });
    expect(await raw('photos').getItem(`${plan.id}/p2`)).toBeInstanceOf(Blob);
    for (const [id, sent] of [
      ['p1', small],
      ['p2', large],
    ] as const) {
      const back = (await mine.photo(plan.id, id))!;
      expect([back.type, back.size]).toEqual(['image/png', sent.size]);
      expect(new Uint8Array(await back.arrayBuffer())[7]).toBe(9);
    }
  });

  it('finds photos where earlier versions kept them: as files, the oldest by their own name alone', async () => {
    await raw('photos').setItem(`${plan.id}/p8`, jpeg);
    await raw('photos').setItem('p9', jpeg);
    expect((await mine.photo(plan.id, 'p8'))!.size).toBe(jpeg.size);
    expect((await mine.photo(plan.id, 'p9'))!.size).toBe(jpeg.size);
    expect(await mine.photo(plan.id, 'p10')).toBeNull();
  });

  it('without a photo they name go out all the same, and say so inside', async () => {
    await mine.savePlan(plan);
    await mine.append(plan.id, read);
    const file = await exported(plan.id);
    expect(file.missing).toEqual(['p1']);
    expect(file.records).toHaveLength(2);
    expect(!(await mine.exportTrial('nobody')).ok).toBe(true);
  });

  it('keep damaged records, and show each record once', async () => {
    await mine.savePlan(plan);
    await mine.append(plan.id, [read[0]]);
    await raw('log').setItem(`${plan.id}/1`, { records: [{ id: 'odd', kind: 'dance' }, read[0]] });
    await raw('log').setItem(`${plan.id}/2`, 'scribble');
    const { records, damaged } = await mine.records(plan.id);
    expect(records.map(r => r.id)).toEqual(['ph1']);
    expect(damaged).toEqual([{ id: 'odd', kind: 'dance' }, 'scribble']);
    expect(JSON.parse(await mine.asStored(plan.id)).log).toHaveLength(3);
    // What comes after goes on behind them.
    await mine.append(plan.id, [{ ...read[0], id: 'ph9' }]);
    expect((await mine.records(plan.id)).records.map(r => r.id)).toEqual(['ph1', 'ph9']);
  });

  it('have summaries that are made anew when they are old, damaged or gone', async () => {
    await mine.savePlan(plan);
    const { summary } = (await mine.overview()).trials[0];
    for (const wrong of [
      { summary: { ...summary, version: summary.version - 1, name: 'Old' } },
      { summary: { ...summary, patches: 'many' } },
      { summary: { ...summary, id: 'another' }, entries: 0 },
      { summary: { ...summary, name: 'Old' } },
      { summary: { ...summary, name: 'Old' }, entries: 'none' },
      'scribble',
    ]) {
      await raw('summaries').setItem(plan.id, wrong);
      expect((await mine.overview()).trials[0].summary).toEqual(summary);
    }
    await raw('summaries').removeItem(plan.id);
    expect((await mine.overview()).trials[0].summary).toEqual(summary);
  });
});

describe('what was worked out of a trial', () => {
  const plan = examplePlan();

  it('is there for the same work only, and goes with the trial', async () => {
    await mine.savePlan(plan);
    expect(await mine.workedOut(plan.id, 'a')).toBeUndefined();
    await mine.keepWorkedOut(plan.id, 'a', { measured: 2 });
    expect(await mine.workedOut(plan.id, 'a')).toEqual({ measured: 2 });
    expect(await mine.workedOut(plan.id, 'b')).toBeUndefined();
    await mine.keepWorkedOut(plan.id, 'b', { measured: 3 });
    expect(await mine.workedOut(plan.id, 'a')).toBeUndefined();
    await mine.erase(plan.id);
    expect(await mine.workedOut(plan.id, 'b')).toBeUndefined();
    // What comes late, of a trial that is gone, is kept nowhere.
    await mine.keepWorkedOut(plan.id, 'b', { measured: 3 });
    expect(await raw('worked').keys()).toEqual([]);
  });
});

describe('a trial that came in', () => {
  const plan = examplePlan();
  const read = readingFor(plan.patches[0].code, 1, { landed: 80 });

  it('is summed up there and then: the next opening asks for no plan and no record', async () => {
    const data = emptyData();
    const over = () => {
      const { stores, seen } = memoryStores(data);
      return { workshop: openWorkshop('mine', { stores: async () => stores }), seen };
    };
    const looked = async () => {
      const { workshop, seen } = over();
      const { trials } = await workshop.overview();
      expect(seen.reads.filter(r => r.startsWith('plans:') && !r.endsWith(':*'))).toEqual([]);
      return trials.map(t => t.summary.read);
    };
    const bundle = { plan, records: read, photos: new Map([['p1', jpegOf(1)]]) };
    expect((await over().workshop.takeInTrial({ ...bundle, records: [], photos: new Map() })).ok).toBe(true);
    expect(await looked()).toEqual([0]);
    // The rest of it comes later, and joins.
    expect((await over().workshop.takeInTrial(bundle)).ok).toBe(true);
    expect(await looked()).toEqual([1]);
    await over().workshop.erase(plan.id);
    expect((await over().workshop.importTrial(bundle)).ok).toBe(true);
    expect(await looked()).toEqual([1]);
  });

  it('is in even where there is no room for its summary', async () => {
    const { stores } = memoryStores(emptyData());
    const summaries = {
      ...stores.summaries,
      setItem: () => Promise.reject(new DOMException('The quota has been exceeded.', 'QuotaExceededError')),
    };
    const workshop = openWorkshop('mine', { stores: async () => ({ ...stores, summaries }) });
    expect((await workshop.importTrial({ plan, records: [], photos: new Map() })).ok).toBe(true);
    expect(await workshop.plan(plan.id)).toEqual({ ok: true, value: plan });
  });
});

describe('a workshop of sixty trials', () => {
  const data = emptyData();
  const plans = Array.from({ length: 60 }, (_, i) => examplePlan({}, i + 1));
  const over = () => {
    const { stores, seen } = memoryStores(data);
    return { workshop: openWorkshop('mine', { stores: async () => stores }), seen };
  };
  const own = (reads: readonly string[], store: string) =>
    reads.filter(r => r.startsWith(`${store}:`) && !r.endsWith(':*'));

  it('is looked through by its summaries alone once they are there', async () => {
    const first = over();
    for (const plan of plans) {
      await first.workshop.savePlan(plan);
      for (let i = 0; i < 20; i++)
        await first.workshop.append(plan.id, [
          { ...readingFor(plan.patches[0].code, i, {})[0], id: `x${i}` } as never,
        ]);
    }
    await first.workshop.overview();
    const { workshop, seen } = over();
    expect((await workshop.overview()).trials).toHaveLength(60);
    // Each log is asked whether anything came after its summary, and nothing did.
    const asked = own(seen.reads, 'log');
    expect(asked.sort()).toEqual(plans.map(p => `log:${p.id}/20`).sort());
    expect(own(seen.reads, 'plans')).toEqual([]);
  });

  it('opens a trial by its own keys, as many as it has and no more than twice', async () => {
    const { workshop, seen } = over();
    const { records } = await workshop.records(plans[7].id);
    expect(records).toHaveLength(20);
    const asked = own(seen.reads, 'log');
    expect(asked.every(key => key.startsWith(`log:${plans[7].id}/`))).toBe(true);
    expect(asked.length).toBeLessThanOrEqual(48);
    await workshop.plan(plans[7].id);
    expect(own(seen.reads, 'plans')).toHaveLength(1);
  });

  it('reads a long log once one by one, and from then on in one piece with what came after', async () => {
    const first = over();
    const { id, patches } = plans[3];
    const more = Array.from({ length: 60 }, (_, i) => ({
      ...readingFor(patches[0].code, i, {})[0],
      id: `long${i}`,
    }));
    for (const record of more) await first.workshop.append(id, [record]);
    const whole = (await first.workshop.records(id)).records;
    expect(whole).toHaveLength(80);
    const again = over();
    expect((await again.workshop.records(id)).records).toEqual(whole);
    expect(own(again.seen.reads, 'log').length).toBeLessThanOrEqual(16);
    await again.workshop.append(id, [{ ...more[0], id: 'after' }]);
    expect((await over().workshop.records(id)).records).toHaveLength(81);
    // A fold that is damaged is passed over: it is never the only place of anything.
    for (const wrong of ['scribble', { upTo: 80, entries: [] }, { upTo: 2, entries: [{ records: [] }] }]) {
      data.folds.set(id, wrong);
      expect((await over().workshop.records(id)).records).toHaveLength(81);
    }
    await over().workshop.erase(id);
    expect(data.folds.has(id)).toBe(false);
    expect([...data.log.keys()].some(key => key.startsWith(`${id}/`))).toBe(false);
  });

  it('writes a press without reading any other trial, and few keys of its own', async () => {
    const { workshop, seen } = over();
    await workshop.records(plans[7].id);
    seen.reads.length = 0;
    const before = seen.writes;
    const step = { id: 'p', at: '2026-05-02T09:01:00.000Z', kind: 'step', step: 'mark', round: 1 } as const;
    await workshop.append(plans[7].id, [{ ...step, patch: plans[7].patches[0].code }]);
    expect(seen.reads.length).toBeLessThanOrEqual(2);
    expect(seen.writes - before).toBe(1);
    seen.reads.length = 0;
    await workshop.overview();
    // Only the one that was changed is looked at again.
    expect(own(seen.reads, 'plans')).toEqual([`plans:${plans[7].id}`]);
    const others = own(seen.reads, 'log').filter(key => !key.startsWith(`log:${plans[7].id}/`));
    expect(others.length).toBeLessThan(60);
  });
});

describe('a storage that refuses', () => {
  const plan = examplePlan();
  const [patch] = plan.patches;
  const refusing = (error: () => Error) => {
    const data = emptyData();
    data.plans.set(plan.id, { plan });
    const { stores } = memoryStores(data, 0, () => asStorageError(error()));
    return openWorkshop('mine', { stores: async () => stores });
  };
  const full = () => new DOMException('The quota has been exceeded.', 'QuotaExceededError');
  const broken = () => new DOMException('Internal error.', 'UnknownError');
  const writes: [string, (w: ReturnType<typeof refusing>) => Promise<unknown>][] = [
    ['a press', w => w.append(plan.id, readingFor(patch.code, 1, {}))],
    ['a photo', w => w.append(plan.id, readingFor(patch.code, 1, {}), new Map([['p1', jpeg]]))],
    ['a plan', w => w.savePlan(plan)],
    ['a change of a plan', w => w.changePlan(plan.id, now => ({ ok: true, value: now }))],
    ['a removal', w => w.remove(plan.id, '2026-06-02T08:00:00.000Z')],
    ['an erasure', w => w.erase(plan.id)],
    ['an item', w => w.saveItems('tools', [STARTER_SHELF.tools[0]])],
    ['an item taken away', w => w.removeItem('tools', STARTER_SHELF.tools[0].id)],
    ['a method', w => w.addMethod(copyMethod(METHODS[0], []))],
    ['a picture', w => w.addPicture({ id: 'P' } as Picture, jpeg, jpeg)],
    ['a wipe', w => w.wipe()],
  ];
  it.each(writes)('says so for %s: full, and broken', async (_, write) => {
    await expect(write(refusing(full))).rejects.toThrow(/no room left/);
    await expect(write(refusing(broken))).rejects.toThrow(/does not answer as it should: Internal error/);
  });

  it('and does not open is asked again the next time', async () => {
    let blocked = true;
    const data = emptyData();
    const workshop = openWorkshop('mine', {
      stores: async () => {
        if (blocked) throw asStorageError(new DOMException('', 'SecurityError'));
        return memoryStores(data).stores;
      },
    });
    await expect(workshop.overview()).rejects.toThrow(/does not let Wet Test store/);
    blocked = false;
    expect((await workshop.overview()).trials).toEqual([]);
  });

  it('keeps its word whatever it is called', () => {
    expect(asStorageError(new Error('disk full')).problem.code).toBe('storage-full');
    expect(asStorageError(new Error('No available storage method found.')).problem.code).toBe(
      'storage-blocked',
    );
    expect(write(asStorageError(new Error('hm')).problem.say)).toMatch(/: hm\.$/);
    expect(asStorageError(undefined).problem.code).toBe('storage-broken');
    const once = asStorageError(full());
    expect(asStorageError(once)).toBe(once);
  });
});

describe('the database', () => {
  it('is made with all its stores at once, however many open it together', async () => {
    const versions: number[] = [];
    const tabs = await Promise.all(Array.from({ length: 4 }, () => openStores('demo')));
    for (const stores of tabs) {
      await stores.meta.setItem('seen', versions.length);
      versions.push((await indexedDB.databases()).find(d => d.name === 'wet-test-demo')!.version!);
    }
    expect(new Set(versions).size).toBe(1);
    expect(await tabs[0].meta.getItem('seen')).toBe(3);
  });

  it('of an earlier version gets the stores it lacks, and keeps what it has', async () => {
    const name = 'wet-test-mine';
    const old = localforage.createInstance({ name, storeName: 'plans' });
    await old.setItem('kept', { plan: { name: 'Kept' } });
    const stores = await openStores('mine');
    expect(await stores.plans.getItem('kept')).toEqual({ plan: { name: 'Kept' } });
    for (const store of STORES) expect(await stores[store].keys()).toBeInstanceOf(Array);
  });
});
