import { parseRecord } from '../core/bundle/index.ts';
import type { TrialRecord } from '../core/trial/index.ts';
import type { Keyed } from './stores.ts';

/** What was recorded in one go. It is written once, whole or not at all, and never changed. */
export interface LogEntry {
  /** The work it belongs to, where files were written with it. */
  readonly work?: string;
  readonly records: readonly unknown[];
}

/** A trial's records, and the stored ones that could not be read: they stay stored, and can be saved as they are. */
export interface StoredRecords {
  readonly records: readonly TrialRecord[];
  readonly damaged: readonly unknown[];
}

const keyOf = (trial: string, number: number) => `${trial}/${number}`;

/** The first entries of a trial once more in one value: they never change, so it is never wrong, only short. */
interface Fold {
  readonly upTo: number;
  readonly entries: readonly LogEntry[];
}

/** How many entries are asked for at once, fewer after a fold; doubled while there are more. */
const FIRST = 4;
const AFTER_FOLD = 2;
const MOST = 256;
/** When so many entries had to be asked for one by one, they are folded. */
const FOLD_FROM = 48;

/**
 * The records of trials as numbered entries of each: reading one trial asks for its own keys and no other's. Whoever
 * appends has to hold the trial's turn.
 */
export function logOf(store: Keyed, folds: Keyed) {
  /** The number after the last known entry of a trial; another tab may have gone on since. */
  const ends = new Map<string, number>();

  const entries = async (trial: string): Promise<LogEntry[]> => {
    const fold = await folds.getItem<Fold>(trial);
    const found: LogEntry[] = isFold(fold) ? [...fold.entries] : [];
    const folded = found.length;
    for (let count = folded ? AFTER_FOLD : FIRST; ; count = Math.min(MOST, count * 2)) {
      const from = found.length;
      const batch = await Promise.all(
        Array.from({ length: count }, (_, i) => store.getItem<LogEntry>(keyOf(trial, from + i))),
      );
      const end = batch.indexOf(null);
      found.push(...((end < 0 ? batch : batch.slice(0, end)) as LogEntry[]));
      if (end >= 0) break;
    }
    ends.set(trial, found.length);
    if (found.length - folded >= FOLD_FROM)
      // Only to be quicker the next time: where there is no room for it, nothing is lost.
      await folds.setItem<Fold>(trial, { upTo: found.length, entries: found }).catch(() => undefined);
    return found;
  };

  return {
    entries,
    /** The number the next entry will probably have, and whether that is still free. */
    async next(trial: string): Promise<number> {
      let number = ends.get(trial) ?? (await entries(trial)).length;
      while ((await store.getItem(keyOf(trial, number))) !== null) number++;
      return number;
    },
    /** Whether nothing came after the first so many entries: one question, answered with nothing. */
    endsAt: async (trial: string, count: number): Promise<boolean> =>
      (await store.getItem(keyOf(trial, count))) === null,
    /** Writes one entry under a number that {@link next} gave, or after the last. */
    async append(trial: string, entry: LogEntry, at?: number): Promise<void> {
      const number = at ?? (await this.next(trial));
      await store.setItem(keyOf(trial, number), entry);
      ends.set(trial, number + 1);
    },
    /** Whether an entry of this work was written. */
    has: async (trial: string, work: string): Promise<boolean> =>
      (await entries(trial)).some(e => e?.work === work),
    /** Takes the entry of a work back, if there is one. Where another came after it, it stays as an empty one. */
    takeBack: async (trial: string, work: string): Promise<void> => {
      const all = await entries(trial);
      const number = all.findIndex(e => e?.work === work);
      if (number < 0) return;
      await folds.removeItem(trial);
      if (number === all.length - 1) await store.removeItem(keyOf(trial, number));
      else await store.setItem<LogEntry>(keyOf(trial, number), { records: [] });
      ends.delete(trial);
    },
    /** Takes a trial's entries away, the last first, so that what is left is whole when this is broken off. */
    async remove(trial: string): Promise<void> {
      const count = (await entries(trial)).length;
      await folds.removeItem(trial);
      for (let number = count - 1; number >= 0; number--) await store.removeItem(keyOf(trial, number));
      ends.delete(trial);
    },
    /** The records of a trial in order of time, each once, and what cannot be read. */
    records: async (trial: string): Promise<StoredRecords> => recordsIn(await entries(trial)),
    forget: () => ends.clear(),
  };
}
export type Log = ReturnType<typeof logOf>;

/** Every word in what is stored of a trial's records, readable or not: the names of what they need among them. */
export function wordsIn(entries: readonly unknown[]): ReadonlySet<string> {
  const found = new Set<string>();
  const look = (value: unknown): void => {
    if (typeof value === 'string') found.add(value);
    else if (value && typeof value === 'object') for (const part of Object.values(value)) look(part);
  };
  look(entries);
  return found;
}

const isFold = (fold: Fold | null): fold is Fold =>
  Array.isArray(fold?.entries) && fold.entries.length === fold.upTo;

/** The records of entries in order of time, each once, and what cannot be read. */
export function recordsIn(entries: readonly LogEntry[]): StoredRecords {
  const found = new Map<string, TrialRecord>();
  const damaged: unknown[] = [];
  for (const entry of entries) {
    if (!Array.isArray(entry?.records)) {
      damaged.push(entry);
      continue;
    }
    for (const raw of entry.records) {
      const record = parseRecord(raw);
      if (!record.ok) damaged.push(raw);
      else if (!found.has(record.value.id)) found.set(record.value.id, record.value);
    }
  }
  const records = [...found.values()].sort((a, b) =>
    a.at < b.at ? -1 : a.at > b.at ? 1 : a.id < b.id ? -1 : 1,
  );
  return { records, damaged };
}
