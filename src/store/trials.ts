import * as v from 'valibot';
import { checkTrial, parsePlan, type TrialBundle, writeBundle } from '../core/bundle/index.ts';
import { bad, good, type Outcome, type Progress } from '../core/outcome/index.ts';
import { SUMMARY_VERSION, summaryOf, TrialSummary } from '../core/summary/index.ts';
import { photosNamed, ReadingMaps, type TrialPlan, type TrialRecord } from '../core/trial/index.ts';
import type { FileKeys, Intent, Journal } from './journal.ts';
import type { Locks } from './locks.ts';
import { type Log, type LogEntry, logOf, recordsIn, type StoredRecords } from './log.ts';
import type { Marks } from './marks.ts';
import { StorageError } from './storage-error.ts';
import type { Stores } from './stores.ts';

/** How a plan is stored. A removed trial is kept until it is erased. */
interface KeptPlan {
  readonly plan: unknown;
  readonly removedAt?: string;
}

/** A trial in a list. */
export interface ListedTrial {
  readonly summary: TrialSummary;
  readonly removedAt?: string;
}

/** A stored trial that cannot be read; it stays stored and can be saved to a file as it is. */
export interface DamagedTrial {
  readonly id: string;
  readonly name: string;
  readonly why: string;
}

/** All trials of a workshop, newest first, and those that cannot be read. */
export interface Overview {
  readonly trials: readonly ListedTrial[];
  readonly damaged: readonly DamagedTrial[];
}

interface End {
  readonly trial: string;
  readonly entries: number;
}

interface KeptSummary {
  readonly summary: unknown;
  /** How many entries the log had: with one more it does not fit any longer. */
  readonly entries: number;
  readonly removedAt?: string;
}

/** Records of an import are kept in entries of so many. */
const PER_ENTRY = 500;

/** Photos to be kept with records, by the id the records name. */
export type Files = ReadonlyMap<string, Blob>;

