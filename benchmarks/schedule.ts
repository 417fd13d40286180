import { examplePlan } from '../src/core/design/example.ts';
import { agendaOf, THOROUGH, USUAL_WORKING } from '../src/core/schedule/index.ts';
import type { TrialPlan, TrialRecord } from '../src/core/trial/index.ts';

const T0 = Date.parse('2026-05-02T09:00:00.000Z');

/** Forty-eight patches with six steps each: three mediums, two waits, eight times. */
function large(): TrialPlan {
  const { usual } = examplePlan();
  return examplePlan({
    repeats: 8,
    usual: { ...usual, rounds: 1 },
    board: { w: 480, h: 400, outline: 'rectangle', onePiece: false },
  });
}

/** How long a plan of the work takes, from nothing and anew in the middle, in ms and in units of the reference; and how good it is. */
export function benchSchedule(unit: number, tell: (line: string) => void): void {
  const plan = large();
  const hour = { ...USUAL_WORKING };
  const timed = (records: readonly TrialRecord[], now: number, search?: typeof THOROUGH) => {
    const start = performance.now();
    const found = agendaOf(plan, records, hour, now, search);
    const ms = performance.now() - start;
    if (!found.ok) throw new Error(found.problem.say);
    return { ms, agenda: found.value };
  };
  timed([], T0);
  const whole = timed([], T0, THOROUGH);
  const records: TrialRecord[] = whole.agenda.tasks.slice(0, 120).map((t, i) => ({
    id: `b${i}`,
    at: new Date(t.to).toISOString(),
    kind: 'step',
    patch: t.patch,
    step: t.link.step.id,
    round: t.link.round,
  }));
  const now = whole.agenda.tasks[119].to + 90_000;
  const again = Array.from({ length: 9 }, () => timed(records, now).ms).sort((a, b) => a - b)[4];
  tell(`\nschedule of ${plan.patches.length} patches, ${whole.agenda.tasks.length} actions:`);
  tell(
    `  from nothing, thorough  ${whole.ms.toFixed(0)} ms, ${(whole.ms / unit).toFixed(1)} (asked: 2000 ms)`,
  );
  tell(`  anew in the middle      ${again.toFixed(0)} ms, ${(again / unit).toFixed(2)} (asked: 150 ms)`);
  tell(`  could be better by      ${(100 * whole.agenda.couldBeBetter).toFixed(1)} % at most`);
}
