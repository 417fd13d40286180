import type { Page } from '@playwright/test';
import { chainOf } from '../../src/core/steps/index.ts';
import { EXAMPLE_READING } from '../../src/core/trial/example.ts';
import type { TrialPlan, TrialRecord } from '../../src/core/trial/index.ts';

/** How large a workshop is. */
export interface Size {
  readonly trials: number;
  /** How many of the trials are under way; the others are finished and read. */
  readonly underWay: number;
  readonly recordsEach: number;
  readonly photosEach: number;
}

/** A trial like another under an id of its own. */
export const likeness = (plan: TrialPlan, number: number): TrialPlan => ({
  ...plan,
  id: `${plan.id.slice(0, 6)}${String(number).padStart(6, '0')}`,
  name: `${plan.name} ${number}`,
  createdAt: new Date(Date.parse(plan.createdAt) + number * 3_600_000).toISOString(),
});

/** What was recorded of a trial: every step of its patches where it is finished, the first ones where it is not; readings, then notes up to `count`. */
export function historyOf(plan: TrialPlan, count: number, finished: boolean, start: number): TrialRecord[] {
  const records: TrialRecord[] = [];
  const at = () => new Date(start + records.length * 60_000).toISOString();
  const id = () => `r${records.length}`;
  records.push({ id: id(), at: at(), kind: 'air', patch: null, air: plan.air });
  for (const { code, ...patch } of plan.patches)
    for (const { step, round } of chainOf(plan, { code, ...patch }).slice(0, finished ? undefined : 3))
      records.push({ id: id(), at: at(), kind: 'step', patch: code, step: step.id, round });
  if (finished)
    for (const { code } of plan.patches) {
      const photo = `p${records.length}`;
      const named = {
        photo,
        stage: 'dry',
        round: 2,
        name: `${code}.jpg`,
        simulated: true,
        takenAt: null,
      } as const;
      records.push({ id: id(), at: at(), kind: 'photo', patch: code, ...named });
      const landed = 70 + ((records.length * 7) % 29);
      const reading = { ...EXAMPLE_READING, landed };
      records.push({
        id: id(),
        at: at(),
        kind: 'reading',
        patch: code,
        photo,
        reading,
        straight: `${photo}s`,
      });
    }
  while (records.length < count)
    records.push({
      id: id(),
      at: at(),
      kind: 'note',
      patch: plan.patches[0].code,
      text: 'Held to the light.',
    });
  return records.slice(0, Math.max(count, 1));
}

/** Writes a workshop into a page's storage as the app keeps it, one entry for every record as pressing leaves them, folded as reading leaves them; without summaries. */
export async function fill(page: Page, plan: TrialPlan, size: Size, now: number): Promise<TrialPlan[]> {
  const plans = Array.from({ length: size.trials }, (_, i) => likeness(plan, i));
  const PART = 20;
  for (let from = 0; from < plans.length; from += PART) {
    const part = plans.slice(from, from + PART).map((own, i) => ({
      // As it is stored: nothing of its type is needed in the page.
      plan: own as { readonly id: string },
      records: historyOf(own, size.recordsEach, from + i >= size.underWay, now - 3 * 3_600_000),
    }));
    await page.evaluate(
      async ({ part, photosEach }) => {
        const request = indexedDB.open('wet-test-mine');
        const db = await new Promise<IDBDatabase>((resolve, reject) => {
          request.onsuccess = () => resolve(request.result);
          request.onerror = () => reject(request.error);
        });
        const work = db.transaction(['plans', 'log', 'folds', 'photos'], 'readwrite');
        const photo = { type: 'image/jpeg', bytes: new Uint8Array(2000).fill(7).buffer };
        for (const { plan, records } of part) {
          for (const [n, record] of records.entries())
            work.objectStore('log').put({ records: [record] }, `${plan.id}/${n}`);
          const entries = records
            .map(record => ({ records: [record] }))
            .slice(0, records.length - (records.length % 48));
          if (entries.length) work.objectStore('folds').put({ upTo: entries.length, entries }, plan.id);
          for (let n = 0; n < photosEach; n++) work.objectStore('photos').put(photo, `${plan.id}/p${n}`);
          work.objectStore('plans').put({ plan }, plan.id);
        }
        await new Promise<void>((resolve, reject) => {
          work.oncomplete = () => resolve();
          work.onerror = () => reject(work.error);
        });
        db.close();
      },
      { part, photosEach: size.photosEach },
    );
  }
  return plans;
}

/** Counts every read and write of the storage from now on, by store and key. */
export const watchStorage = (page: Page) =>
  page.addInitScript(() => {
    const seen: string[] = [];
    (window as unknown as { seen: string[] }).seen = seen;
    const { get, put, openCursor, getAllKeys, openKeyCursor } = IDBObjectStore.prototype;
    IDBObjectStore.prototype.get = function (key) {
      seen.push(`get ${this.name} ${String(key)}`);
      return get.call(this, key);
    };
    IDBObjectStore.prototype.put = function (value, key) {
      seen.push(`put ${this.name} ${String(key)}`);
      return put.call(this, value, key);
    };
    IDBObjectStore.prototype.openCursor = function (...args) {
      seen.push(`all ${this.name}`);
      return openCursor.apply(this, args);
    };
    IDBObjectStore.prototype.getAllKeys = function (...args) {
      seen.push(`keys ${this.name}`);
      return getAllKeys.apply(this, args);
    };
    IDBObjectStore.prototype.openKeyCursor = function (...args) {
      seen.push(`keys ${this.name}`);
      return openKeyCursor.apply(this, args);
    };
  });

/** What the storage was asked since the page was opened, or since it was last asked for. */
export const seenOf = (page: Page): Promise<string[]> =>
  page.evaluate(() => (window as unknown as { seen: string[] }).seen.splice(0));
