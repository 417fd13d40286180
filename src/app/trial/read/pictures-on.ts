import { pictureFiles } from '../../../core/trial/index.ts';
import { workshopOf } from '../../../store/index.ts';
import type { TrialView } from '../view.tsx';

/** How the maker's own pictures look on the patches of a trial, by picture. */
export async function picturesOn({
  plan,
  records,
  workshop,
}: Pick<TrialView, 'plan' | 'records' | 'workshop'>): Promise<ReadonlyMap<string, Blob>> {
  const found = new Map<string, Blob>();
  for (const [id, file] of pictureFiles(records)) {
    const blob = await workshopOf(workshop).photo(plan.id, file);
    if (blob) found.set(id, blob);
  }
  return found;
}
