import {
  BlobReader,
  BlobWriter,
  configure,
  type Entry,
  type FileEntry,
  TextReader,
  Uint8ArrayReader,
  Uint8ArrayWriter,
  ZipReader,
  ZipWriter,
} from '@zip.js/zip.js';
import {
  checkWorkshop,
  readBundle,
  type TrialBundle,
  WORKSHOP_NAMES,
  type WorkshopFile,
  workshopJson,
} from '../core/bundle/index.ts';
import { bad, Cancelled, good, type Outcome, type Progress } from '../core/outcome/index.ts';
import { SHELF_KINDS, type ShelfItem, type ShelfKind, STARTER_SHELF } from '../core/shelf/index.ts';
import { mergeFields } from './merge.ts';
import type { Workshop } from './workshop.ts';

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
  const zip = new ZipWriter(to, { level: 0 });
  let bytes = 0;
  const add = async (name: string, data: Uint8Array | Blob) => {
    stopped(signal);
    bytes += data instanceof Blob ? data.size : data.length;
    await zip.add(name, data instanceof Blob ? new BlobReader(data) : new Uint8ArrayReader(data));
  };
  tell(0, 'Looking through the trials');
  const { trials, damaged } = await workshop.overview();
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
  const pictures: WorkshopFile['pictures'][number][] = [];
  for (const picture of await workshop.pictures()) {
    const [original, pixels] = [`pictures/${picture.id}-original`, `pictures/${picture.id}-pixels`];
    const given = await workshop.pictureFile(picture.id, 'original');
    const drawn = (await workshop.pictureFile(picture.id, 'pixels')) ?? given;
    if (!given || !drawn) continue;
    await add(original, given);
    await add(pixels, drawn);
    pictures.push({ picture, original, pixels });
  }
  const waiting: WorkshopFile['waiting'][number][] = [];
  for (const { summary } of trials)
    for (const { file: photo, ...about } of await workshop.waitingPhotos(summary.id)) {
      const file = `waiting/${about.id}`;
      await add(file, photo);
      waiting.push({ ...about, file, type: photo.type });
    }
  const { shelf } = await workshop.shelf();
  const told: WorkshopFile = {
    ...{ exportedAt, trials: listed, unreadable, pictures, waiting },
    shelf:
      shelf === STARTER_SHELF
        ? null
        : SHELF_KINDS.flatMap(kind => shelf[kind].map(item => ({ kind, item: item as ShelfItem }))),
    methods: await workshop.methods(),
    recipes: await workshop.recipeEvents(),
  };
  stopped(signal);
  await zip.add('workshop.json', new TextReader(workshopJson(told)), { level: 6 });
  await zip.close();
  tell(1, 'Done');
  const photos = listed.reduce((sum, t) => sum + t.photos, 0);
  return {
    ...{ trials: listed.length, photos, pictures: pictures.length, unreadable: unreadable.length },
    bytes,
  };
}

/** A backup that was looked through and found whole. */
export interface Backup {
  readonly told: WorkshopFile;
  readonly trial: (at: number) => Promise<Outcome<TrialBundle>>;
  readonly file: (name: string, type: string) => Promise<Blob>;
}

/** No part of a backup may unpack to more than a trial's own archive may hold. */
const MOST_BYTES = 900e6;
const MOST_FILES = 60_000;
const AGAIN = 'Make the backup again, or choose another.';

/**
 * Looks through a backup, all of it, a part at a time: names, sizes, checksums, every trial with its records and photos,
 * every shelf item and method. Nothing is written. Fails with a sentence; throws {@link Cancelled}.
 */
