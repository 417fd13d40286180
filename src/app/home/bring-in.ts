import { lostWords, type TrialBundle } from '../../core/bundle/index.ts';
import type { Outcome, Problem, Progress } from '../../core/outcome/index.ts';
import { many, write } from '../../core/say/index.ts';
import type { TrialPlan } from '../../core/trial/index.ts';

/** What a trial's file may be brought in with: as a new trial, or into the one that is here. */
export interface Ways {
  readonly importTrial: (bundle: TrialBundle, tell?: Progress) => Promise<Outcome<TrialPlan>>;
  readonly takeInTrial: (
    bundle: TrialBundle,
  ) => Promise<Outcome<{ readonly records: number; readonly photos: number; readonly beside: number }>>;
}

/** What is said when a trial's file was brought in, or could not be. */
export type BroughtIn =
  | { readonly say: string; readonly wayOut?: string; readonly wrong?: true }
  | { readonly problem: Problem };

/**
 * Brings a trial's file in: as a new trial; where it is here already, the records, photos and maps that are missing here.
 * Says which photos were damaged in the file.
 */
export async function bringIn(
  { importTrial, takeInTrial }: Ways,
  bundle: TrialBundle,
  tell?: Progress,
): Promise<BroughtIn> {
  const { name } = bundle.plan;
  const made = await importTrial(bundle, tell);
  let say = `“${name}” was imported.`;
  if (!made.ok) {
    // One that was removed is brought back or erased by the maker, not by a file.
    if (made.problem.code !== 'here-already') return { problem: made.problem };
    const came = await takeInTrial(bundle);
    if (!came.ok) return { problem: came.problem };
    say = joinedWords(name, came.value);
  }
  const without = lostWords(name, bundle.lost ?? []);
  return without
    ? { say: `${say} ${without}`, wayOut: 'Another copy of the file brings them back.', wrong: true }
    : { say };
}

const count = (n: number, one: string, several?: string) => write(many(n, one, several));

/**
 * What came into a trial that was here.
 *
 * @example joinedWords('Tern', { records: 2, photos: 1, beside: 3 }); // => '“Tern” is here already: 2 records and 1 photo that it did not have came in.'
 */
export function joinedWords(
  name: string,
  { records, photos, beside }: { readonly records: number; readonly photos: number; readonly beside: number },
): string {
  const what =
    records || photos
      ? `${count(records, 'record')} and ${count(photos, 'photo')}`
      : beside && count(beside, 'picture of its readings', 'pictures of its readings');
  return what
    ? `“${name}” is here already: ${what} that it did not have came in.`
    : `“${name}” is here already, with all that is in this file.`;
}
