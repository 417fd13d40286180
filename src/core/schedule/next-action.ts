import { type PatchStatus, patchStatus, type TrialProgress, waitedFor } from '../progress/index.ts';
import { isShortWindow, type Link } from '../steps/index.ts';
import type { Patch } from '../trial/index.ts';

/** The one thing that needs hands, or the next moment when something will. */
export type Action =
  | {
      readonly kind: 'do';
      readonly patch: Patch;
      readonly status: PatchStatus;
      readonly link: Link;
      readonly why: string;
      /** When the plan of the work has it, ms; nothing without a plan. */
      readonly planned?: number;
    }
  | {
      readonly kind: 'wait';
      readonly patch: Patch;
      readonly status: PatchStatus;
      readonly link: Link;
      readonly until: number;
      /** Why new work waits, where it does. */
      readonly why?: string;
    }
  | { readonly kind: 'finished' };

/** When a window closes, ms; never where later is as good. */
const closesOf = ({ window, patient }: PatchStatus): number =>
  window && patient ? Number.POSITIVE_INFINITY : (window?.closes ?? 0);

/**
 * What to do next with one pair of hands. A wait shorter than 20 minutes is finished before
 * anything else is begun (a coat must not skin over while another patch is coated); then what is
 * overdue or ready, the soonest to close first; then new work: marking before everything, after
 * that in the plan's randomised order.
 *
 * @example nextAction(progress, start).link.step.does; // => 'mark'
 */
export function nextAction(progress: TrialProgress, now: number): Action {
  const open = progress.lines.flatMap(line => {
    const status = patchStatus(line, progress.airs, now);
    const isReady = status.next && !waitedFor(progress, line, status.next).length;
    return status.next && isReady ? [{ patch: line.patch, status, link: status.next }] : [];
  });
  const act = (found: (typeof open)[number], why: string): Action => ({ kind: 'do', ...found, why });
  const soonest = (list: typeof open) =>
    [...list].sort((a, b) => closesOf(a.status) - closesOf(b.status) || a.patch.order - b.patch.order)[0];

  const short = open.filter(o => o.status.window && isShortWindow(o.status.window));
  if (short.length) return act(soonest(short), 'Its window is short.');
  const ready = open.filter(
    o => o.status.phase === 'overdue' || (o.status.phase === 'ready' && now >= o.status.window!.aim),
  );
  if (ready.length) return act(soonest(ready), 'Its time has come.');
  const fresh = open.filter(o => o.status.phase === 'to do');
  if (fresh.length) {
    const unmarked = fresh.filter(o => o.link.step.does === 'mark');
    const pool = unmarked.length ? unmarked : fresh;
    return act([...pool].sort((a, b) => a.patch.order - b.patch.order)[0], 'Next in the order of work.');
  }
  if (!open.length) return { kind: 'finished' };
  const first = [...open].sort((a, b) => a.status.window!.aim - b.status.window!.aim)[0];
  return { kind: 'wait', ...first, until: first.status.window!.aim };
}
