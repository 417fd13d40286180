import type { Trialled } from '../progress/index.ts';
import { alsoNow, patchStatus, progressOf } from '../progress/index.ts';
import { isShortWait, isShortWindow } from '../steps/index.ts';
import type { TrialPlan, TrialRecord } from '../trial/index.ts';
import type { Agenda, Appointment } from './agenda.ts';
import { type Action, nextAction } from './next-action.ts';

/** What the bench shows: the one thing to do or wait for, what comes after it, and what is waiting meanwhile. */
export interface AtBench {
  readonly action: Action;
  /** Other patches that the action is done for in the same go. */
  readonly also: readonly string[];
  readonly next: readonly Appointment[];
  /** What has to be done with the brush or the medium before it. */
  readonly first: readonly ('wash' | 'make')[];
  /** Patches that wait for something with a window, the soonest first; the one of the action is not among them. */
  readonly waiting: readonly { readonly patch: string; readonly what: string; readonly aim: number }[];
}

/**
 * The bench at a moment (ms): the agenda's first action that is not done, to be done when its time has come. Without
 * an agenda (nothing fits) what is most urgent.
 *
 * @example atBench(plan, records, undefined, start).action.kind; // => 'do'
 */
export function atBench(
  plan: TrialPlan,
  records: readonly TrialRecord[],
  agenda: Agenda | undefined,
  now: number,
): AtBench {
  const progress = progressOf(plan, records);
  const lineOf = new Map(progress.lines.map(line => [line.patch.code, line]));
  const open = (agenda?.tasks ?? []).filter(({ patch, link }) => {
    const line = lineOf.get(patch);
    if (!line || line.spoilt) return false;
    const i = line.chain.findIndex(l => l.step.id === link.step.id && l.round === link.round);
    return i >= 0 && line.doneAt[i] === undefined;
  });
  const [first, ...rest] = open;
  const extras = first ? (agenda?.extras ?? []).filter(e => e.to <= first.from) : [];
  const extraMs = extras.reduce((sum, e) => sum + e.to - e.from, 0);
  const action = first ? actionFor(first) : nextAction(progress, now);
  const busyWith = action.kind === 'finished' ? undefined : action.patch.code;
  const also = action.kind === 'do' ? alsoNow(progress, action.patch.code, action.link) : [];
  const isMeant = (t: Appointment) =>
    action.kind === 'do' && also.includes(t.patch) && t.link.step.id === action.link.step.id;
  const waiting = progress.lines.flatMap(line => {
    const status = patchStatus(line, progress.air, now);
    return status.next && status.window && line.patch.code !== busyWith
      ? [{ patch: line.patch.code, what: status.next.step.action, aim: status.window.aim }]
      : [];
  });
  return {
    action,
    first: extras.map(e => e.what),
    also,
    next: rest.filter(t => !isMeant(t)).slice(0, 2),
    waiting: waiting.sort((a, b) => a.aim - b.aim),
  };

  function actionFor(task: Appointment): Action {
    const line = lineOf.get(task.patch)!;
    const status = patchStatus(line, progress.air, now);
    const found = { patch: line.patch, status, link: status.next ?? task.link };
    const isShort = status.window && isShortWindow(status.window);
    // A short wait is stood through with the next instruction in view and the clock running.
    const mayStart =
      now >= Math.min(task.from, status.window?.aim ?? task.from) - extraMs ||
      (isShort && isShortWait((task.from - now) / 60_000));
    if (!mayStart) return { kind: 'wait', ...found, until: task.from };
    const why = isShort ? 'Its window is short.' : 'Next in the plan of the day.';
    return { kind: 'do', ...found, why, planned: task.from - extraMs };
  }
}

/**
 * What other trials need hands for now: their pieces whose best moment has come, the soonest to close first.
 *
 * @example dueElsewhere([{ plan, records }], plan.id, start); // => []
 */
export function dueElsewhere(
  trials: readonly Trialled[],
  here: string,
  now: number,
): { readonly trial: TrialPlan; readonly patch: string; readonly what: string; readonly closes: number }[] {
  return trials
    .filter(t => t.plan.id !== here)
    .flatMap(({ plan, records }) => {
      const progress = progressOf(plan, records);
      return progress.lines.flatMap(line => {
        const { window, next } = patchStatus(line, progress.air, now);
        return next && window && now >= window.aim
          ? [{ trial: plan, patch: line.patch.code, what: next.step.action, closes: window.closes }]
          : [];
      });
    })
    .sort((a, b) => a.closes - b.closes);
}
