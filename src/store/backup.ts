import { BlobReader, configure, TextReader, Uint8ArrayReader, ZipWriter } from '@zip.js/zip.js';
import {
  checkWorkshop,
  lostWords,
  NO_WORKSHOP,
  readBundle,
  type TrialBundle,
  type WorkshopFile,
  workshopJson,
} from '../core/bundle/index.ts';
import { bad, Cancelled, good, type Outcome, type Problem, type Progress } from '../core/outcome/index.ts';
import { recipesIn } from '../core/recipe-book/index.ts';
import { say, write } from '../core/say/index.ts';
import { SHELF_KINDS, type ShelfItem, type ShelfKind, STARTER_SHELF } from '../core/shelf/index.ts';
import { mergeFields } from './merge.ts';
import type { Workshop } from './workshop.ts';
import { type Unzipped, unzip } from './zip-entries.ts';

// What is packed here was packed before, photo by photo; and no worker may be made of text.
configure({ useWebWorkers: false });

/** Where a long job says how far it is, and hears that it is to stop. */
export interface Going {
  readonly tell?: Progress;
  readonly signal?: AbortSignal;
}
const stopped = (signal: AbortSignal | undefined) => {
  if (signal?.aborted) throw new Cancelled();
};

/** What went into a backup. */
export interface BackedUp {
  readonly trials: number;
  readonly photos: number;
  readonly pictures: number;
  /** Trials that this version cannot read; they are in it as they are stored. */
  readonly unreadable: number;
  readonly bytes: number;
}

/**
 * Writes all of a workshop as one ZIP to `to`, a trial at a time: each as its own ZIP, as if it had been exported, and
 * the shelf, methods and pictures beside them (docs/FORMATS.md). Throws {@link Cancelled}, and what the storage or `to`
 * throw; then what was written is no whole ZIP and is never taken for one.
 */
export async function backUp(
  workshop: Workshop,
  to: WritableStream<Uint8Array>,
  exportedAt: string,
  { tell = () => {}, signal }: Going = {},
): Promise<BackedUp> {
  // Sizes and checksums stand before each file, so that it can be found without the directory at the end.
  const zip = new ZipWriter(to, { level: 0, dataDescriptor: false });
  let bytes = 0;
  const add = async (name: string, data: Uint8Array | Blob) => {
    stopped(signal);
    bytes += data instanceof Blob ? data.size : data.length;
    await zip.add(name, data instanceof Blob ? new BlobReader(data) : new Uint8ArrayReader(data));
  };
  const addJson = (name: string, told: WorkshopFile) => {
    stopped(signal);
    return zip.add(name, new TextReader(workshopJson(told)), { level: 6 });
  };
  tell(0, 'Looking through the trials');
  const { trials, damaged } = await workshop.overview();
  const { shelf } = await workshop.shelf();
  const pictures: WorkshopFile['pictures'][number][] = [];
  for (const picture of await workshop.pictures())
    if (await workshop.pictureFile(picture.id, 'original'))
      pictures.push({
        picture,
        original: `pictures/${picture.id}-original`,
        pixels: `pictures/${picture.id}-pixels`,
      });
  const waiting: WorkshopFile['waiting'][number][] = [];
  for (const { summary } of trials)
    for (const { file: photo, ...about } of await workshop.waitingPhotos(summary.id))
      waiting.push({ ...about, file: `waiting/${about.id}`, type: photo.type });
  const beside = {
    ...{ exportedAt, pictures, waiting },
    shelf:
      shelf === STARTER_SHELF
        ? null
        : SHELF_KINDS.flatMap(kind => shelf[kind].map(item => ({ kind, item: item as ShelfItem }))),
    methods: await workshop.methods(),
    recipes: await workshop.recipeEvents(),
  };
  // Once more at the end with the trials; a file that is cut off has at least this.
  await addJson('begun.json', { ...beside, trials: [], unreadable: [] });
  const listed: WorkshopFile['trials'][number][] = [];
  const unreadable: WorkshopFile['unreadable'][number][] = damaged.map(({ id, name }) => ({
    ...{ id, name },
    file: `unreadable/${id}.json`,
  }));
  for (const [i, { summary, removedAt }] of trials.entries()) {
    const { id, name } = summary;
    tell(i / (trials.length + 1), `Packing “${name}”`);
    const file = `trials/${id}.zip`;
    const [packed, { records, damaged: lost }] = [
      await workshop.exportTrial(id, true),
      await workshop.records(id),
    ];
    // A trial that was erased meanwhile is none any more.
    if (!packed.ok) continue;
    await add(file, packed.value);
    const photos = records.filter(r => r.kind === 'photo').length;
    listed.push({
      ...{ id, name, file, records: records.length, photos },
      ...(removedAt ? { removedAt } : {}),
    });
    if (lost.length) unreadable.push({ id, name, file: `unreadable/${id}.json` });
  }
  for (const { id, file } of unreadable)
    await add(file, new TextEncoder().encode(await workshop.asStored(id)));
  tell(trials.length / (trials.length + 1), 'Packing shelf, methods and pictures');
  for (const { picture, original, pixels } of pictures) {
    const given = (await workshop.pictureFile(picture.id, 'original')) ?? new Blob();
    await add(original, given);
    await add(pixels, (await workshop.pictureFile(picture.id, 'pixels')) ?? given);
  }
  const stillWaiting: WorkshopFile['waiting'][number][] = [];
  for (const about of waiting) {
    // One that was read meanwhile is among the records.
    const found = (await workshop.waitingPhotos(about.trial)).find(w => w.id === about.id);
    if (!found) continue;
    await add(about.file, found.file);
    stillWaiting.push(about);
  }
  await addJson('workshop.json', { ...beside, waiting: stillWaiting, trials: listed, unreadable });
  await zip.close();
  tell(1, 'Done');
  const photos = listed.reduce((sum, t) => sum + t.photos, 0);
  return {
    ...{ trials: listed.length, photos, pictures: pictures.length, unreadable: unreadable.length },
    bytes,
  };
}

