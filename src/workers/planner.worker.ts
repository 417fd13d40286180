import { expose } from 'comlink';
import { planTrial } from '../core/design/index.ts';
import {
  type Findings,
  findingsOf,
  type OtherScatter,
  type Rehearsal,
  type RehearsalAsk,
  rehearse,
  rehearseOthers,
} from '../core/findings/index.ts';
import type { Outcome, Progress } from '../core/outcome/index.ts';
import { chanceFrom } from '../core/random/index.ts';
import { type Agenda, agendaAtLast, agendaOfAll, QUICK } from '../core/schedule/index.ts';
import type { TrialPlan, TrialRecord } from '../core/trial/index.ts';
import type { AgendaJob, PlanJob } from './jobs.ts';

const api = {
  /** Plans a trial; the search for a fraction tells how far it is. */
  plan: (job: PlanJob, tell: Progress): Outcome<TrialPlan> => {
    const chance = chanceFrom(job.identity);
    const identity = { createdAt: job.createdAt, random: () => chance.next() };
    return planTrial(job.request, job.shelf, identity, job.own, tell);
  },
  /** Plays a plan through with made-up results. */
  rehearse: (plan: TrialPlan, ask: RehearsalAsk, tell: Progress): Rehearsal => rehearse(plan, ask, tell),
  rehearseOthers: (plan: TrialPlan, ask: RehearsalAsk, tell: Progress): readonly OtherScatter[] =>
    rehearseOthers(plan, ask, tell),
  /** What a trial supports. */
  findings: (plan: TrialPlan, records: readonly TrialRecord[], tell: Progress): Findings =>
    findingsOf(plan, records, tell),
  /** Lays out the work of trials in time. */
  agenda: ({ trials, working, now, thorough }: AgendaJob, tell: Progress): Outcome<Agenda> =>
    thorough ? agendaAtLast(trials, working, now, tell) : agendaOfAll(trials, working, now, QUICK, { tell }),
};
export type PlannerApi = typeof api;

expose(api);
