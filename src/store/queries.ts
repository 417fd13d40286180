import { QueryClient, useQueries, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState } from 'react';
import type { Picture } from '../core/artwork/index.ts';
import type { TrialBundle } from '../core/bundle/index.ts';
import { freshId } from '../core/codes/index.ts';
import type { WholeTrial } from '../core/design/index.ts';
import type { Method } from '../core/methods/index.ts';
import type { Outcome, Progress } from '../core/outcome/index.ts';
import { hasBegun, type Trialled } from '../core/progress/index.ts';
import { type RecipeEvent, recipesIn } from '../core/recipe-book/index.ts';
import type { ShelfItem, ShelfKind } from '../core/shelf/index.ts';
import { photosNamed, planNow, type TrialPlan, type TrialRecord } from '../core/trial/index.ts';
import { notBefore, presentMs } from './clock.ts';
import { type DemoFilling, fillDemo } from './demo.ts';
import type { StoredRecords } from './log.ts';
import { tellOtherTabs } from './other-tabs.ts';
import type { WorkshopName } from './stores.ts';
import type { Overview } from './summaries.ts';
import type { Files } from './trial-files.ts';
import { openWorkshop, type Workshop } from './workshop.ts';

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: { staleTime: Number.POSITIVE_INFINITY, retry: false, networkMode: 'always' },
  },
});

const open = { mine: openWorkshop('mine'), demo: openWorkshop('demo') };

/** The repository of a workshop. */
export const workshopOf = (name: WorkshopName): Workshop => open[name];

/** Photos and maps that nobody looks at any more are let go after so long. */
const LET_GO_MS = 30_000;

const keys = {
  overview: (w: WorkshopName) => ['overview', w] as const,
  opening: (w: WorkshopName) => ['opening', w] as const,
  plan: (w: WorkshopName, trial: string) => ['plan', w, trial] as const,
  records: (w: WorkshopName, trial: string) => ['records', w, trial] as const,
  photo: (w: WorkshopName, trial: string, id: string | undefined) => ['photo', w, trial, id] as const,
  maps: (w: WorkshopName, trial: string, record: string) => ['maps', w, trial, record] as const,
};

let filling: DemoFilling | undefined;

/** The demo on its way in; begun once a page, and again after it failed. What comes in later shows as it comes. */
function demoIn(client: QueryClient): DemoFilling {
  if (filling) return filling;
  const mine = fillDemo(workshopOf('demo'), Date.now(), () => {
    void client.invalidateQueries({ queryKey: keys.overview('demo') });
  });
  filling = mine;
  mine.whole.catch(() => {
    if (filling === mine) filling = undefined;
  });
  return mine;
}

const overviewQuery = (name: WorkshopName, client: QueryClient) => ({
  queryKey: keys.overview(name),
  queryFn: async () => {
    const workshop = workshopOf(name);
    if (name === 'demo') await demoIn(client).first;
    const found = await workshop.overview(share => client.setQueryData(keys.opening(name), share));
    recheckOnce(name, client);
    return found;
  },
});

/** All trials of a workshop as summaries, newest first; the demo fills itself the first time. */
export const useOverview = (name: WorkshopName) => useQuery(overviewQuery(name, useQueryClient()));

/** Begins to read what the opening view of a workshop shows, before there is a view: trials, shelf, and those under way. */
export async function readAheadWorkshop(name: WorkshopName, client: QueryClient): Promise<void> {
  void client.prefetchQuery(shelfQuery(name));
  await client.prefetchQuery(overviewQuery(name, client));
  for (const trial of underWayIn(client.getQueryData<Overview>(keys.overview(name)))) {
    void client.prefetchQuery(planQuery(name, trial));
    void client.prefetchQuery(recordsQuery(name, trial));
  }
}

const rechecked = new Set<WorkshopName>();
/** The view does not wait for every log to be asked; should a summary not fit after all, it is made anew a little later. */
const RECHECK_MS = 5000;

function recheckOnce(name: WorkshopName, client: QueryClient) {
  if (rechecked.has(name)) return;
  rechecked.add(name);
  setTimeout(async () => {
    const isWrong = await workshopOf(name)
      .recheck()
      .catch(() => false);
    if (isWrong) await client.invalidateQueries({ queryKey: keys.overview(name) });
  }, RECHECK_MS);
}

/** How far the workshop is looked through while it opens, 0–1; nothing where its summaries are there already. */
export const useOpening = (name: WorkshopName) =>
  useQuery<number | null>({
    queryKey: keys.opening(name),
    queryFn: () => null,
    enabled: false,
    initialData: null,
  }).data;