/** A backup that was looked through: all of it, or of a damaged one what is whole. */
export interface Backup {
  readonly told: WorkshopFile;
  readonly trial: (at: number) => Promise<Outcome<TrialBundle>>;
  readonly file: (name: string, type: string) => Promise<Blob>;
  /** What is damaged or missing in it, a sentence each; nothing where all of it is whole. */
  readonly lost: readonly string[];
}

const AGAIN = 'Make the backup again, or choose another.';
const NO_BACKUP = bad('broken', 'This file is not a ZIP, or it is damaged.', AGAIN);

/**
 * Looks through a backup, all of it, a part at a time: names, sizes, checksums, every trial with its records and photos,
 * every shelf item and method. Of one that is damaged or cut off, what is whole is given and what is not is named.
 * Nothing is written. Fails with a sentence where it is no backup, or nothing in it is whole; throws {@link Cancelled}.
 */
export async function lookThrough(
  file: Blob,
  { tell = () => {}, signal }: Going = {},
): Promise<Outcome<Backup>> {
  try {
    tell(0, 'Opening');
    const unzipped = await unzip(file);
    if (!unzipped.ok) return unzipped;
    const zip = unzipped.value;
    const list = await listOf(zip);
    if (!list.ok) return list;
    const { told, lost } = list.value;
    const trial = async ({ id, name, file: own }: Listed): Promise<Outcome<TrialBundle>> => {
      const unpacked = await zip.bytesOf(own);
      const bundle = unpacked ? readBundle(unpacked.bytes) : bad('broken', 'It is missing from this backup.');
      if (!bundle.ok) return named(name, bundle.problem);
      return bundle.value.plan.id === id
        ? bundle
        : bad('broken', `“${name}” is another trial than it says it is.`, AGAIN);
    };
    const whole: Listed[] = [];
    for (const [i, listed] of told.trials.entries()) {
      stopped(signal);
      tell((0.9 * i) / told.trials.length, `Checking “${listed.name}”`);
      const checked = await trial(listed);
      if (!checked.ok) {
        lost.push(write(checked.problem.say));
        continue;
      }
      const without = lostWords(checked.value.plan.name, checked.value.lost ?? []);
      if (without) lost.push(without);
      const { plan, records } = checked.value;
      whole.push(
        listed.name
          ? listed
          : {
              ...{ ...listed, name: plan.name, records: records.length },
              photos: records.filter(r => r.kind === 'photo').length,
            },
      );
    }
    tell(0.9, 'Checking the pictures');
    const isWhole = async (name: string) => (await zip.bytesOf(name))?.isWhole === true;
    const pictures: WorkshopFile['pictures'][number][] = [];
    for (const p of told.pictures)
      if ((await isWhole(p.original)) && (await isWhole(p.pixels))) pictures.push(p);
      else lost.push(`The picture “${p.picture.name}” is damaged or missing in this file.`);
    const waiting: WorkshopFile['waiting'][number][] = [];
    for (const w of told.waiting)
      if (await isWhole(w.file)) waiting.push(w);
      else lost.push(`The photo “${w.name}”, which waits to be read, is damaged or missing in this file.`);
    if (!whole.length && lost.length && zip.isDamaged && !told.recipes.length && !told.shelf)
      return NO_BACKUP;
    return good({
      told: { ...told, trials: whole, pictures, waiting },
      trial: at => trial(whole[at]),
      file: async (name, type) => {
        const found = await zip.bytesOf(name);
        if (!found?.isWhole) throw new Error(`“${name}” in this backup is damaged.`);
        return new Blob([found.bytes as BlobPart], { type });
      },
      lost,
    });
  } catch (error) {
    if (error instanceof Cancelled) throw error;
    return NO_BACKUP;
  }
}

