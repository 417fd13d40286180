import type { Problem } from '../../core/outcome/index.ts';
import type { Trialled } from '../../core/progress/index.ts';
import { type Agenda, type AtBench, agendaOf, atBench, type Working } from '../../core/schedule/index.ts';

/** Who stands at the bench stays this long, whatever their sittings say. */
const STAYS_MS = 4 * 3_600_000;
const BEHIND_MS = 2000;
const AGAIN_MS = 5000;
const OLD_MS = 10 * 60_000;

interface Kept {
  readonly records: Trialled['records'];
  readonly plan: Trialled['plan'];
  readonly working: Working;
  readonly at: number;
  readonly agenda?: Agenda;
  readonly problem?: Problem;
}

const kept = new Map<string, Kept>();

/** A trial's work from now on, laid out anew after every record and when it falls behind; or why nothing fits. */
function workOf(key: string, { plan, records }: Trialled, working: Working, now: number): Kept {
  const old = kept.get(key);
  const isBehind = (old?.agenda?.tasks[0]?.from ?? now) < now - BEHIND_MS;
  const isFit =
    old &&
    old.records === records &&
    old.plan === plan &&
    old.working === working &&
    !(isBehind && now - old.at > AGAIN_MS) &&
    now - old.at <= OLD_MS;
  if (isFit) return old;
  const found = agendaOf(plan, records, working, now, undefined, { hereUntil: now + STAYS_MS });
  const next = {
    ...{ plan, records, working, at: now },
    ...(found.ok ? { agenda: found.value } : { problem: found.problem }),
  };
  kept.set(key, next);
  return next;
}

/** What a trial needs next, and why where not all of it fits. */
export interface WhatNext extends AtBench {
  readonly problem?: Problem;
}

/**
 * What a trial needs next at a moment (ms). The one answer: the opening view, Make and the bench all ask here, and the
 * work is laid out once for all of them.
 */
export function whatNext(workshop: string, trial: Trialled, working: Working, now: number): WhatNext {
  const { agenda, problem } = workOf(`${workshop} ${trial.plan.id}`, trial, working, now);
  return { ...atBench(trial.plan, trial.records, agenda, now), ...(problem ? { problem } : {}) };
}