/** Waits until a trial of the demo has come in: it may be one of those that come later. */
async function demoHas(client: QueryClient, trial: string): Promise<void> {
  await demoIn(client).first;
  if (!(await workshopOf('demo').plan(trial))) await demoIn(client).whole;
}

const planQuery = (name: WorkshopName, trial: string) => ({
  queryKey: keys.plan(name, trial),
  queryFn: async ({ client }: { client: QueryClient }) => {
    if (name === 'demo') await demoHas(client, trial);
    return (await workshopOf(name).plan(trial)) ?? null;
  },
});
const recordsQuery = (name: WorkshopName, trial: string) => ({
  queryKey: keys.records(name, trial),
  queryFn: async ({ client }: { client: QueryClient }) => {
    if (name === 'demo') await demoHas(client, trial);
    return workshopOf(name).records(trial);
  },
});

/** A trial's plan as an outcome; null where there is none, or it was removed. */
export const usePlan = (name: WorkshopName, trial: string) => useQuery(planQuery(name, trial));

/** A trial's records. */
export const useRecords = (name: WorkshopName, trial: string) => useQuery(recordsQuery(name, trial));

/** Begins to read a trial that will probably be opened, so that it is there at once. */
export function useReadAhead(name: WorkshopName): (trial: string) => void {
  const client = useQueryClient();
  return useCallback(
    trial => {
      void client.prefetchQuery(planQuery(name, trial));
      void client.prefetchQuery(recordsQuery(name, trial));
    },
    [client, name],
  );
}
const underWayIn = (overview: Overview | undefined): readonly string[] =>
  overview?.trials
    .filter(t => !t.removedAt && !t.summary.archived && t.summary.standing === 'under way')
    .map(t => t.summary.id) ?? [];

/** The trials that are under way, with their records, and whether all of them are here; the same list until something changes. */
export function useUnderWay(name: WorkshopName): {
  readonly trials: readonly Trialled[];
  readonly here: boolean;
} {
  const overview = useOverview(name).data;
  const ids = useMemo(() => underWayIn(overview), [overview]);
  const { trials, here } = useTrials(name, ids);
  return useMemo(() => ({ trials, here: overview !== undefined && here }), [overview, trials, here]);
}

/** These trials as they are now, with their records, and whether all of them are here; the same list until something changes. */
export function useTrials(
  name: WorkshopName,
  named: readonly string[],
): { readonly trials: readonly Trialled[]; readonly here: boolean } {
  const key = named.join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the names stand for the list
  const ids = useMemo(() => named, [key]);
  const plans = useQueries({ queries: ids.map(id => planQuery(name, id)), combine: answers });
  const records = useQueries({ queries: ids.map(id => recordsQuery(name, id)), combine: answers });
  return useMemo(() => {
    const trials = ids.flatMap((_, i) => {
      const plan = plans.data[i];
      const own = records.data[i];
      return plan?.ok && own ? [{ plan: planNow(plan.value, own.records), records: own.records }] : [];
    });
    return { trials, here: plans.here && records.here };
  }, [ids, plans, records]);
}

const answers = <T>(results: readonly { readonly data: T | undefined; readonly isPending: boolean }[]) => ({
  data: results.map(r => r.data),
  here: results.every(r => !r.isPending),
});

const shelfQuery = (name: WorkshopName) => ({
  queryKey: ['shelf', name],
  queryFn: () => workshopOf(name).shelf(),
});

/** The workshop's shelf. */
export const useShelf = (name: WorkshopName) => useQuery(shelfQuery(name));

/** The maker's own pictures. */
export function usePictures(name: WorkshopName) {
  return useQuery({ queryKey: ['pictures', name], queryFn: () => workshopOf(name).pictures() });
}

/** The maker's own methods. */
export function useMethods(name: WorkshopName) {
  return useQuery({ queryKey: ['methods', name], queryFn: () => workshopOf(name).methods() });
}

