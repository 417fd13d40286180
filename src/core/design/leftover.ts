import { bad, good, type Outcome } from '../outcome/index.ts';
import type { Donor } from '../shelf/index.ts';
import { settingsOf, sizeOf, type TrialPlan } from '../trial/index.ts';

/** What is left of a trial and can be used again: what it is, of which sheet, and how many pieces. */
export interface LeftAsk {
  /** The maker's words: a printed backing, a skin, a spare print. */
  readonly what: string;
  readonly donor: string;
  readonly count: number;
}

const MOST = 400;

/**
 * What is left over as a donor sheet for the shelf, as large as a patch: it is printed or made already, costs nothing and
 * is laid on in a trial to come like any other sheet.
 *
 * @param taken ids that are on the shelf.
 *
 * @example leftover(plan, { what: 'Backing', donor: 'nothing', count: 2 }, []).ok; // => false
 */
export function leftover(
  plan: TrialPlan,
  { what, donor: id, count }: LeftAsk,
  taken: readonly string[],
): Outcome<Donor> {
  const donor = plan.used.donors.find(d => d.id === id);
  if (!donor) return bad('donor', 'This sheet is not in the trial.', 'Choose it again.');
  const name = what.trim();
  if (!name) return bad('what', 'Write what is left: a printed backing, a skin, a spare print.');
  if (!Number.isInteger(count) || count < 1 || count > MOST)
    return bad('count', `Write how many pieces are left, from 1 to ${MOST}.`);
  const colourants = plan.patches.flatMap(p => {
    const s = settingsOf(plan, p);
    return s.donor.id === id ? s.printer.colourant : [];
  });
  const free = Array.from({ length: taken.length + 1 }, (_, i) => `left-${plan.code.toLowerCase()}-${i + 1}`);
  return good({
    ...donor,
    id: free.find(f => !taken.includes(f))!,
    name: `${name} from ${plan.code}`.slice(0, 60),
    note: `Left of trial ${plan.code}, “${plan.name}”: ${donor.name}, printed already.`.slice(0, 300),
    accepts: [...new Set(colourants)],
    sheet: sizeOf(plan),
    packSize: 1,
    packPrice: 0,
    onHand: count,
    leftOf: plan.code,
  });
}

/** Whether pieces of a sheet are printed or made already. */
export const isLeftover = (donor: Pick<Donor, 'leftOf'>): boolean => donor.leftOf !== undefined;
