import { good, type Outcome } from '../../core/outcome/index.ts';
import { type useWorkshopActions, type WorkshopName, workshopOf } from '../../store/index.ts';
import { readTrialFile } from '../../workers/index.ts';

/** A trial as it travels between laptop and phone. */
export async function packed(workshop: WorkshopName, trial: string): Promise<Outcome<Blob>> {
  const zip = await workshopOf(workshop).exportTrial(trial);
  return zip.ok ? good(new Blob([zip.value as BlobPart], { type: 'application/zip' })) : zip;
}

/** Checks such a file and joins it with what is here. */
export async function takeInFile(
  { takeInTrial }: Pick<ReturnType<typeof useWorkshopActions>, 'takeInTrial'>,
  file: Blob,
) {
  const checked = await readTrialFile(file);
  return checked.ok ? takeInTrial(checked.value) : checked;
}
