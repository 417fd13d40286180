import type { PictureNote } from '../artwork/index.ts';
import { STARTING_REQUEST } from '../design/index.ts';
import type { Method } from '../methods/index.ts';
import { rulesFor } from '../rules/index.ts';
import { BY_HAND, type Donor, type Printer, type Shelf } from '../shelf/index.ts';
import { lookUp, type TrialPlan } from '../trial/index.ts';
import { requestFor } from './request.ts';

/**
 * What the planner's rules say of a sheet and a printer for a method, everything else as it usually is with it: for a
 * picture that is printed by itself. What is laid out for the hand goes through no printer, and no rule stops it.
 *
 * @example sheetNotes(methods[0], shelf, shelf.printers[0], shelf.donors[0]).every(note => note.severity !== 'stop'); // => true
 */
export function sheetNotes(method: Method, shelf: Shelf, printer: Printer, donor: Donor): PictureNote[] {
  const plain = requestFor(method, shelf);
  if (!plain.ok) return [{ id: 'shelf', severity: 'warn', say: plain.problem.say }];
  const used = { ...shelf, method } as TrialPlan['used'];
  const settings = { ...lookUp(used, plain.value.usual), printer, donor };
  const { air, patchMm } = STARTING_REQUEST;
  return rulesFor({ settings, method, air, patchMm, wear: [] })
    .filter(rule => rule.about.includes('donor') || rule.about.includes('printer'))
    .filter(rule => !(BY_HAND[printer.colourant] && rule.harms === 'machine'))
    .map(({ id, severity, why, instead }) => ({ id, severity, say: `${why} ${instead}` }));
}