/** The trials of a workshop: plans, records, maps and photos. */
export function trialsOf(stores: Stores, locks: Locks, journal: Journal, workshop: string, marks?: Marks) {
  const log = logOf(stores.log, stores.folds);
  const inTurn = <T>(trial: string, work: () => Promise<T>) =>
    locks.inTurn(`wet-test ${workshop} trial ${trial}`, work);

  const rawPlan = (trial: string) => stores.plans.getItem<KeptPlan>(trial);

  const plan = async (
    trial: string,
  ): Promise<Outcome<TrialPlan & { readonly removedAt?: undefined }> | undefined> => {
    const kept = await rawPlan(trial);
    return kept && !kept.removedAt ? parsePlan(kept.plan) : undefined;
  };

  /** A change of the plan; the summary goes before, so that none is left that does not fit. */
  const putPlan = async (trial: string, kept: KeptPlan) => {
    await stores.summaries.removeItem(trial);
    await stores.plans.setItem(trial, kept);
  };

  /** The summary of a trial made anew; its turn has to be held. */
  const summarise = async (trial: string): Promise<ListedTrial | DamagedTrial | undefined> => {
    const kept = await rawPlan(trial);
    if (!kept) return undefined;
    const parsed = parsePlan(kept.plan);
    if (!parsed.ok) return { id: trial, name: nameIn(kept), why: parsed.problem.say };
    const removed = kept.removedAt ? { removedAt: kept.removedAt } : {};
    try {
      const entries = await log.entries(trial);
      const summary = summaryOf({ plan: parsed.value, records: recordsIn(entries).records });
      const kept: KeptSummary = { summary, entries: entries.length, ...removed };
      await stores.summaries.setItem(trial, kept);
      marks?.remove(trial);
      return { summary, ...removed };
    } catch (error) {
      if (error instanceof StorageError) throw error;
      return {
        id: trial,
        name: parsed.value.name,
        why: `Its records do not fit together (${words(error)}).`,
      };
    }
  };

  const keptSummaries = async () => {
    const known = new Map<string, ListedTrial>();
    const ends: End[] = [];
    await stores.summaries.iterate<KeptSummary>((kept, trial) => {
      if ((kept?.summary as { version?: unknown } | undefined)?.version !== SUMMARY_VERSION) return;
      const summary = v.safeParse(TrialSummary, kept.summary);
      if (!summary.success || summary.output.id !== trial || !Number.isInteger(kept.entries)) return;
      ends.push({ trial, entries: kept.entries });
      known.set(trial, {
        summary: summary.output,
        ...(kept.removedAt ? { removedAt: kept.removedAt } : {}),
      });
    });
    return { known, ends };
  };

  /** Those of these trials whose log went on after their summary. */
  const outdated = async (ends: readonly End[]): Promise<string[]> => {
    const found: string[] = [];
    await inHandfuls(ends, async ({ trial, entries }) => {
      if (!(await log.endsAt(trial, entries))) found.push(trial);
    });
    return found;
  };

  const overview = async (tell: Progress = () => {}): Promise<Overview> => {
    const { known, ends } = await keptSummaries();
    // A record that came after a summary was made tells by its number. With marks only those that have one are asked.
    const doubted = ends.filter(({ trial }) => !marks || marks.has(trial));
    for (const trial of await outdated(doubted)) known.delete(trial);
    const ids = await stores.plans.keys();
    const missing = ids.filter(id => !known.has(id));
    const made = new Map<string, ListedTrial | DamagedTrial | undefined>();
    await inHandfuls(missing, async trial => {
      tell(made.size / missing.length, 'Looking through the trials');
      made.set(trial, await inTurn(trial, () => summarise(trial)));
    });
    const trials: ListedTrial[] = [];
    const damaged: DamagedTrial[] = [];
    for (const trial of ids) {
      const found = known.get(trial) ?? made.get(trial);
      if (!found) continue;
      if ('why' in found) damaged.push(found);
      else trials.push(found);
    }
    return { trials: trials.sort(newestFirst), damaged };
  };

  const remember = { photo: (trial: string, id: string) => `${trial}/${id}` };

  const writeFiles = async (trial: string, files: Files, maps: ReadonlyMap<string, ReadingMaps>) => {
    for (const [id, blob] of files) await stores.photos.setItem(remember.photo(trial, id), blob);
    for (const [id, map] of maps) await stores.maps.setItem(`${trial}/${id}`, map);
  };
  const keysOf = (trial: string, files: Files, maps: ReadonlyMap<string, unknown>): FileKeys => ({
    photos: [...files.keys()].map(id => remember.photo(trial, id)),
    maps: [...maps.keys()].map(id => `${trial}/${id}`),
  });
  const removeFiles = async ({ photos, maps }: FileKeys) => {
    for (const key of photos) await stores.photos.removeItem(key);
    for (const key of maps) await stores.maps.removeItem(key);
  };

  /** Adds records, with the photos they name; resolved only when all of it is written. */
  const append = (trial: string, records: readonly TrialRecord[], files: Files = new Map()): Promise<void> =>
    inTurn(trial, async () => {
      const { light, maps } = withoutMaps(records);
      const [kept, number] = await Promise.all([rawPlan(trial), log.next(trial)]);
      if (!kept) throw gone();
      marks?.add(trial);
      if (!files.size && !maps.size) return log.append(trial, { records: light }, number);
      const intent: Intent = { work: 'append', trial, keys: keysOf(trial, files, maps) };
      await journal.during(intent, async work => {
        await writeFiles(trial, files, maps);
        await log.append(trial, { work, records: light });
      });
    });

  const photo = async (trial: string, id: string): Promise<Blob | null> =>
    // Versions before this one kept photos by their id alone.
    (await stores.photos.getItem<Blob>(remember.photo(trial, id))) ?? stores.photos.getItem<Blob>(id);

  const maps = async (trial: string, record: string): Promise<ReadingMaps | undefined> => {
    const found = v.safeParse(ReadingMaps, await stores.maps.getItem(`${trial}/${record}`));
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

  /** Everything of a trial, its plan last: until that is there, nothing of a half-written import shows. */
  const keep = (bundle: TrialBundle, tell: Progress = () => {}): Promise<void> => {
    const { id } = bundle.plan;
    const { light, maps: apart } = withoutMaps(bundle.records);
    const files = new Map(
      [...bundle.photos].map(([name, bytes]) => [
        name,
        new Blob([bytes as BlobPart], { type: 'image/jpeg' }),
      ]),
    );
    return journal.during({ work: 'import', trial: id, keys: keysOf(id, files, apart) }, async () => {
      let done = 0;
      for (const [name, blob] of files) {
        tell(done++ / (files.size + 1), 'Storing the photos');
        await writeFiles(id, new Map([[name, blob]]), new Map());
      }
      tell(files.size / (files.size + 1), 'Storing the records');
      await writeFiles(id, new Map(), apart);
      await log.remove(id);
      for (let from = 0; from < light.length; from += PER_ENTRY)
        await log.append(id, { records: light.slice(from, from + PER_ENTRY) });
      await putPlan(id, { plan: bundle.plan });
    });
  };

  const erasing = async (trial: string) => {
    const { records } = recordsIn(await log.entries(trial));
    await stores.summaries.removeItem(trial);
    await stores.plans.removeItem(trial);
    for (const id of new Set(records.flatMap(photosNamed))) {
      await stores.photos.removeItem(remember.photo(trial, id));
      await stores.photos.removeItem(id);
    }
    for (const record of records)
      if (record.kind === 'reading') await stores.maps.removeItem(`${trial}/${record.id}`);
    await log.remove(trial);
  };

  /** Finishes or takes back what was broken off. */
  const repair = (intent: Intent, work: string): Promise<void> => {
    switch (intent.work) {
      case 'append':
        return inTurn(intent.trial, async () => {
          if (!(await log.has(intent.trial, work))) await removeFiles(intent.keys);
        });
      case 'import':
        return inTurn(intent.trial, async () => {
          if (await rawPlan(intent.trial)) return;
          await removeFiles(intent.keys);
          await log.remove(intent.trial);
        });
      case 'erase':
        return inTurn(intent.trial, () => erasing(intent.trial));
      default:
        return Promise.resolve();
    }
  };

  return {
    overview,
    /** Asks every log whether its summary still fits, and lets go of those that do not; says whether there was one. */
    recheck: async (): Promise<boolean> => {
      const wrong = await outdated((await keptSummaries()).ends);
      for (const trial of wrong) await inTurn(trial, () => stores.summaries.removeItem(trial));
      return wrong.length > 0;
    },
    plan,
    records: (trial: string): Promise<StoredRecords> => log.records(trial),
    maps,
    photo,
    append,
    repair,
    /** Keeps a plan that was just made. */
    savePlan: (made: TrialPlan): Promise<void> => inTurn(made.id, () => putPlan(made.id, { plan: made })),
    /** Changes the plan as it is stored now, whoever changed it last; nothing is stored when the change does not fit any more. */
    changePlan: (
      trial: string,
      change: (plan: TrialPlan) => Outcome<TrialPlan>,
    ): Promise<Outcome<TrialPlan>> =>
      inTurn(trial, async () => {
        const kept = await rawPlan(trial);
        if (!kept) return bad('no-trial', 'This trial is not in the workshop any more.');
        const now = parsePlan(kept.plan);
        const next = now.ok ? change(now.value) : now;
        if (next.ok) await putPlan(trial, { ...kept, plan: next.value });
        return next;
      }),
    remove: (trial: string, removedAt: string): Promise<void> =>
      inTurn(trial, async () => {
        const kept = await rawPlan(trial);
        if (kept) await putPlan(trial, { ...kept, removedAt });
      }),
    restore: (trial: string): Promise<void> =>
      inTurn(trial, async () => {
        const kept = await rawPlan(trial);
        if (kept) await putPlan(trial, { plan: kept.plan });
      }),
    erase: (trial: string): Promise<void> =>
      inTurn(trial, () => journal.during({ work: 'erase', trial }, () => erasing(trial))),
    /** The trial as an archive; never refused for a photo that is gone or a record that cannot be read: it says so inside. */
    exportTrial: async (trial: string): Promise<Outcome<Uint8Array>> => {
      const found = await plan(trial);
      if (!found) return bad('no-trial', 'This trial is not in the workshop any more.');
      if (!found.ok) return found;
      const { records } = await log.records(trial);
      const whole = await wholeRecords(trial, records);
      const photos = await photosOf(trial, records);
      return good(writeBundle({ plan: found.value, records: whole, photos }, new Date().toISOString()));
    },
    /** Everything stored of a trial as it is, readable or not, as JSON; photos are left out. */
    asStored: async (trial: string): Promise<string> => {
      const kept = await rawPlan(trial);
      return JSON.stringify({ trial, stored: kept, log: await log.entries(trial) }, null, 1);
    },
    /** Takes in a trial that was checked; says where one of the same name is. Nothing is left of it when the storage fails. */
    importTrial: (bundle: TrialBundle, tell?: Progress): Promise<Outcome<TrialPlan>> =>
      inTurn(bundle.plan.id, async () => {
        const { plan: made, records, photos, missing = [] } = bundle;
        const whole = checkTrial(made, records, new Set([...photos.keys(), ...missing]));
        if (!whole.ok) return whole;
        const here = await rawPlan(made.id);
        if (here)
          return bad(
            'here-already',
            `“${made.name}” is in this workshop already${here.removedAt ? ', among the removed trials' : ''}.`,
            here.removedAt
              ? 'Bring it back, or erase it and import again.'
              : 'Remove and erase it first if you want the one from the file.',
          );
        try {
          await keep(bundle, tell);
          return good(made);
        } catch (error) {
          if (!(error instanceof StorageError)) throw error;
          await erasing(made.id).catch(() => undefined);
          return bad(
            'storage',
            `The browser could not store this trial: ${error.problem.say}`,
            'Free some space and try again; nothing was changed.',
          );
        }
      }),
    log,
    inTurn,
  };
}
export type Trials = ReturnType<typeof trialsOf>;

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

/** How many trials are looked through side by side: while one waits for the storage another is worked out. */
const AT_ONCE = 6;

async function inHandfuls<T>(all: readonly T[], work: (one: T) => Promise<void>): Promise<void> {
  const queue = all[Symbol.iterator]();
  const hand = async () => {
    for (const one of queue) await work(one);
  };
  await Promise.all(Array.from({ length: AT_ONCE }, hand));
}

const gone = () =>
  new StorageError({
    code: 'no-trial',
    say: 'This trial is not in the workshop any more: it was erased, perhaps in another tab.',
    wayOut: 'Go back to the list of trials.',
  });

const newestFirst = (a: ListedTrial, b: ListedTrial) =>
  a.summary.createdAt < b.summary.createdAt ? 1 : a.summary.createdAt > b.summary.createdAt ? -1 : 0;
const nameIn = (kept: KeptPlan): string => {
  const name = (kept?.plan as { name?: unknown } | undefined)?.name;
  return typeof name === 'string' ? name.slice(0, 80) : 'A trial without a name';
};
const words = (error: unknown) => (error instanceof Error ? error.message : 'no reason given');

export type { Log, LogEntry, StoredRecords };
