import { actionName, advise, deskOf, dueFirst, Play, paceOf, whatNext } from '../advice/index.ts';
import { alsoNow, patchStatus, progressOf, type Trialled } from '../progress/index.ts';
import { chanceFrom, seedOf } from '../random/index.ts';
import { sittingsFrom, type Working } from '../schedule/index.ts';
import { handsOnMin } from '../steps/index.ts';
import type { TrialPlan, TrialRecord } from '../trial/index.ts';

const MIN = 60_000;

/** How a made-up maker works. */
export interface MakerTraits {
  /** Standard deviation of ln(taken / stated). */
  readonly sd: number;
  /** Share of actions begun late, and by how many minutes in the middle. */
  readonly late: number;
  readonly lateMin: number;
  readonly spoilt: number;
  readonly skipped: number;
}
export const CLUMSY: MakerTraits = { sd: 0.4, late: 0.1, lateMin: 3, spoilt: 0.05, skipped: 0.05 };
export const CAREFUL: MakerTraits = { sd: 0, late: 0, lateMin: 0, spoilt: 0, skipped: 0 };

/** Which piece of which trial to go on with, and from when; nothing when all is done. */
export type Adviser = (
  trials: readonly Trialled[],
  now: number,
) => { readonly trial: number; readonly code: string; readonly start: number } | undefined;

/** The app's own advice, as its screens ask for it. */
export function asAdvised(working: Working): Adviser {
  let before: string | undefined;
  return (trials, now) => {
    const { trial, action } = whatNext(trials, working, now, { before });
    if (!trial || action.kind === 'finished') return undefined;
    const code = action.patch.code;
    before = actionName({ trial, action });
    const start = action.kind === 'wait' ? action.until : (action.planned ?? now);
    return { trial: trials.findIndex(t => t.plan === trial), code, start };
  };
}

/** What is due first, by the plain rule. */
export const asDue =
  (working: Working): Adviser =>
  (trials, now) => {
    const desk = deskOf(trials, working, now);
    const move = dueFirst(Play.of(desk, sittingsFrom(working.sittings, now)));
    return move && { ...desk.lines[move.line], start: move.start };
  };

/** What somebody would do who knows how long everything will take, and what will come late. */
export const asForeseen =
  (working: Working, traits: MakerTraits, seed: number): Adviser =>
  (trials, now) => {
    const desk = deskOf(trials, working, now);
    const known = (l: number, k: number, hands: number) => {
      const { code, links } = desk.lines[l];
      const { link } = links[k];
      const luck = luckOf(seed, code, link.step.id, link.round, traits);
      return (luck.skips ? 0 : hands * luck.takes) + luck.lateMs;
    };
    const found = advise(desk, sittingsFrom(working.sittings, now), paceOf([]), { courses: [known] });
    return found && { ...desk.lines[found.move.line], start: found.move.start };
  };

/** What happens to a piece at a step. */
function luckOf(seed: number, code: string, step: string, round: number, traits: MakerTraits) {
  const luck = chanceFrom(seedOf(`${seed} ${code} ${step} ${round}`));
  const isLate = luck.next() < traits.late;
  const lateMs = isLate ? -Math.log(1 - luck.next()) * traits.lateMin * MIN : 0;
  const takes = Math.exp(luck.normal(0, traits.sd));
  return { lateMs, takes, spoils: luck.next() < traits.spoilt, skips: luck.next() < traits.skipped };
}

/** What came of it. */
export interface Worked {
  readonly trials: readonly Trialled[];
  readonly presses: number;
  /** Actions that were begun after their window had closed. */
  readonly missed: number;
  readonly ends: number;
}

/**
 * A made-up maker works trials through as an adviser says. How long an action takes, whether it is begun late, spoilt or
 * skipped is the luck of the piece and the step, so that two advisers meet the same luck.
 */
export function workedThrough(
  plans: readonly TrialPlan[],
  adviser: Adviser,
  traits: MakerTraits,
  { seed, start }: { seed: number; start: number },
): Worked {
  const records: TrialRecord[][] = plans.map(() => []);
  let trials: Trialled[] = plans.map((plan, t) => ({ plan, records: records[t] }));
  let now = start;
  let presses = 0;
  let missed = 0;
  for (let guard = 0; guard < 20_000; guard++) {
    const move = adviser(trials, now);
    if (!move) return { trials, presses, missed, ends: now };
    const progress = progressOf(plans[move.trial], records[move.trial]);
    const line = progress.lines.find(l => l.patch.code === move.code)!;
    const { next, window } = patchStatus(line, progress.airs, now);
    const { step, round } = next!;
    const { lateMs, takes, spoils, skips } = luckOf(seed, move.code, step.id, round, traits);
    const came = Math.max(now, move.start);
    const begun = came + lateMs;
    const others = alsoNow(progress, move.code, next!);
    const go = progress.lines.filter(l => l === line || others.includes(l.patch.code));
    if (window && begun > window.closes) missed++;
    const hands = go.reduce((sum, l) => sum + handsOnMin(step, l) * MIN, 0);
    now = begun + (skips ? 0 : hands * takes);
    presses++;
    const base = { id: `w${presses}`, at: new Date(now).toISOString(), patch: move.code };
    const also = go.map(l => l.patch.code).filter(code => code !== move.code);
    records[move.trial].push({
      ...base,
      kind: 'step',
      step: step.id,
      round,
      begun: new Date(came).toISOString(),
      ...(skips ? { skipped: true } : {}),
      ...(also.length ? { also } : {}),
    });
    if (spoils && step.does !== 'mark')
      records[move.trial].push({ ...base, id: `s${presses}`, kind: 'spoilt', why: 'It slipped' });
    trials = trials.map((t, i) => (i === move.trial ? { ...t, records: [...records[i]] } : t));
  }
  throw new Error('The bench does not come to an end.');
}
