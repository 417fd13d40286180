import { many, write } from '../say/index.ts';
import type { Agenda, Appointment } from '../schedule/index.ts';
import { isShortWindow } from '../steps/index.ts';
import { methodsOf, type TrialPlan } from '../trial/index.ts';

/** Work with no longer pause than this is one event. */
const PAUSE_MS = 25 * 60_000;
const MIN = 60_000;

/** A stretch of work for the calendar. */
export interface Session {
  /** The same for the same work when the calendar is written again. */
  readonly uid: string;
  readonly title: string;
  /** The title without the trial's name. */
  readonly what: string;
  readonly lines: readonly string[];
  readonly from: number;
  readonly to: number;
  /** Minutes before its start at which to be told: what is timed sharply needs setting up. */
  readonly alarms: readonly number[];
}

/**
 * Where a piece of work stands in all there is: trial by trial, round by round, step by step, in the plan's own order.
 * It does not depend on when the work comes, and so not on what was done late or in another order.
 */
function standsAt(plans: readonly TrialPlan[]): (task: Appointment) => number {
  const places = new Map<string, number>();
  for (const plan of plans)
    for (const patch of [...plan.patches].sort((a, b) => a.order - b.order))
      places.set(`${plan.id} ${patch.code}`, places.size);
  return ({ trial, patch, link }) => {
    const of = plans.findIndex(p => p.id === trial);
    const steps = plans[of]
      ? methodsOf(plans[of]).map(m => m.steps.findIndex(s => s.id === link.step.id))
      : [];
    const step = steps.find(at => at >= 0) ?? -1;
    return ((of * 50 + link.round) * 50 + step + 1) * 10_000 + (places.get(`${trial} ${patch}`) ?? 0);
  };
}

/**
 * An agenda as stretches of work. A stretch is known by the piece of work in it that stands first in the plan, so that
 * moving it, or doing its pieces in another order, moves the event instead of making another.
 */
export function sessionsOf(plans: readonly TrialPlan[], agenda: Agenda): Session[] {
  const nameOf = new Map(plans.map(p => [p.id, p.name]));
  const groups: Appointment[][] = [];
  for (const task of agenda.tasks) {
    const group = groups.at(-1);
    const end = group ? Math.max(...group.map(t => t.to)) : 0;
    if (group && task.from - end <= PAUSE_MS) group.push(task);
    else groups.push([task]);
  }
  const names = new Set<string>();
  const at = standsAt(plans);
  return groups.map(tasks => {
    const steps = [...new Set(tasks.map(t => t.link.step.action.toLowerCase()))];
    const patches = new Set(tasks.map(t => t.patch)).size;
    const worked = tasks.filter(t => t.link.step.does !== 'mark');
    const first = (worked.length ? worked : tasks).reduce((a, b) => (at(b) < at(a) ? b : a));
    let uid = `${first.trial}-${first.link.step.id}-${first.link.round}-${first.patch.toLowerCase()}`;
    if (names.has(uid)) uid = `${uid}-${names.size}`;
    names.add(uid);
    const isSharp = tasks.some(t => t.window && isShortWindow(t.window));
    const what = `${steps.slice(0, 3).join(', ')}${steps.length > 3 ? ' …' : ''}, ${write(many(patches, 'patch'))}`;
    return {
      uid: `${uid}@wet-test`,
      title: `${[...new Set(tasks.map(t => nameOf.get(t.trial)))].join(' and ')}: ${what}`,
      what,
      lines: tasks.map(t => `${clockOf(t.from)} ${t.patch} ${t.link.step.action}`),
      from: tasks[0].from,
      to: Math.max(...tasks.map(t => t.to), tasks[0].from + 5 * MIN),
      alarms: isSharp ? [15, 5] : [5],
    };
  });
}

const clockOf = (ms: number) => {
  const at = new Date(ms);
  return `${String(at.getHours()).padStart(2, '0')}:${String(at.getMinutes()).padStart(2, '0')}`;
};