type Listed = WorkshopFile['trials'][number];
const named = (name: string, problem: Problem): Outcome<never> => ({
  ok: false,
  problem: { ...problem, say: name ? say`“${name}”: ${problem.say}` : say`A trial: ${problem.say}` },
});

/** What a backup says it holds; where that is damaged, what it said at its beginning, and the trials that are found in it. */
async function listOf(
  zip: Unzipped,
): Promise<Outcome<{ readonly told: WorkshopFile; readonly lost: string[] }>> {
  const textOf = async (name: string) => {
    const found = await zip.bytesOf(name);
    return found?.isWhole ? new TextDecoder().decode(found.bytes) : undefined;
  };
  const list = await textOf('workshop.json');
  if (list !== undefined) {
    const told = checkWorkshop(list);
    return told.ok ? good({ told: told.value, lost: [] }) : told;
  }
  const trials = zip.names.filter(name => name.startsWith('trials/'));
  const atFirst = await textOf('begun.json');
  if (!trials.length && atFirst === undefined)
    return zip.isDamaged && !zip.names.length ? NO_BACKUP : NO_WORKSHOP;
  const begun = atFirst === undefined ? undefined : checkWorkshop(atFirst);
  if (begun && !begun.ok) return begun;
  const lost = begun
    ? ['This file is damaged or cut off: what stands behind the damage is not in it.']
    : ['This file is damaged or cut off: the shelf, methods, recipes and pictures in it cannot be read.'];
  const told: WorkshopFile = begun?.value ?? {
    ...{ exportedAt: new Date(0).toISOString(), trials: [], unreadable: [], pictures: [], waiting: [] },
    ...{ shelf: null, methods: [], recipes: [] },
  };
  const found = trials.map(file => ({
    ...{ id: file.slice('trials/'.length, -'.zip'.length), name: '', file, records: 0, photos: 0 },
  }));
  return good({ told: { ...told, trials: found }, lost });
}

/** What came of taking a backup in. */
export interface TakenIn {
  /** Trials that were not here. */
  readonly fresh: number;
  /** Trials that were here and got records they did not have. */
  readonly joined: number;
  /** Trials in which nothing was new. */
  readonly same: number;
  readonly records: number;
  readonly photos: number;
  readonly items: number;
  readonly methods: number;
  readonly pictures: number;
  /** Events of recipes: versions, and what was made by them. */
  readonly recipes: number;
  /** Names of the recipes that came in, or got something new. */
  readonly recipeNames: readonly string[];
  /** What could not be joined, in words. */
  readonly left: readonly string[];
}

/**
 * Takes a backup in, into an empty workshop or one that went on meanwhile: trials by their identity, their records by
 * theirs, so that nothing is lost and nothing doubled whoever wrote, and the same again changes nothing. Of the shelf and
 * the methods, what was changed here stands; what is only there comes in. May be broken off at any moment and taken up
 * again. Throws {@link Cancelled} and what the storage throws.
 */
