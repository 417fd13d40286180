import localforage from 'localforage';
import * as v from 'valibot';
import { Picture } from '../core/artwork/index.ts';
import { checkTrial, parsePlan, parseRecord, readBundle, writeBundle } from '../core/bundle/index.ts';
import { checkMethod, type Method } from '../core/methods/index.ts';
import { bad, good, type Outcome } from '../core/outcome/index.ts';
import {
  checkItem,
  SHELF_KINDS,
  type Shelf,
  type ShelfItem,
  type ShelfKind,
  STARTER_SHELF,
} from '../core/shelf/index.ts';
import type { TrialPlan, TrialRecord } from '../core/trial/index.ts';

/** The user's own workshop, or the demo: two databases that never touch. */
export type WorkshopName = 'mine' | 'demo';

/** A stored trial. A removed one is kept until it is erased. */
export interface StoredTrial {
  readonly plan: TrialPlan;
  readonly removedAt?: string;
}

/** A trial's records, and how many stored ones could not be read (they stay stored). */
export interface StoredRecords {
  readonly records: readonly TrialRecord[];
  readonly damaged: number;
}

/** The shelf, and how many stored items could not be read (they stay stored). */
export interface StoredShelf {
  readonly shelf: Shelf;
  readonly damaged: number;
}

const FILLED = 'filled';

const store = (workshop: WorkshopName, storeName: string) =>
  localforage.createInstance({ name: `wet-test-${workshop}`, storeName });