/** A stored photo as an object URL for as long as it is looked at, or nothing. */
export function usePhotoUrl(
  name: WorkshopName,
  trial: string,
  id: string | null | undefined,
): string | undefined {
  const { data: blob } = useQuery({
    queryKey: keys.photo(name, trial, id ?? undefined),
    enabled: Boolean(id),
    gcTime: LET_GO_MS,
    queryFn: () => workshopOf(name).photo(trial, id!),
  });
  const [url, setUrl] = useState<string>();
  useEffect(() => {
    if (!blob) return setUrl(undefined);
    const made = URL.createObjectURL(blob);
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [blob]);
  return url;
}

/** The recipes of a workshop, by name. */
export const useRecipes = (name: WorkshopName) =>
  useQuery({
    queryKey: ['recipes', name] as const,
    queryFn: async () => {
      const events = await workshopOf(name).recipeEvents();
      return { events, books: recipesIn(events) };
    },
  });

/** The maps of a reading, fetched when they are looked at; nothing where it has none. */
export function useMaps(name: WorkshopName, trial: string, record: string) {
  return useQuery({
    queryKey: keys.maps(name, trial, record),
    gcTime: LET_GO_MS,
    queryFn: async () => (await workshopOf(name).maps(trial, record)) ?? null,
  });
}

type Draft<R = TrialRecord> = R extends TrialRecord ? Omit<R, 'id' | 'at'> & { at?: string } : never;
export type RecordDraft = Draft;

/** A draft with its identity and time. */
export const asRecord = (draft: RecordDraft): TrialRecord =>
  ({
    ...draft,
    id: freshId(Math.random),
    at: draft.at ?? new Date(presentMs()).toISOString(),
  }) as TrialRecord;

/** Kinds of records pressed many in a row that change nothing of what a view beside the trial's own shows at once. */
const QUIET: readonly TrialRecord['kind'][] = ['step', 'air', 'coat', 'note', 'stock', 'pair', 'picture'];

/**
 * Appends records in one go, with photos they name; resolved when all of it is written, and only then do views change.
 * Rejects with a StorageError where it is not.
 */
export function useAppend(name: WorkshopName, trial: string) {
  const client = useQueryClient();
  return useCallback(
    (drafts: readonly RecordDraft[], files?: Files) => appendTo(client, name, trial, drafts, files),
    [client, name, trial],
  );
}

/** What is recorded of a trial; what is recorded from now on comes after it. */
async function clockPast(client: QueryClient, name: WorkshopName, trial: string) {
  // What is here already is read first: an answer onto records that are not loaded yet would hide them.
  const { records } = await client.ensureQueryData(recordsQuery(name, trial));
  // A clock that was set back while this was closed must not write before what is written.
  for (const { at } of records) notBefore(Date.parse(at));
  return records;
}

async function appendTo(
  client: QueryClient,
  name: WorkshopName,
  trial: string,
  drafts: readonly RecordDraft[],
  files?: Files,
): Promise<void> {
  const before = await clockPast(client, name, trial);
  const records = drafts.map(asRecord);
  await workshopOf(name).append(trial, records, files);
  tellOtherTabs(name, trial);
  client.setQueryData<StoredRecords>(keys.records(name, trial), old => ({
    damaged: old?.damaged ?? [],
    records: withAdded(old?.records ?? [], records),
  }));
  const isNews = !hasBegun(before) || records.some(r => !QUIET.includes(r.kind));
  void client.invalidateQueries({
    queryKey: keys.overview(name),
    // A press at the bench does not look through the workshop; the next list that is opened does.
    refetchType: isNews ? 'active' : 'none',
  });
}

/** Stores what was made of trials that are there, with their photos, and what is recorded of it in them. */
async function keepMade(
  client: QueryClient,
  name: WorkshopName,
  made: Outcome<WholeTrial>,
  of: readonly TrialBundle[],
  note: RecordDraft,
): Promise<Outcome<TrialPlan>> {
  if (!made.ok) return made;
  const { plan, records } = made.value;
  const named = new Set(records.flatMap(photosNamed));
  const photos = new Map(of.flatMap(t => [...t.photos].filter(([id]) => named.has(id))));
  const also = new Map<string, TrialRecord[]>();
  for (const { plan } of of) {
    await clockPast(client, name, plan.id);
    also.set(plan.id, [asRecord(note)]);
  }
  return workshopOf(name).keepMade(
    { plan, records, photos, missing: of.flatMap(t => t.missing ?? []) },
    also,
  );
}

const identityNow = () => ({ createdAt: new Date(presentMs()).toISOString(), random: Math.random });

async function mergeInto(
  client: QueryClient,
  name: WorkshopName,
  one: string,
  other: string,
): Promise<Outcome<TrialPlan>> {
  const [a, b] = [await workshopOf(name).whole(one), await workshopOf(name).whole(other)];
  if (!a.ok) return a;
  if (!b.ok) return b;
  const { mergeTrials } = await import('../core/design/merge.ts');
  const made = mergeTrials(a.value, b.value, identityNow());
  return keepMade(client, name, made, [a.value, b.value], {
    kind: 'change',
    patch: null,
    change: { what: 'archive', archived: true },
    why: made.ok ? `It goes on in trial ${made.value.plan.code}.` : '',
  });
}

async function splitOff(
  client: QueryClient,
  name: WorkshopName,
  trial: string,
  codes: readonly string[],
  why?: string,
): Promise<Outcome<TrialPlan>> {
  const from = await workshopOf(name).whole(trial);
  if (!from.ok) return from;
  const { splitTrial } = await import('../core/design/merge.ts');
  const made = splitTrial(from.value, codes, identityNow());
  return keepMade(client, name, made, [from.value], {
    kind: 'change',
    patch: null,
    change: { what: 'split', patches: [...codes], into: made.ok ? made.value.plan.id : '' },
    ...(why ? { why } : {}),
  });
}

const withAdded = (old: readonly TrialRecord[], added: readonly TrialRecord[]) => {
  const here = new Set(old.map(r => r.id));
  return [...old, ...added.filter(r => !here.has(r.id))];
};

/** Changes to a workshop: each runs against the repository, then what it changed is read again. */
export function useWorkshopActions(name: WorkshopName) {
  const client = useQueryClient();
  return useMemo(() => actionsOf(name, client), [name, client]);
}

function actionsOf(name: WorkshopName, client: QueryClient) {
  const workshop = workshopOf(name);
  const then =
    <A extends unknown[], T>(kinds: readonly string[], work: (...args: A) => Promise<T>) =>
    async (...args: A) => {
      try {
        return await work(...args);
      } finally {
        // Even what failed half-way may have changed something.
        tellOtherTabs(name);
        await client.invalidateQueries({
          predicate: ({ queryKey: [kind, w] }) => w === name && kinds.includes(String(kind)),
        });
      }
    };
  const TRIALS = ['overview', 'plan', 'records'];
  return {
    save: then(TRIALS, (plan: TrialPlan) => workshop.savePlan(plan)),
    /** Records of any trial, with files they name. */
    append: (trial: string, drafts: readonly RecordDraft[], files?: Files) =>
      appendTo(client, name, trial, drafts, files),
    changePlan: then(TRIALS, (trial: string, change: (plan: TrialPlan) => Outcome<TrialPlan>) =>
      workshop.changePlan(trial, change),
    ),
    remove: then(TRIALS, (trial: string) => workshop.remove(trial, new Date().toISOString())),
    restore: then(TRIALS, (trial: string) => workshop.restore(trial)),
    erase: then(TRIALS, (trial: string) => workshop.erase(trial)),
    importTrial: then(TRIALS, (bundle: TrialBundle, tell?: Progress) => workshop.importTrial(bundle, tell)),
    takeInTrial: then(TRIALS, (bundle: TrialBundle) => workshop.takeInTrial(bundle)),
    /** Two trials as a third, with all that happened to both; the two are put away. */
    merge: then(TRIALS, (one: string, other: string) => mergeInto(client, name, one, other)),
    /** Some patches of a trial as one of their own; they leave the trial they were in. */
    split: then(TRIALS, (trial: string, codes: readonly string[], why?: string) =>
      splitOff(client, name, trial, codes, why),
    ),
    saveItems: then(['shelf'], (kind: ShelfKind, items: readonly ShelfItem[], base?: readonly ShelfItem[]) =>
      workshop.saveItems(kind, items, base),
    ),
    removeItem: then(['shelf'], (kind: ShelfKind, id: string) => workshop.removeItem(kind, id)),
    addPicture: then(['pictures'], (picture: Picture, original: Blob, pixels: Blob) =>
      workshop.addPicture(picture, original, pixels),
    ),
    savePicture: then(['pictures'], (picture: Picture, base?: Picture) =>
      workshop.savePicture(picture, base),
    ),
    removePicture: then(['pictures'], (id: string) => workshop.removePicture(id)),
    addMethod: then(['methods'], (method: Method) => workshop.addMethod(method)),
    saveMethod: then(['methods'], (method: Method, base?: Method) => workshop.saveMethod(method, base)),
    removeMethod: then(['methods'], (id: string) => workshop.removeMethod(id)),
    addRecipeEvents: then(['recipes'], (events: readonly RecipeEvent[]) => workshop.addRecipeEvents(events)),
    /** What came in from a backup, or was cleaned up, shows everywhere. */
    afterTakingIn: then([...TRIALS, 'shelf', 'methods', 'pictures', 'recipes'], async () => {}),
    resetDemo: then([...TRIALS, 'shelf', 'methods', 'pictures', 'recipes'], async () => {
      await filling?.whole.catch(() => {});
      await open.demo.wipe();
      filling = undefined;
    }),
  };
}

export type { Overview };
