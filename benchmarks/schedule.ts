import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { ProblemError } from '../src/core/outcome/index.ts';
import { type Agenda, agendaOfAll, THOROUGH, USUAL_WORKING } from '../src/core/schedule/index.ts';
import { tightWorkload } from '../src/core/schedule/solver/example.ts';
import { solve } from '../src/core/schedule/solver/index.ts';
import type { TrialPlan, TrialRecord } from '../src/core/trial/index.ts';
import { asData, instances, ladderOf } from './instances.ts';

const T0 = Date.parse('2026-05-02T09:00:00.000Z');
const TIGHT = 200;
const MIN = 60_000;

type Tell = (line: string) => void;

/** How long a plan takes for so many trials of forty-eight patches: the first, an improved one, and one anew in the middle. */
function speed(trials: number, unit: number, tell: Tell): void {
  const plans = Array.from({ length: trials }, (_, i) => ladderOf(8, i + 1));
  const known = (records: ReadonlyMap<string, TrialRecord[]>) =>
    plans.map(plan => ({ plan, records: records.get(plan.id) ?? [] }));
  const timed = (records: ReadonlyMap<string, TrialRecord[]>, now: number, search?: typeof THOROUGH) => {
    const start = performance.now();
    const found = agendaOfAll(known(records), USUAL_WORKING, now, search);
    const ms = performance.now() - start;
    if (!found.ok) throw new ProblemError(found.problem);
    return { ms, agenda: found.value };
  };
  timed(new Map(), T0);
  const first = timed(new Map(), T0);
  const whole = timed(new Map(), T0, THOROUGH);
  const { records, now } = halfDone(plans, whole.agenda);
  const again = Array.from({ length: 9 }, () => timed(records, now).ms).sort((a, b) => a - b)[4];
  const hours = (a: Agenda) => ((a.ends - T0) / 3_600_000).toFixed(2);
  const ms = (took: number) => `${took.toFixed(0).padStart(5)} ms, ${(took / unit).toFixed(2)}`;
  tell(`\nschedule of ${48 * trials} patches, ${whole.agenda.tasks.length} actions:`);
  tell(`  first          ${ms(first.ms)}; done after ${hours(first.agenda)} h`);
  tell(`  improved       ${ms(whole.ms)}; done after ${hours(whole.agenda)} h`);
  tell(`  anew, half way ${ms(again)}`);
}

function halfDone(plans: readonly TrialPlan[], { tasks }: Agenda) {
  const records = new Map(plans.map(plan => [plan.id, [] as TrialRecord[]]));
  const done = tasks.slice(0, Math.floor(tasks.length * 0.42));
  done.forEach((t, i) => {
    records.get(t.trial)!.push({
      id: `b${i}`,
      at: new Date(t.to).toISOString(),
      kind: 'step',
      patch: t.patch,
      step: t.link.step.id,
      round: t.link.round,
    });
  });
  return { records, now: done[done.length - 1].to + 90_000 };
}

/** Days of work of the planner against the best that any solver found for them (benchmarks/schedule-best.json). */
function quality(tell: Tell): void {
  const file = new URL('./schedule-best.json', import.meta.url);
  const best = existsSync(file)
    ? (JSON.parse(readFileSync(file, 'utf8')) as Record<string, { cost: number }>)
    : {};
  const data: unknown[] = [];
  const gaps: number[] = [];
  tell('\ndays of work          ours, min   best known   dearer by   bound says at most   ms');
  for (const instance of instances()) {
    const start = performance.now();
    const found = solve(instance.problem, { rounds: THOROUGH.rounds, seed: THOROUGH.seed });
    const ms = performance.now() - start;
    if (!found.ok) {
      tell(`${instance.name.padEnd(28)} ${found.problem.code}`);
      continue;
    }
    const { cost, bound, starts } = found.value;
    data.push(asData(instance, starts));
    const known = Math.min(best[instance.name]?.cost ?? Number.POSITIVE_INFINITY, cost / MIN);
    gaps.push(cost / MIN / known - 1);
    const percent = (share: number) => `${(100 * share).toFixed(1).padStart(8)} %`;
    tell(
      `${instance.name.padEnd(28)} ${(cost / MIN).toFixed(1).padStart(9)} ${known.toFixed(1).padStart(9)} ${percent(cost / MIN / known - 1)} ${percent((cost - bound) / cost)} ${ms.toFixed(0).padStart(12)}`,
    );
  }
  tell(`largest: ${(100 * Math.max(...gaps)).toFixed(1)} % (asked: 3 %)`);
  if (process.env.DATA) writeFileSync(process.env.DATA, JSON.stringify(data));
}

/** Work that just fits: how often a schedule is found, and how often it is falsely said that there is none. */
function tight(tell: Tell): void {
  const codes = Array.from({ length: TIGHT }, (_, seed) => {
    const found = solve(tightWorkload(seed + 1), { rounds: 60, seed: 5 });
    return found.ok ? 'found' : found.problem.code.split(' ')[0];
  });
  const count = (code: string) => codes.filter(c => c === code).length;
  tell(
    `\nof ${TIGHT} that just fit: ${count('found')} found, ${count('none-yet')} not yet, ${count('job')} falsely said to be impossible`,
  );
}

/** How fast schedules are made, how near to the best they are, and whether what fits is found. */
export function benchSchedule(unit: number, tell: Tell): void {
  speed(1, unit, tell);
  speed(4, unit, tell);
  quality(tell);
  tight(tell);
}