export async function takeIn(
  workshop: Workshop,
  { told, trial, file, lost }: Backup,
  { tell = () => {}, signal }: Going = {},
): Promise<TakenIn> {
  const left: string[] = [...lost];
  let [fresh, joined, same, records, photos] = [0, 0, 0, 0, 0];
  for (const [i, { name, removedAt }] of told.trials.entries()) {
    tell(i / (told.trials.length + 1), `Taking in “${name}”`);
    stopped(signal);
    const bundle = await trial(i);
    const came = bundle.ok ? await workshop.takeInTrial(bundle.value, removedAt) : bundle;
    if (!came.ok) {
      left.push(write(came.problem.say));
      continue;
    }
    if (came.value.isFresh) fresh++;
    else if (came.value.records || came.value.photos || came.value.beside) joined++;
    else same++;
    records += came.value.records;
    photos += came.value.photos;
  }
  stopped(signal);
  tell(told.trials.length / (told.trials.length + 1), 'Taking in shelf, methods and pictures');
  const items = await takeInShelf(workshop, told.shelf);
  const methods = await takeInMethods(workshop, told.methods);
  const known = new Set((await workshop.recipeEvents()).map(e => e.id));
  const recipes = await workshop.addRecipeEvents(told.recipes);
  const changed = new Set(told.recipes.flatMap(e => (known.has(e.id) ? [] : [e.recipe])));
  const recipeNames = recipesIn(told.recipes).flatMap(book => (changed.has(book.id) ? [book.now.name] : []));
  const here = new Map((await workshop.pictures()).map(p => [p.id, p]));
  const missing: WorkshopFile['pictures'][number][] = [];
  // One that is here without its file gets that back.
  for (const p of told.pictures)
    if (!here.has(p.picture.id) || !(await workshop.pictureFile(p.picture.id, 'original'))) missing.push(p);
  for (const { picture, original, pixels } of missing)
    await workshop.addPicture(
      here.get(picture.id) ?? picture,
      await file(original, ''),
      await file(pixels, 'image/png'),
    );
  for (const { file: name, type, ...about } of told.waiting)
    if (!(await isReadAlready(workshop, about)))
      await workshop.keepWaiting({ ...about, file: await file(name, type) });
  tell(1, 'Done');
  return {
    ...{ fresh, joined, same, records, photos, items, methods, recipes, recipeNames },
    ...{ pictures: missing.length, left },
  };
}

/** Whether a photo that waited when the backup was made is among the records here. */
async function isReadAlready(workshop: Workshop, { trial, id }: { trial: string; id: string }) {
  const { records } = await workshop.records(trial);
  return records.some(r => r.kind === 'photo' && r.photo === id);
}

/** The shelf: what is only there comes in; of what both have, each field that was changed here stands. */
async function takeInShelf(workshop: Workshop, theirs: WorkshopFile['shelf']): Promise<number> {
  if (!theirs) return 0;
  const { shelf } = await workshop.shelf();
  let changed = 0;
  for (const kind of SHELF_KINDS) {
    const own = new Map((shelf[kind] as readonly ShelfItem[]).map(item => [item.id, item]));
    const coming = theirs
      .filter(t => t.kind === kind)
      .flatMap(({ item }) => joinedItem(kind, item, own) ?? []);
    if (coming.length) await workshop.saveItems(kind, coming);
    changed += coming.length;
  }
  return changed;
}

function joinedItem(
  kind: ShelfKind,
  theirs: ShelfItem,
  own: ReadonlyMap<string, ShelfItem>,
): ShelfItem | undefined {
  const mine = own.get(theirs.id);
  if (!mine) return theirs;
  const starter = (STARTER_SHELF[kind] as readonly ShelfItem[]).find(s => s.id === theirs.id);
  // What neither began with the other's is mine as it stands.
  const joined = starter ? mergeFields<ShelfItem>(starter, mine, theirs) : mine;
  return JSON.stringify(joined) === JSON.stringify(mine) ? undefined : joined;
}

/** Methods of one's own: one that both have under a name, but otherwise, comes in beside the own one. */
async function takeInMethods(workshop: Workshop, theirs: WorkshopFile['methods']): Promise<number> {
  const plain = (m: object) => JSON.stringify({ ...m, id: '' });
  const own = new Set((await workshop.methods()).map(plain));
  const coming = theirs.filter(m => !own.has(plain(m)));
  for (const method of coming) await workshop.addMethod(method);
  return coming.length;
}