export async function lookThrough(
  file: Blob,
  { tell = () => {}, signal }: Going = {},
): Promise<Outcome<Backup>> {
  const zip = new ZipReader(new BlobReader(file), { checkSignature: true });
  try {
    tell(0, 'Opening');
    const entries = new Map<string, FileEntry>();
    for (const entry of await zip.getEntries()) {
      const wrong = wrongWith(entry, entries);
      if (wrong) return wrong;
      entries.set(entry.filename, entry as FileEntry);
    }
    const bytesOf = async (name: string): Promise<Uint8Array | undefined> =>
      entries.get(name)?.getData(new Uint8ArrayWriter());
    const list = await bytesOf('workshop.json');
    const told = checkWorkshop(list ? new TextDecoder().decode(list) : '{}');
    if (!told.ok) return told;
    const { trials, pictures, waiting } = told.value;
    const named = [...trials, ...told.value.unreadable, ...waiting].map(t => t.file);
    const gone = [...named, ...pictures.flatMap(p => [p.original, p.pixels])].find(n => !entries.has(n));
    if (gone !== undefined) return bad('broken', `“${gone}” is missing from this backup.`, AGAIN);
    const trial = async (at: number): Promise<Outcome<TrialBundle>> => {
      const { id, name, file: own } = trials[at];
      const bytes = await bytesOf(own).catch(() => undefined);
      const bundle = bytes ? readBundle(bytes) : bad('broken', 'It is damaged.');
      if (!bundle.ok)
        return { ok: false, problem: { ...bundle.problem, say: `“${name}”: ${bundle.problem.say}` } };
      return bundle.value.plan.id === id
        ? bundle
        : bad('broken', `“${name}” is another trial than it says it is.`, AGAIN);
    };
    for (const [i, { name }] of trials.entries()) {
      stopped(signal);
      tell((0.9 * i) / trials.length, `Checking “${name}”`);
      const checked = await trial(i);
      if (!checked.ok) return checked;
    }
    tell(0.9, 'Checking the pictures');
    for (const p of [...pictures.flatMap(x => [x.original, x.pixels]), ...waiting.map(w => w.file)])
      await bytesOf(p);
    return good({
      told: told.value,
      trial,
      file: async (name, type) => entries.get(name)!.getData(new BlobWriter(type)),
    });
  } catch (error) {
    if (error instanceof Cancelled) throw error;
    return bad('broken', 'This file is not a ZIP, or it is damaged.', AGAIN);
  }
}

function wrongWith(entry: Entry, known: ReadonlyMap<string, Entry>): Outcome<never> | undefined {
  const { filename, uncompressedSize, encrypted, directory } = entry;
  if (known.size >= MOST_FILES || uncompressedSize > MOST_BYTES)
    return bad('too-big', 'This file unpacks to far more than a workshop can hold, so it was not opened.');
  if (directory || encrypted || !WORKSHOP_NAMES.test(filename))
    return bad(
      'foreign',
      `This ZIP holds “${filename.slice(0, 60)}”, which Wet Test never writes into a backup, so it was not opened.`,
      'Choose a file that “Back up the workshop” made.',
    );
  if (known.has(filename))
    return bad('broken', 'This ZIP holds two files of one name, so it was not opened.', AGAIN);
  return undefined;
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
  { told, trial, file }: Backup,
  { tell = () => {}, signal }: Going = {},
): Promise<TakenIn> {
  const left: string[] = [];
  let [fresh, joined, same, records, photos] = [0, 0, 0, 0, 0];
  for (const [i, { name, removedAt }] of told.trials.entries()) {
    tell(i / (told.trials.length + 1), `Taking in “${name}”`);
    stopped(signal);
    const bundle = await trial(i);
    const came = bundle.ok ? await workshop.takeInTrial(bundle.value, removedAt) : bundle;
    if (!came.ok) {
      left.push(came.problem.say);
      continue;
    }
    if (came.value.isFresh) fresh++;
    else if (came.value.records) joined++;
    else same++;
    records += came.value.records;
    photos += came.value.photos;
  }
  stopped(signal);
  tell(told.trials.length / (told.trials.length + 1), 'Taking in shelf, methods and pictures');
  const items = await takeInShelf(workshop, told.shelf);
  const methods = await takeInMethods(workshop, told.methods);
  const recipes = await workshop.addRecipeEvents(told.recipes);
  const here = new Set((await workshop.pictures()).map(p => p.id));
  const missing = told.pictures.filter(p => !here.has(p.picture.id));
  for (const { picture, original, pixels } of missing)
    await workshop.addPicture(picture, await file(original, ''), await file(pixels, 'image/png'));
  for (const { file: name, type, ...about } of told.waiting)
    await workshop.keepWaiting({ ...about, file: await file(name, type) });
  tell(1, 'Done');
  return { fresh, joined, same, records, photos, items, methods, recipes, pictures: missing.length, left };
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
