import type { Method } from '../core/methods/index.ts';
import type { RecipeEvent } from '../core/recipe-book/index.ts';
import { journalOf } from './journal.ts';
import { browserLocks, type Locks } from './locks.ts';
import { browserMarks, type Marks } from './marks.ts';
import { methodsOf } from './methods.ts';
import { moveOldRecords } from './old-layout.ts';
import { picturesOf } from './pictures.ts';
import { queueOf, type Waiting } from './queue.ts';
import { recipesOf } from './recipes.ts';
import { shelfOf } from './shelf.ts';
import { openStores, STORES, type Stores, type WorkshopName } from './stores.ts';
import { togetherIn } from './together.ts';
import { trialsOf } from './trials.ts';

/** In this order a workshop is emptied: what was noted first, so that a half-emptied demo is filled again; then all trials at once. */
const WIPED = [...new Set([...(['meta', 'plans'] as const), ...STORES])].filter(s => s !== 'journal');

/** What a workshop is opened over; a test hands in its own. */
interface Ground {
  readonly stores?: () => Promise<Stores>;
  readonly locks?: Locks;
  readonly marks?: Marks;
}

/**
 * Opens a workshop: all its stores at once, then what was broken off is finished or taken back, then what earlier
 * versions kept elsewhere is moved. Throws a StorageError where the browser keeps nothing.
 */
async function open(name: WorkshopName, ground: Ground) {
  const locks = ground.locks ?? browserLocks();
  // One tab after another: a second one that opens meanwhile finds everything done.
  return locks.inTurn(`wet-test ${name} opening`, async () => {
    const stores = await (ground.stores ?? (() => openStores(name)))();
    const journal = journalOf(stores.journal, locks, name);
    const trials = trialsOf(stores, locks, journal, name, ground.stores ? ground.marks : browserMarks(name));
    const pictures = picturesOf(stores, locks, journal, name);
    const together = togetherIn(stores, journal);
    const wiping = async () => {
      for (const store of WIPED) await stores[store].clear();
      trials.log.forget();
    };
    const repairAll = () =>
      journal.repairAll(async (intent, work) => {
        if (intent.work === 'wipe') return wiping();
        if (intent.work === 'picture') return pictures.repair(intent);
        if (intent.work === 'keys') return together.repair(intent);
        return trials.repair(intent, work);
      });
    await repairAll();
    await moveOldRecords(stores, trials, stores);
    return {
      locks,
      stores,
      ...trials,
      pictures,
      queue: queueOf(stores.queue),
      recipes: recipesOf(stores.recipes, locks, together, name),
      shelf: shelfOf(stores.shelf, locks, together, name),
      methods: methodsOf(stores.methods, locks, name),
      wipe: () =>
        locks.inTurn(`wet-test ${name} demo`, () =>
          // What was begun goes on only after a crash: one that fails is not done later behind the maker's back.
          journal.during({ work: 'wipe' }, wiping, async () => {}),
        ),
      /** What failed and could not be taken back there and then is, before anything else is done. */
      settle: async () => {
        if (journal.isOwing()) await repairAll();
      },
    };
  });
}
export type OpenWorkshop = Awaited<ReturnType<typeof open>>;

