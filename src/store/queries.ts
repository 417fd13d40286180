import { QueryClient, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Picture } from '../core/artwork/index.ts';
import { freshId } from '../core/codes/index.ts';
import type { Method } from '../core/methods/index.ts';
import type { ShelfItem, ShelfKind } from '../core/shelf/index.ts';
import type { TrialPlan, TrialRecord } from '../core/trial/index.ts';
import { notBefore, presentMs } from './clock.ts';
import { fillDemo } from './demo.ts';
import { tellOtherTabs } from './other-tabs.ts';
import { openWorkshop, type StoredRecords, type Workshop, type WorkshopName } from './workshop.ts';

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: { staleTime: Number.POSITIVE_INFINITY, retry: false, networkMode: 'always' },
    mutations: { networkMode: 'always' },
  },
});

const open = { mine: openWorkshop('mine'), demo: openWorkshop('demo') };

/** The repository of a workshop. */
export const workshopOf = (name: WorkshopName): Workshop => open[name];

const keys = {
  trials: (w: WorkshopName) => ['trials', w] as const,
  records: (w: WorkshopName, trial: string) => ['records', w, trial] as const,
  photo: (w: WorkshopName, id: string | undefined) => ['photo', w, id] as const,
};

/** All trials of a workshop, newest first; the demo fills itself the first time. */
export function useTrials(name: WorkshopName) {
  return useQuery({
    queryKey: keys.trials(name),
    queryFn: async () => {
      const workshop = workshopOf(name);
      if (name === 'demo') await fillDemo(workshop, Date.now());
      return workshop.list();
    },
  });
}

/** A trial's records. */
export function useRecords(name: WorkshopName, trial: string) {
  return useQuery({ queryKey: keys.records(name, trial), queryFn: () => workshopOf(name).records(trial) });
}

/** Records of several trials at once, by trial id. */
export function useAllRecords(name: WorkshopName, trials: readonly string[]) {
  return useQuery({
    queryKey: ['records', name, 'all', ...trials],
    queryFn: async () =>
      new Map(
        await Promise.all(
          trials.map(async id => [id, (await workshopOf(name).records(id)).records] as const),
        ),
      ),
    staleTime: 0,
  });
}

/** The workshop's shelf. */
export function useShelf(name: WorkshopName) {
  return useQuery({ queryKey: ['shelf', name], queryFn: () => workshopOf(name).shelf() });
}

/** The maker's own pictures. */
export function usePictures(name: WorkshopName) {
  return useQuery({ queryKey: ['pictures', name], queryFn: () => workshopOf(name).pictures() });
}

/** The maker's own methods. */
export function useMethods(name: WorkshopName) {
  return useQuery({ queryKey: ['methods', name], queryFn: () => workshopOf(name).methods() });
}

/** A stored photo as an object URL, or nothing. */
export function usePhotoUrl(name: WorkshopName, id: string | null | undefined) {
  return useQuery({
    queryKey: keys.photo(name, id ?? undefined),
    enabled: Boolean(id),
    queryFn: async () => {
      const blob = await workshopOf(name).photo(id!);
      return blob ? URL.createObjectURL(blob) : null;
    },
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

/** Appends records one after another; the screen moves on only when they are written. */
export function useAppend(name: WorkshopName, trial: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (drafts: readonly RecordDraft[]) => {
      const before = client.getQueryData<StoredRecords>(keys.records(name, trial))?.records ?? [];
      // A clock that was set back while this was closed must not write before what is written.
      for (const { at } of before) notBefore(Date.parse(at));
      const records = drafts.map(asRecord);
      for (const record of records) await workshopOf(name).append(trial, record);
      tellOtherTabs(name);
      return records;
    },
    onSuccess: records => {
      client.setQueryData<StoredRecords>(keys.records(name, trial), old => ({
        damaged: old?.damaged ?? 0,
        records: [...(old?.records ?? []), ...records],
      }));
      void client.invalidateQueries({ queryKey: ['records', name, 'all'] });
    },
  });
}

/** Changes to the list of trials: each runs against the repository, then the list is read again. */
export function useWorkshopActions(name: WorkshopName) {
  const client = useQueryClient();
  const workshop = workshopOf(name);
  const refresh = () =>
    client.invalidateQueries({
      predicate: q => q.queryKey[1] === name && q.queryKey[0] !== 'photo' && q.queryKey[0] !== 'pixels',
    });
  const then =
    <A extends unknown[], T>(work: (...args: A) => Promise<T>) =>
    async (...args: A) => {
      const result = await work(...args);
      tellOtherTabs(name);
      await refresh();
      return result;
    };
  return {
    save: then((plan: TrialPlan) => workshop.savePlan(plan)),
    remove: then((plan: TrialPlan) => workshop.remove(plan, new Date().toISOString())),
    restore: then((plan: TrialPlan) => workshop.restore(plan)),
    erase: then((trial: string) => workshop.erase(trial)),
    importTrial: then((bytes: Uint8Array) => workshop.importTrial(bytes)),
    saveItems: then((kind: ShelfKind, items: readonly ShelfItem[]) => workshop.saveItems(kind, items)),
    removeItem: then((kind: ShelfKind, id: string) => workshop.removeItem(kind, id)),
    addPicture: then((picture: Picture, original: Blob, pixels: Blob) =>
      workshop.addPicture(picture, original, pixels),
    ),
    savePicture: then((picture: Picture) => workshop.savePicture(picture)),
    removePicture: then((id: string) => workshop.removePicture(id)),
    saveMethod: then((method: Method) => workshop.saveMethod(method)),
    removeMethod: then((id: string) => workshop.removeMethod(id)),
    resetDemo: then(() => open.demo.wipe()),
  };
}
