import * as v from 'valibot';
import { photosNamed, ReadingMaps, type TrialRecord } from '../core/trial/index.ts';
import type { FileKeys } from './journal.ts';
import type { Stores } from './stores.ts';

/** Photos to be kept with records, by the id the records name. */
export type Files = ReadonlyMap<string, Blob>;

const keyOf = (trial: string, id: string) => `${trial}/${id}`;

/** What is kept apart from a trial's records: its photos by their name, the maps of its readings by their record. */
export function filesOf(stores: Pick<Stores, 'photos' | 'maps'>) {
  const write = async (trial: string, files: Files, maps: ReadonlyMap<string, ReadingMaps>) => {
    for (const [id, blob] of files) await stores.photos.setItem(keyOf(trial, id), await asKept(blob));
    for (const [id, map] of maps) await stores.maps.setItem(keyOf(trial, id), map);
  };
  const keysOf = (trial: string, files: Files, maps: ReadonlyMap<string, unknown>): FileKeys => ({
    photos: [...files.keys()].map(id => keyOf(trial, id)),
    maps: [...maps.keys()].map(id => keyOf(trial, id)),
  });
  /** Takes those of these keys away that nothing names: `named` are a trial's words ({@link wordsIn}). */
  const removeUnnamed = async ({ photos, maps }: FileKeys, named: ReadonlySet<string>) => {
    const isNamed = (key: string) => named.has(key.slice(key.indexOf('/') + 1));
    for (const key of photos) if (!isNamed(key)) await stores.photos.removeItem(key);
    for (const key of maps) if (!isNamed(key)) await stores.maps.removeItem(key);
  };

  const photo = async (trial: string, id: string): Promise<Blob | null> =>
    // Earlier versions kept photos by their id alone.
    asPhoto((await stores.photos.getItem(keyOf(trial, id))) ?? (await stores.photos.getItem(id)));

  const maps = async (trial: string, record: string): Promise<ReadingMaps | undefined> => {
    const found = v.safeParse(ReadingMaps, await stores.maps.getItem(keyOf(trial, record)));
    return found.success ? found.output : undefined;
  };

  const wholeRecords = async (trial: string, records: readonly TrialRecord[]): Promise<TrialRecord[]> => {
    const whole: TrialRecord[] = [];
    for (const record of records) {
      const map = record.kind === 'reading' ? await maps(trial, record.id) : undefined;
      whole.push(
        record.kind === 'reading' && map ? { ...record, reading: { ...record.reading, maps: map } } : record,
      );
    }
    return whole;
  };

  const photosOf = async (trial: string, records: readonly TrialRecord[]) => {
    const found = new Map<string, Uint8Array>();
    for (const id of new Set(records.flatMap(photosNamed))) {
      const blob = await photo(trial, id);
      if (blob) found.set(id, new Uint8Array(await blob.arrayBuffer()));
    }
    return found;
  };

  /** Takes away every photo and map that these records name. */
  const removeThoseOf = async (trial: string, records: readonly TrialRecord[]) => {
    for (const id of new Set(records.flatMap(photosNamed))) {
      await stores.photos.removeItem(keyOf(trial, id));
      await stores.photos.removeItem(id);
    }
    for (const record of records)
      if (record.kind === 'reading') await stores.maps.removeItem(keyOf(trial, record.id));
  };

  /** Of these photos and maps those that are not kept, though they should be. */
  const lost = async (trial: string, files: Files, maps: ReadonlyMap<string, ReadingMaps>) => {
    const noPhoto: [string, Blob][] = [];
    for (const [id, file] of files) if (!(await photo(trial, id))) noPhoto.push([id, file]);
    const noMap: [string, ReadingMaps][] = [];
    for (const [id, own] of maps)
      if ((await stores.maps.getItem(keyOf(trial, id))) === null) noMap.push([id, own]);
    return { photos: new Map(noPhoto), maps: new Map(noMap) };
  };

  return { write, keysOf, removeUnnamed, removeThoseOf, lost, photo, maps, wholeRecords, photosOf };
}

/**
 * Photos up to so many bytes are kept inside the database and not as a file beside it: the browser looks through all
 * such files at every write to see how full it is, which took 40 of the 45 ms of a press with 10 000 of them.
 */
const INSIDE = 48 * 1024;

/** A small photo as it is kept. */
interface Inside {
  readonly type: string;
  readonly bytes: ArrayBuffer;
}

const asKept = async (photo: Blob): Promise<Blob | Inside> =>
  photo.size <= INSIDE ? { type: photo.type, bytes: await photo.arrayBuffer() } : photo;

const asPhoto = (kept: Blob | Inside | null): Blob | null =>
  kept === null || kept instanceof Blob ? kept : new Blob([kept.bytes], { type: kept.type });

/** Records without their maps, and the maps by record. */
export function withoutMaps(records: readonly TrialRecord[]): {
  readonly light: readonly TrialRecord[];
  readonly maps: ReadonlyMap<string, ReadingMaps>;
} {
  const maps = new Map<string, ReadingMaps>();
  const light = records.map(record => {
    if (record.kind !== 'reading' || !record.reading.maps) return record;
    const { maps: own, ...reading } = record.reading;
    maps.set(record.id, own);
    return { ...record, reading };
  });
  return { light, maps };
}
