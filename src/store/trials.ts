import { checkTrial, parsePlan, type TrialBundle, writeBundle } from '../core/bundle/index.ts';
import { bad, good, type Outcome, type Progress } from '../core/outcome/index.ts';
import { photosNamed, type TrialPlan, type TrialRecord } from '../core/trial/index.ts';
import type { Intent, Journal } from './journal.ts';
import type { Locks } from './locks.ts';
import { logOf, recordsIn, type StoredRecords } from './log.ts';
import type { Marks } from './marks.ts';
import { StorageError } from './storage-error.ts';
import type { Stores } from './stores.ts';
import { type KeptPlan, summariesOf } from './summaries.ts';
import { type Files, filesOf, withoutMaps } from './trial-files.ts';

/** Records of an import are kept in entries of so many. */
const PER_ENTRY = 500;

/** The trials of a workshop: plans, records, maps and photos. */
export function trialsOf(stores: Stores, locks: Locks, journal: Journal, workshop: string, marks?: Marks) {
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
      if (!photos.size && !maps.size) return log.append(trial, { records: light }, number);
      const intent: Intent = { work: 'append', trial, keys: files.keysOf(trial, photos, maps) };
      await journal.during(intent, async work => {
        await files.write(trial, photos, maps);
        await log.append(trial, { work, records: light });
      });
    });

  /** Sums a trial up that came in, so that the next opening need not; where there is no room for it, that one does. */
  const sumUp = (trial: string) => summaries.summarise(trial).catch(() => undefined);

  /** Everything of a trial, its plan last: until that is there, nothing of a half-written import shows. */
  const keep = (bundle: TrialBundle, tell: Progress = () => {}, removedAt?: string): Promise<void> => {
    const { id } = bundle.plan;
    const { light, maps: apart } = withoutMaps(bundle.records);
    const photos = new Map(
      [...bundle.photos].map(([name, bytes]) => [
        name,
        new Blob([bytes as BlobPart], { type: 'image/jpeg' }),
      ]),
    );
    return journal.during({ work: 'import', trial: id, keys: files.keysOf(id, photos, apart) }, async () => {
      let done = 0;
      for (const [name, blob] of photos) {
        tell(done++ / (photos.size + 1), 'Storing the photos');
        await files.write(id, new Map([[name, blob]]), new Map());
      }
      tell(photos.size / (photos.size + 1), 'Storing the records');
      await files.write(id, new Map(), apart);
      await log.remove(id);
      for (let from = 0; from < light.length; from += PER_ENTRY)
        await log.append(id, { records: light.slice(from, from + PER_ENTRY) });
      await putPlan(id, { plan: bundle.plan, ...(removedAt ? { removedAt } : {}) });
    });
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

  const erasing = async (trial: string) => {
    const { records } = recordsIn(await log.entries(trial));
    await stores.summaries.removeItem(trial);
    await stores.plans.removeItem(trial);
    await files.removeThoseOf(trial, records);
    await log.remove(trial);
  };

  /** Finishes or takes back what was broken off. */
  const repair = (intent: Intent, work: string): Promise<void> => {
    switch (intent.work) {
      case 'append':
        return inTurn(intent.trial, async () => {
          if (!(await log.has(intent.trial, work))) await files.remove(intent.keys);
        });
      case 'import':
        return inTurn(intent.trial, async () => {
          if (await rawPlan(intent.trial)) return;
          await files.remove(intent.keys);
          await log.remove(intent.trial);
        });
      case 'erase':
        return inTurn(intent.trial, () => erasing(intent.trial));
      default:
        return Promise.resolve();
    }
  };

  return {
    overview: summaries.overview,
    recheck: summaries.recheck,
    plan,
    records: (trial: string): Promise<StoredRecords> => log.records(trial),
    maps: files.maps,
    photo: files.photo,
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
    exportTrial: async (trial: string, evenRemoved = false): Promise<Outcome<Uint8Array>> => {
      const found = await whole(trial, evenRemoved);
      return found.ok ? good(writeBundle(found.value, new Date().toISOString())) : found;
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
          await keep(bundle, tell);
          await sumUp(made.id);
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
    /**
     * Takes in a trial that was checked, whether it is here or not: of one that is here, the records and photos that it
     * does not have, in one go. Fails where they do not fit the plan that is here.
     */
    takeInTrial: (bundle: TrialBundle, removedAt?: string): Promise<Outcome<Came>> =>
      inTurn(bundle.plan.id, async () => {
        const { id, name } = bundle.plan;
        const kept = await rawPlan(id);
        if (!kept) {
          await keep(bundle, undefined, removedAt);
          await sumUp(id);
          return good({ isFresh: true, records: bundle.records.length, photos: bundle.photos.size });
        }
        const here = parsePlan(kept.plan);
        if (!here.ok) return bad('no-plan', `“${name}” is here, but cannot be read: ${here.problem.say}`);
        const { records } = await log.records(id);
        const known = new Set(records.map(r => r.id));
        const fresh = bundle.records.filter(r => !known.has(r.id));
        if (!fresh.length) return good({ isFresh: false, records: 0, photos: 0 });
        const own = new Set(records.flatMap(photosNamed));
        const photos = new Map(
          [...bundle.photos]
            .filter(([photo]) => !own.has(photo))
            .map(([photo, bytes]) => [photo, new Blob([bytes as BlobPart], { type: 'image/jpeg' })]),
        );
        const all = [...own, ...bundle.photos.keys(), ...(bundle.missing ?? [])];
        const fits = checkTrial(here.value, [...records, ...fresh], new Set(all));
        if (!fits.ok)
          return bad(
            'no-fit',
            `“${name}” is here with another plan, so it was left as it is: ${fits.problem.say}`,
          );
        marks?.add(id);
        const { light, maps } = withoutMaps(fresh);
        await journal.during(
          { work: 'append', trial: id, keys: files.keysOf(id, photos, maps) },
          async work => {
            await files.write(id, photos, maps);
            await log.append(id, { work, records: light });
          },
        );
        await sumUp(id);
        return good({ isFresh: false, records: fresh.length, photos: photos.size });
      }),
    log,
    inTurn,
  };
}

/** What came of taking in a trial. */
export interface Came {
  readonly isFresh: boolean;
  readonly records: number;
  readonly photos: number;
}
export type Trials = ReturnType<typeof trialsOf>;

const gone = () =>
  new StorageError({
    code: 'no-trial',
    say: 'This trial is not in the workshop any more: it was erased, perhaps in another tab.',
    wayOut: 'Go back to the list of trials.',
  });