/** The repository of one workshop over the browser's storage. It is opened by the first thing that is asked of it; where that fails, by the next. */
export function openWorkshop(name: WorkshopName, ground: Ground = {}) {
  let opening: Promise<OpenWorkshop> | undefined;
  const opened = (): Promise<OpenWorkshop> => {
    opening ??= open(name, ground).catch(error => {
      opening = undefined;
      throw error;
    });
    return opening;
  };
  const ask =
    <A extends unknown[], T>(work: (w: OpenWorkshop, ...args: A) => Promise<T>) =>
    async (...args: A): Promise<T> => {
      const w = await opened();
      // Where even that is refused, what is asked for now says so itself.
      await w.settle().catch(() => undefined);
      return work(w, ...args);
    };
  return {
    name,
    opened,
    overview: ask((w, ...a: Parameters<OpenWorkshop['overview']>) => w.overview(...a)),
    recheck: ask(w => w.recheck()),
    plan: ask((w, trial: string) => w.plan(trial)),
    records: ask((w, trial: string) => w.records(trial)),
    maps: ask((w, trial: string, record: string) => w.maps(trial, record)),
    photo: ask((w, trial: string, id: string) => w.photo(trial, id)),
    workedOut: ask((w, trial: string, of: string) => w.workedOut(trial, of)),
    keepWorkedOut: ask((w, ...a: Parameters<OpenWorkshop['keepWorkedOut']>) => w.keepWorkedOut(...a)),
    append: ask((w, ...a: Parameters<OpenWorkshop['append']>) => w.append(...a)),
    savePlan: ask((w, ...a: Parameters<OpenWorkshop['savePlan']>) => w.savePlan(...a)),
    changePlan: ask((w, ...a: Parameters<OpenWorkshop['changePlan']>) => w.changePlan(...a)),
    remove: ask((w, trial: string, removedAt: string) => w.remove(trial, removedAt)),
    restore: ask((w, trial: string) => w.restore(trial)),
    keepMade: ask((w, ...a: Parameters<OpenWorkshop['keepMade']>) => w.keepMade(...a)),
    erase: ask((w, trial: string) => w.erase(trial)),
    waitingPhotos: ask((w, trial: string) => w.queue.waiting(trial)),
    keepWaiting: ask((w, waiting: Waiting) => w.queue.put(waiting)),
    dropWaiting: ask((w, trial: string, id: string) => w.queue.drop(trial, id)),
    exportTrial: ask((w, ...a: Parameters<OpenWorkshop['exportTrial']>) => w.exportTrial(...a)),
    whole: ask((w, ...a: Parameters<OpenWorkshop['whole']>) => w.whole(...a)),
    asStored: ask((w, trial: string) => w.asStored(trial)),
    takeInTrial: ask((w, ...a: Parameters<OpenWorkshop['takeInTrial']>) => w.takeInTrial(...a)),
    importTrial: ask((w, ...a: Parameters<OpenWorkshop['importTrial']>) => w.importTrial(...a)),
    recipeEvents: ask(w => w.recipes.events()),
    addRecipeEvents: ask((w, events: readonly RecipeEvent[]) => w.recipes.add(events)),
    shelf: ask(w => w.shelf.shelf()),
    saveItems: ask((w, ...a: Parameters<OpenWorkshop['shelf']['saveItems']>) => w.shelf.saveItems(...a)),
    removeItem: ask((w, ...a: Parameters<OpenWorkshop['shelf']['removeItem']>) => w.shelf.removeItem(...a)),
    methods: ask(w => w.methods.methods()),
    addMethod: ask((w, method: Method) => w.methods.addMethod(method)),
    saveMethod: ask((w, ...a: Parameters<OpenWorkshop['methods']['saveMethod']>) =>
      w.methods.saveMethod(...a),
    ),
    removeMethod: ask((w, id: string) => w.methods.removeMethod(id)),
    pictures: ask(w => w.pictures.pictures()),
    savePicture: ask((w, ...a: Parameters<OpenWorkshop['pictures']['savePicture']>) =>
      w.pictures.savePicture(...a),
    ),
    addPicture: ask((w, ...a: Parameters<OpenWorkshop['pictures']['addPicture']>) =>
      w.pictures.addPicture(...a),
    ),
    pictureFile: ask((w, ...a: Parameters<OpenWorkshop['pictures']['pictureFile']>) =>
      w.pictures.pictureFile(...a),
    ),
    removePicture: ask((w, id: string) => w.pictures.removePicture(id)),
    wipe: ask(w => w.wipe()),
  };
}
export type Workshop = ReturnType<typeof openWorkshop>;