/** The repository of one workshop over the browser's storage. */
export function openWorkshop(name: WorkshopName) {
  const plans = store(name, 'plans');
  const records = store(name, 'records');
  const photos = store(name, 'photos');
  const shelves = store(name, 'shelf');
  const methods = store(name, 'methods');
  const pictures = store(name, 'pictures');
  const pictureFiles = store(name, 'pictureFiles');

  let last: Promise<unknown> = Promise.resolve();
  /** Whole-trial changes run one after another: an import must not meet an erasing that is still going on. */
  const inTurn = <T>(work: () => Promise<T>): Promise<T> => {
    const next = last.then(work, work);
    last = next.catch(() => undefined);
    return next;
  };

  const list = async (): Promise<{ trials: StoredTrial[]; damaged: number }> => {
    const trials: StoredTrial[] = [];
    let damaged = 0;
    await plans.iterate((value: { plan?: unknown; removedAt?: string }) => {
      const plan = parsePlan(value?.plan);
      if (plan.ok)
        trials.push({ plan: plan.value, ...(value.removedAt ? { removedAt: value.removedAt } : {}) });
      else damaged++;
    });
    return { trials: trials.sort((a, b) => b.plan.createdAt.localeCompare(a.plan.createdAt)), damaged };
  };

  const recordsOf = async (trial: string): Promise<StoredRecords> => {
    const found: TrialRecord[] = [];
    let damaged = 0;
    await records.iterate((value: unknown, key: string) => {
      if (!key.startsWith(`${trial}/`)) return;
      const record = parseRecord(value);
      if (record.ok) found.push(record.value);
      else damaged++;
    });
    return { records: found.sort((a, b) => a.at.localeCompare(b.at) || a.id.localeCompare(b.id)), damaged };
  };

  const savePlan = async (plan: TrialPlan) => {
    await plans.setItem(plan.id, { plan });
  };

  /** Photos a trial names, as bytes. */
  const photosOf = async (all: readonly TrialRecord[]) => {
    const ids = all.flatMap(r =>
      r.kind === 'photo' ? [r.photo] : r.kind === 'reading' && r.straight ? [r.straight] : [],
    );
    const found = new Map<string, Uint8Array>();
    for (const id of ids) {
      const blob = await photos.getItem<Blob>(id);
      if (blob) found.set(id, new Uint8Array(await blob.arrayBuffer()));
    }
    return found;
  };

  const keepBundle = async (
    plan: TrialPlan,
    all: readonly TrialRecord[],
    images: ReadonlyMap<string, Uint8Array>,
  ) => {
    // The plan goes last: until it is there, nothing of a half-written import shows.
    for (const [id, bytes] of images)
      await photos.setItem(id, new Blob([bytes as BlobPart], { type: 'image/jpeg' }));
    for (const record of all) await records.setItem(`${plan.id}/${record.id}`, record);
    await savePlan(plan);
  };

  const erase = async (trial: string) => {
    const { records: all } = await recordsOf(trial);
    await plans.removeItem(trial);
    for (const record of all) {
      await records.removeItem(`${trial}/${record.id}`);
      if (record.kind === 'photo') await photos.removeItem(record.photo);
      if (record.kind === 'reading' && record.straight) await photos.removeItem(record.straight);
    }
  };

  /** The starter shelf until something on it is changed; from then on what is stored. */
  const shelfOf = async (): Promise<StoredShelf> => {
    if (!(await shelves.getItem(FILLED))) return { shelf: STARTER_SHELF, damaged: 0 };
    const shelf = Object.fromEntries(SHELF_KINDS.map(kind => [kind, [] as ShelfItem[]])) as unknown as Record<
      ShelfKind,
      ShelfItem[]
    >;
    let damaged = 0;
    await shelves.iterate((value: { kind?: ShelfKind; item?: unknown; at?: number }, key: string) => {
      if (key === FILLED) return;
      const kind = SHELF_KINDS.find(k => k === value?.kind);
      const item = kind && checkItem(kind, value.item);
      if (kind && item?.ok) shelf[kind].push(item.value);
      else damaged++;
    });
    const order = await shelves.getItem<string[]>(FILLED);
    const place = new Map(order?.map((key, i) => [key, i]));
    for (const kind of SHELF_KINDS)
      shelf[kind].sort(
        (a, b) => (place.get(`${kind}/${a.id}`) ?? 1e9) - (place.get(`${kind}/${b.id}`) ?? 1e9),
      );
    return { shelf: shelf as unknown as Shelf, damaged };
  };

  /** Writes the starter shelf out before its first change, so that nothing of it is lost by that change. */
  const fillShelf = async (): Promise<string[]> => {
    const filled = await shelves.getItem<string[]>(FILLED);
    if (filled) return filled;
    const order: string[] = [];
    for (const kind of SHELF_KINDS)
      for (const item of STARTER_SHELF[kind]) {
        await shelves.setItem(`${kind}/${item.id}`, { kind, item });
        order.push(`${kind}/${item.id}`);
      }
    await shelves.setItem(FILLED, order);
    return order;
  };

  const saveItems = async (kind: ShelfKind, items: readonly ShelfItem[]) => {
    const order = await fillShelf();
    for (const item of items) await shelves.setItem(`${kind}/${item.id}`, { kind, item });
    const fresh = items.map(item => `${kind}/${item.id}`).filter(key => !order.includes(key));
    if (fresh.length) await shelves.setItem(FILLED, [...order, ...fresh]);
  };

  return {
    name,
    shelf: shelfOf,
    saveItems: (kind: ShelfKind, items: readonly ShelfItem[]) => inTurn(() => saveItems(kind, items)),
    /** Takes an item off the shelf. Trials keep their own copy of what they used. */
    removeItem: (kind: ShelfKind, id: string) =>
      inTurn(async () => {
        await fillShelf();
        await shelves.removeItem(`${kind}/${id}`);
      }),
    /** The maker's own methods. */
    methods: async (): Promise<Method[]> => {
      const found: Method[] = [];
      await methods.iterate((value: unknown) => {
        const method = checkMethod(value);
        if (method.ok) found.push(method.value);
      });
      return found.sort((a, b) => a.id.localeCompare(b.id));
    },
    saveMethod: async (method: Method): Promise<void> => {
      await methods.setItem(method.id, method);
    },
    removeMethod: (id: string): Promise<void> => methods.removeItem(id),
    /** The maker's pictures, newest first; those that cannot be read stay stored. */
    pictures: async (): Promise<Picture[]> => {
      const found: Picture[] = [];
      await pictures.iterate((value: unknown) => {
        const picture = v.safeParse(Picture, value);
        if (picture.success) found.push(picture.output);
      });
      return found.sort((a, b) => b.addedAt.localeCompare(a.addedAt));
    },
    savePicture: async (picture: Picture): Promise<void> => {
      await pictures.setItem(picture.id, picture);
    },
    /** Keeps a picture with its file as it was given and, for a drawing, as it was drawn in pixels. */
    addPicture: (picture: Picture, original: Blob, pixels: Blob): Promise<void> =>
      inTurn(async () => {
        await pictureFiles.setItem(`${picture.id}/original`, original);
        await pictureFiles.setItem(`${picture.id}/pixels`, pixels);
        await pictures.setItem(picture.id, picture);
      }),
    pictureFile: (id: string, which: 'original' | 'pixels') => pictureFiles.getItem<Blob>(`${id}/${which}`),
    /** Takes a picture away; its file stays until the workshop is wiped, so that this can be undone. */
    removePicture: (id: string): Promise<void> => pictures.removeItem(id),
    list,
    records: recordsOf,
    savePlan,
    keepBundle,
    erase: (trial: string) => inTurn(() => erase(trial)),
    /** Adds a record; resolved only when it is written. */
    append: async (trial: string, record: TrialRecord): Promise<void> => {
      await records.setItem(`${trial}/${record.id}`, record);
    },
    photo: (id: string) => photos.getItem<Blob>(id),
    keepPhoto: async (id: string, blob: Blob): Promise<void> => {
      await photos.setItem(id, blob);
    },
    remove: async (plan: TrialPlan, removedAt: string): Promise<void> => {
      await plans.setItem(plan.id, { plan, removedAt });
    },
    restore: savePlan,
    exportTrial: async (plan: TrialPlan): Promise<Outcome<Uint8Array>> => {
      const { records: all } = await recordsOf(plan.id);
      const images = await photosOf(all);
      const whole = checkTrial(plan, all, new Set(images.keys()));
      return whole.ok
        ? good(writeBundle({ plan, records: all, photos: images }, new Date().toISOString()))
        : whole;
    },
    /** Checks the whole archive first; stores nothing when anything in it is wrong or the trial is here already. */
    importTrial: (bytes: Uint8Array): Promise<Outcome<TrialPlan>> =>
      inTurn(async () => {
        const bundle = readBundle(bytes);
        if (!bundle.ok) return bundle;
        const { plan, records: all, photos: images } = bundle.value;
        const here = await plans.getItem<StoredTrial>(plan.id);
        if (here)
          return bad(
            'here-already',
            `“${plan.name}” is in this workshop already${here.removedAt ? ', among the removed trials' : ''}.`,
            here.removedAt
              ? 'Bring it back, or erase it and import again.'
              : 'Remove and erase it first if you want the one from the file.',
          );
        try {
          await keepBundle(plan, all, images);
        } catch (error) {
          await erase(plan.id);
          return bad(
            'storage',
            `The browser could not store this trial: ${error instanceof Error ? error.message : 'no room'}.`,
            'Free some space and try again; nothing was changed.',
          );
        }
        return good(plan);
      }),
    wipe: async (): Promise<void> => {
      await plans.clear();
      await records.clear();
      await photos.clear();
      await shelves.clear();
      await methods.clear();
      await pictures.clear();
      await pictureFiles.clear();
    },
  };
}

export type Workshop = ReturnType<typeof openWorkshop>;
