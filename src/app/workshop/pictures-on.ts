import { pictureFiles, type TrialPlan, type TrialRecord } from '../../core/trial/index.ts';
import { type WorkshopName, workshopOf } from '../../store/index.ts';

/** How the maker's own pictures look on the patches of a trial, by picture. */
export async function picturesOn({
  plan,
  records,
  workshop,
}: {
  readonly plan: TrialPlan;
  readonly records: readonly TrialRecord[];
  readonly workshop: WorkshopName;
}): Promise<ReadonlyMap<string, Blob>> {
  const found = new Map<string, Blob>();
  for (const [id, file] of pictureFiles(records)) {
    const blob = await workshopOf(workshop).photo(plan.id, file);
    if (blob) found.set(id, blob);
  }
  return found;
}
