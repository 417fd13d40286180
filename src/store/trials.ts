import { checkTrial, parsePlan, type TrialBundle } from '../core/bundle/index.ts';
import { bad, good, type Outcome, type Progress } from '../core/outcome/index.ts';
import { say } from '../core/say/index.ts';
import { photosNamed, type TrialPlan, type TrialRecord, versioned } from '../core/trial/index.ts';
import type { Intent, Journal } from './journal.ts';
import type { Locks } from './locks.ts';
import { logOf, recordsIn, type StoredRecords, wordsIn } from './log.ts';
import type { Marks } from './marks.ts';
import { queueOf } from './queue.ts';
import { StorageError } from './storage-error.ts';
import type { Stores } from './stores.ts';
import { type KeptPlan, summariesOf } from './summaries.ts';
import { type Files, filesOf, withoutMaps } from './trial-files.ts';

/** Records of an import are kept in entries of so many. */
const PER_ENTRY = 500;

/** What was worked out of a trial, and of what: something that names plan, records and the version of what worked it out. */
interface WorkedOut {
  readonly of: string;
  readonly found: unknown;
}

/** The trials of a workshop: plans, records, maps and photos. */
export function trialsOf(stores: Stores, locks: Locks, journal: Journal, workshop: string, marks?: Marks) {
  const queue = queueOf(stores.queue);
  const log = logOf(stores.log, stores.folds);
  const inTurn = <T>(trial: string, work: () => Promise<T>) =>
    locks.inTurn(`wet-test ${workshop} trial ${trial}`, work);

  const rawPlan = (trial: string) => stores.plans.getItem<KeptPlan>(trial);
  const files = filesOf(stores);
  const summaries = summariesOf({ stores, log, marks, rawPlan, inTurn, isSample: workshop === 'demo' });

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

  /** Adds records, with the photos they name; resolved only when all of it is written. */
  const append = (trial: string, records: readonly TrialRecord[], photos: Files = new Map()): Promise<void> =>
    inTurn(trial, async () => {
      const { light, maps } = withoutMaps(records);
      const [kept, number] = await Promise.all([rawPlan(trial), log.next(trial)]);
      if (!kept) throw gone();
      marks?.add(trial);
      if (!photos.size && !maps.size) return log.append(trial, { records: light.map(versioned) }, number);
      // A name stands for one file for good: what is kept under it, other records may show.
      const fresh = await files.lost(trial, photos, maps);
      const intent: Intent = {
        work: 'append',
        trial,
        keys: files.keysOf(trial, fresh.photos, fresh.maps),
      };
      await journal.during(
        intent,
        async work => {
          await files.write(trial, fresh.photos, fresh.maps);
          await log.append(trial, { work, records: light.map(versioned) });
        },
        settleHere,
      );
    });

  /** Sums a trial up that came in, so that the next opening need not; where there is no room for it, that one does. */
  const sumUp = (trial: string) => summaries.summarise(trial).catch(() => undefined);

  /**
   * Everything of a trial, its plan last: until that is there, nothing of a half-written import shows. `also`: what is
   * recorded of it in trials that are here, whose turns have to be held too.
   */
  const keep = (
    bundle: TrialBundle,
    {
      tell = () => {},
      removedAt,
      also = new Map(),
    }: {
      tell?: Progress;
      removedAt?: string | undefined;
      also?: ReadonlyMap<string, readonly TrialRecord[]>;
    } = {},
  ): Promise<void> => {
    const { id } = bundle.plan;
    const { light, maps: apart } = withoutMaps(bundle.records);
    const photos = new Map([...bundle.photos].map(([name, bytes]) => [name, asJpeg(bytes)]));
    const intent: Intent = {
      ...{ work: 'import', trial: id, keys: files.keysOf(id, photos, apart) },
      ...(also.size ? { also: [...also.keys()] } : {}),
    };
    return journal.during(
      intent,
      async work => {
        let done = 0;
        for (const [name, blob] of photos) {
          tell(done++ / (photos.size + 1), 'Storing the photos');
          await files.write(id, new Map([[name, blob]]), new Map());
        }
        tell(photos.size / (photos.size + 1), 'Storing the records');
        await files.write(id, new Map(), apart);
        await log.remove(id);
        for (let from = 0; from < light.length; from += PER_ENTRY)
          await log.append(id, { records: light.slice(from, from + PER_ENTRY).map(versioned) });
        for (const [trial, records] of also) {
          marks?.add(trial);
          await log.append(trial, { work, records: records.map(versioned) });
        }
        await putPlan(id, { plan: bundle.plan, ...(removedAt ? { removedAt } : {}) });
      },
      settleHere,
    );
  };

  /** A trial with its records, their maps and its photos; one that was removed only if `evenRemoved`. */
  const whole = async (trial: string, evenRemoved = false): Promise<Outcome<TrialBundle>> => {
    const kept = await rawPlan(trial);
    const found = kept && (evenRemoved || !kept.removedAt) ? parsePlan(kept.plan) : undefined;
    if (!found) return bad('no-trial', 'This trial is not in the workshop any more.');
    if (!found.ok) return found;
    const { records } = await log.records(trial);
    const photos = await files.photosOf(trial, records);
    const missing = records.flatMap(photosNamed).filter(id => !photos.has(id));
    return good({
      plan: found.value,
      records: await files.wholeRecords(trial, records),
      photos,
      ...(missing.length ? { missing } : {}),
    });
  };

  /** Takes away what is left of a trial without a plan. */
  const sweep = async (trial: string) => {
    const { records } = recordsIn(await log.entries(trial));
    await stores.summaries.removeItem(trial);
    await stores.worked.removeItem(trial);
    await files.removeThoseOf(trial, records);
    await queue.forget(trial);
    await log.remove(trial);
  };

  type Turn = <T>(trial: string, work: () => Promise<T>) => Promise<T>;
  /** Takes back what was broken off, or sweeps up after what is done; a file that anything names stays. */
  const settling =
    (turn: Turn) =>
    async (intent: Intent, work: string): Promise<void> => {
      switch (intent.work) {
        case 'append':
          return turn(intent.trial, async () =>
            files.removeUnnamed(intent.keys, wordsIn(await log.entries(intent.trial))),
          );
        case 'import': {
          const isThere = await turn(intent.trial, async () => {
            if (await rawPlan(intent.trial)) {
              await files.removeUnnamed(intent.keys, wordsIn(await log.entries(intent.trial)));
              return true;
            }
            await files.removeUnnamed(intent.keys, new Set());
            await log.remove(intent.trial);
            return false;
          });
          if (isThere) return;
          for (const trial of intent.also ?? [])
            await turn(trial, async () => {
              await stores.summaries.removeItem(trial);
              await log.takeBack(trial, work);
            });
          return;
        }
        case 'erase':
          // With a plan it was not erased after all, or came in again.
          return turn(intent.trial, async () => {
            if (!(await rawPlan(intent.trial))) await sweep(intent.trial);
          });
        default:
      }
    };
  /** For work that failed just now, whose turn is held. */
  const settleHere = settling((_, work) => work());

  return {
    overview: summaries.overview,
    recheck: summaries.recheck,
    plan,
    records: (trial: string): Promise<StoredRecords> => log.records(trial),
    maps: files.maps,
    photo: files.photo,
    append,
    /** What was worked out of a trial last, if it was worked out of the same (`of`); nothing where it was not, or cannot be read. */
    workedOut: async (trial: string, of: string): Promise<unknown> => {
      const kept = await stores.worked.getItem<WorkedOut>(trial).catch(() => null);
      return kept?.of === of ? kept.found : undefined;
    },
    /** Keeps what was worked out of a trial, in the place of what was before: only to be quicker the next time. */
    keepWorkedOut: (trial: string, of: string, found: unknown): Promise<void> =>
      inTurn(trial, async () => {
        // Of a trial that was erased meanwhile nothing is kept.
        if (await rawPlan(trial)) await stores.worked.setItem<WorkedOut>(trial, { of, found });
      }),
    /** For work that was broken off. */
    repair: settling(inTurn),
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
      inTurn(trial, () =>
        journal.during({ work: 'erase', trial }, () => stores.plans.removeItem(trial), settleHere),
      ),
    /** The trial as an archive; never refused for a photo that is gone or a record that cannot be read: it says so inside. */
    exportTrial: async (trial: string, evenRemoved = false): Promise<Outcome<Uint8Array>> => {
      const found = await whole(trial, evenRemoved);
      if (!found.ok) return found;
      const { writeBundle } = await import('../core/bundle/zip.ts');
      return good(writeBundle(found.value, new Date().toISOString()));
    },
    whole,
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
          await keep(bundle, { ...(tell ? { tell } : {}) });
          await sumUp(made.id);
          return good(made);
        } catch (error) {
          if (!(error instanceof StorageError)) throw error;
          return bad(
            'storage',
            say`The browser could not store this trial: ${error.problem.say}`,
            'Free some space and try again; nothing was changed.',
          );
        }
      }),
    /**
     * Takes in a trial that was checked, whether it is here or not: of one that is here, the records and photos that it
     * does not have, in one go. Fails where they do not fit the plan that is here.
     */
    takeInTrial: (bundle: TrialBundle, removedAt?: string): Promise<Outcome<Came>> =>
      inTurn(bundle.plan.id, async () => {
        const { id, name } = bundle.plan;
        const kept = await rawPlan(id);
        if (!kept) {
          await keep(bundle, { removedAt });
          await sumUp(id);
          return good({
            isFresh: true,
            records: bundle.records.length,
            ...countedIn(bundle.records, bundle.photos),
          });
        }
        const here = parsePlan(kept.plan);
        if (!here.ok) return bad('no-plan', say`“${name}” is here, but cannot be read: ${here.problem.say}`);
        const { records } = await log.records(id);
        const known = new Set(records.map(r => r.id));
        const fresh = bundle.records.filter(r => !known.has(r.id));
        const named = new Set([...records, ...fresh].flatMap(photosNamed));
        const theirs = new Map(
          [...bundle.photos].filter(([photo]) => named.has(photo)).map(([p, bytes]) => [p, asJpeg(bytes)]),
        );
        // What is here without its photo or its map gets them back, and what is new brings its own.
        const { photos, maps } = await files.lost(id, theirs, withoutMaps(bundle.records).maps);
        if (!fresh.length && !photos.size && !maps.size)
          return good({ isFresh: false, records: 0, photos: 0, beside: 0 });
        const all = [...records.flatMap(photosNamed), ...bundle.photos.keys(), ...(bundle.missing ?? [])];
        const fits = checkTrial(here.value, [...records, ...fresh], new Set(all));
        if (!fits.ok)
          return bad(
            'no-fit',
            say`“${name}” is here with another plan, so it was left as it is: ${fits.problem.say}`,
          );
        if (fresh.length) marks?.add(id);
        const { light } = withoutMaps(fresh);
        await journal.during(
          { work: 'append', trial: id, keys: files.keysOf(id, photos, maps) },
          async work => {
            await files.write(id, photos, maps);
            if (light.length) await log.append(id, { work, records: light.map(versioned) });
          },
          settleHere,
        );
        if (fresh.length) await sumUp(id);
        const came = countedIn([...records, ...fresh], photos);
        return good({ isFresh: false, records: fresh.length, ...came, beside: came.beside + maps.size });
      }),
    /**
     * Keeps a trial made of others that are here, with what is recorded of it in those (`also`): all of it, or nothing.
     * Rejects with a StorageError where it is not kept.
     */
    keepMade: (
      bundle: TrialBundle,
      also: ReadonlyMap<string, readonly TrialRecord[]>,
    ): Promise<Outcome<TrialPlan>> => {
      const { id } = bundle.plan;
      const work = async (): Promise<Outcome<TrialPlan>> => {
        const { plan: made, records, photos, missing = [] } = bundle;
        const fits = checkTrial(made, records, new Set([...photos.keys(), ...missing]));
        if (!fits.ok) return fits;
        for (const trial of also.keys()) if (!(await rawPlan(trial))) throw gone();
        await keep(bundle, { also });
        for (const trial of [id, ...also.keys()]) await sumUp(trial);
        return good(made);
      };
      // Always in the same order, so that two of them cannot wait for each other.
      return [id, ...also.keys()]
        .sort()
        .reduceRight<() => Promise<Outcome<TrialPlan>>>((inner, trial) => () => inTurn(trial, inner), work)();
    },
    log,
    inTurn,
  };
}

/** What came of taking in a trial. */
export interface Came {
  readonly isFresh: boolean;
  readonly records: number;
  /** Photos as they were taken. */
  readonly photos: number;
  /** What belongs to readings: straightened pictures, files of pictures, maps. */
  readonly beside: number;
}

/** Files of a trial, told apart into photos as they were taken and what was made of them. */
function countedIn(records: readonly TrialRecord[], files: ReadonlyMap<string, unknown>) {
  const taken = new Set(records.flatMap(r => (r.kind === 'photo' && files.has(r.photo) ? [r.photo] : [])));
  return { photos: taken.size, beside: files.size - taken.size };
}

export type Trials = ReturnType<typeof trialsOf>;

const asJpeg = (bytes: Uint8Array) => new Blob([bytes as BlobPart], { type: 'image/jpeg' });

const gone = () =>
  new StorageError({
    code: 'no-trial',
    say: 'This trial is not in the workshop any more: it was erased, perhaps in another tab.',
    wayOut: 'Go back to the list of trials.',
  });
