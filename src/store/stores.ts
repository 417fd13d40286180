import localforage from 'localforage';
import { asStorageError, StorageError } from './storage-error.ts';

/** The user's own workshop, or the demo: two databases that never touch. */
export type WorkshopName = 'mine' | 'demo';

/**
 * What is kept where (docs/FORMATS.md, “In the browser”):
 * `plans` by trial · `log` by trial and number, one entry for what was recorded in one go · `folds` by trial: many old
 * entries once more in one, to be read quickly · `maps` by trial and
 * record · `photos` by trial and photo · `summaries` by trial, made anew when they do not fit ·
 * `worked` by trial: what was worked out of it last, and of what · `queue` by trial and
 * photo: those that wait to be read · `recipes` by recipe and event · `journal`: work on several keys that is under way · `records`: where versions before this one kept them.
 */
export const STORES = [
  'plans',
  'log',
  'folds',
  'maps',
  'photos',
  'summaries',
  'worked',
  'journal',
  'shelf',
  'methods',
  'pictures',
  'pictureFiles',
  'queue',
  'recipes',
  'meta',
  'records',
] as const;
export type StoreName = (typeof STORES)[number];

/** What the repositories need of a place that keeps values by key. */
export interface Keyed {
  getItem<T>(key: string): Promise<T | null>;
  setItem<T>(key: string, value: T): Promise<T>;
  removeItem(key: string): Promise<void>;
  keys(): Promise<string[]>;
  iterate<T>(see: (value: T, key: string) => void): Promise<void>;
  clear(): Promise<void>;
}
export type Stores = Readonly<Record<StoreName, Keyed>>;

const databaseOf = (name: WorkshopName) => `wet-test-${name}`;

/** The storage library keeps a store of its own beside ours, to find out whether files can be kept. */
const LIBRARY_STORE = 'local-forage-detect-blob-support';

const opened = (request: IDBOpenDBRequest): Promise<IDBDatabase> =>
  new Promise((resolve, reject) => {
    request.onsuccess = () => resolve(request.result);
    request.onerror = () => reject(request.error);
  });

/**
 * Sees to it that the database has all stores, created in one go: the library would raise the version once for each,
 * and two tabs that do so at the same time wait for each other.
 */
async function createAll(database: string): Promise<void> {
  if (typeof indexedDB === 'undefined')
    throw new StorageError(asStorageError(new DOMException('', 'SecurityError')).problem);
  const wanted = [...STORES, LIBRARY_STORE];
  const missingIn = (db: IDBDatabase) => wanted.filter(store => !db.objectStoreNames.contains(store));
  for (;;) {
    const db = await opened(indexedDB.open(database));
    const { version } = db;
    const complete = missingIn(db).length === 0;
    db.close();
    if (complete) return;
    const request = indexedDB.open(database, version + 1);
    request.onupgradeneeded = () => {
      for (const store of missingIn(request.result)) request.result.createObjectStore(store);
    };
    try {
      (await opened(request)).close();
    } catch (error) {
      // Another tab was quicker: look again.
      if (!(error instanceof DOMException) || error.name !== 'VersionError') throw error;
    }
  }
}

/** The same place, with everything that goes wrong said in the maker's words. */
function guarded(store: LocalForage): Keyed {
  const say =
    <A extends unknown[], T>(work: (...args: A) => Promise<T>) =>
    (...args: A): Promise<T> =>
      work(...args).catch(error => {
        throw asStorageError(error);
      });
  return {
    getItem: say(<T>(key: string) => store.getItem<T>(key)) as Keyed['getItem'],
    setItem: say(<T>(key: string, value: T) => store.setItem(key, value)) as Keyed['setItem'],
    removeItem: say((key: string) => store.removeItem(key)),
    keys: say(() => store.keys()),
    iterate: say(<T>(see: (value: T, key: string) => void) =>
      store.iterate<T, void>((value, key) => {
        see(value, key);
      }),
    ) as Keyed['iterate'],
    clear: say(() => store.clear()),
  };
}

/** Opens a workshop's storage. Throws a {@link StorageError} where the browser keeps nothing. */
export async function openStores(name: WorkshopName): Promise<Stores> {
  const database = databaseOf(name);
  try {
    await createAll(database);
  } catch (error) {
    throw asStorageError(error);
  }
  const open = (storeName: StoreName) =>
    guarded(localforage.createInstance({ name: database, storeName, driver: localforage.INDEXEDDB }));
  return Object.fromEntries(STORES.map(store => [store, open(store)])) as unknown as Stores;
}
