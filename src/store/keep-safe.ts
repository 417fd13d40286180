import * as v from 'valibot';
import { photosNamed } from '../core/trial/index.ts';
import type { Workshop } from './workshop.ts';

const LAST = 'backup';
const FOLDER = 'backup folder';

const Last = v.object({ at: v.string(), bytes: v.number(), trials: v.number() });
/** The last backup that was made of a workshop in this browser. */
export type LastBackup = v.InferOutput<typeof Last>;

/** Nothing where none was made yet. */
export async function lastBackup(workshop: Workshop): Promise<LastBackup | undefined> {
  const { stores } = await workshop.opened();
  const found = v.safeParse(Last, await stores.meta.getItem(LAST));
  return found.success ? found.output : undefined;
}

/** Notes that a backup was made. */
export const noteBackup = async (workshop: Workshop, last: LastBackup): Promise<void> => {
  const { stores } = await workshop.opened();
  await stores.meta.setItem(LAST, last);
};

/** The folder the maker chose for backups, where the browser keeps such. */
export async function backupFolder(workshop: Workshop): Promise<FileSystemDirectoryHandle | undefined> {
  const { stores } = await workshop.opened();
  return (await stores.meta.getItem<FileSystemDirectoryHandle>(FOLDER)) ?? undefined;
}

/** Keeps the folder for the next backup. */
export const keepBackupFolder = async (
  workshop: Workshop,
  folder: FileSystemDirectoryHandle,
): Promise<void> => {
  const { stores } = await workshop.opened();
  await stores.meta.setItem(FOLDER, folder);
};

/** After so many days a backup is called old. */
export const OLD_DAYS = 14;

/**
 * Whether it is time to back up: something was kept, and no backup is younger than {@link OLD_DAYS}.
 *
 * @param last when the last one was made (ms); nothing where there is none. @param newest when something was made last.
 *
 * @example isBackupDue(undefined, Date.parse('2026-05-01'), Date.parse('2026-05-20')); // => true
 * @example isBackupDue(Date.parse('2026-05-10'), Date.parse('2026-05-12'), Date.parse('2026-05-20')); // => false
 */
export function isBackupDue(last: number | undefined, newest: number | undefined, now: number): boolean {
  if (newest === undefined) return false;
  const since = last ?? newest;
  // What was there before the last backup is in it.
  if (last !== undefined && newest <= last) return false;
  return now - since > OLD_DAYS * 86_400_000;
}

/** What could be taken away without losing anything that is shown. */
export interface Spare {
  /** Removed trials, which wait to be erased. */
  readonly trials: readonly {
    readonly id: string;
    readonly name: string;
    readonly photos: number;
    readonly bytes: number;
  }[];
  /** Files of pictures that were removed. */
  readonly files: readonly { readonly key: string; readonly bytes: number }[];
}

/** Looks for what a clean-up would take away; nothing is changed. */
export async function spareIn(workshop: Workshop): Promise<Spare> {
  const { stores } = await workshop.opened();
  const { trials } = await workshop.overview();
  const removed: Spare['trials'][number][] = [];
  for (const { summary, removedAt } of trials) {
    if (!removedAt) continue;
    const { records } = await workshop.records(summary.id);
    const ids = [...new Set(records.flatMap(photosNamed))];
    let bytes = 0;
    for (const id of ids) bytes += (await workshop.photo(summary.id, id))?.size ?? 0;
    removed.push({ id: summary.id, name: summary.name, photos: ids.length, bytes });
  }
  const known = new Set(await stores.pictures.keys());
  const files: Spare['files'][number][] = [];
  for (const key of await stores.pictureFiles.keys())
    if (!known.has(key.split('/')[0]))
      files.push({ key, bytes: (await stores.pictureFiles.getItem<Blob>(key))?.size ?? 0 });
  return { trials: removed, files };
}

/** Takes away what {@link spareIn} found, for good. */
export async function cleanUp(workshop: Workshop, { trials, files }: Spare): Promise<void> {
  const { stores } = await workshop.opened();
  for (const { id } of trials) await workshop.erase(id);
  const known = new Set(await stores.pictures.keys());
  // A picture that was brought back meanwhile keeps its files.
  for (const { key } of files) if (!known.has(key.split('/')[0])) await stores.pictureFiles.removeItem(key);
}
