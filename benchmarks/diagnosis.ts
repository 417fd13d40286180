import { mkdirSync, writeFileSync } from 'node:fs';
import { loadCv } from '../src/cli/node-cv.ts';
import { explainCase } from '../src/core/diagnosis/index.ts';
import { ProblemError } from '../src/core/outcome/index.ts';
import { type Failure, failureFrom } from './failures.ts';

/** Where the made-up failures are kept, to weigh them again without making them anew. */
const KEPT = 'tmp/failures.json';

/** Simulated failures through the reader: how often the cause that really was is named, and how true the chances are. */
export async function benchDiagnosis(say: (line: string) => void, first: number, count: number) {
  const { cv } = await loadCv();
  const all: Failure[] = [];
  for (let seed = first, tried = 0; all.length < count && tried < 4 * count; seed++, tried++) {
    // Of ten: six with one thing wrong, two with two, two with none.
    const wrong = ([1, 1, 2, 1, 0, 1, 1, 2, 1, 0] as const)[Math.floor(seed / 16) % 10];
    const made = await failureFrom(cv, seed, wrong);
    if (made) all.push(made);
    if (made && all.length % 100 === 0) say(`  ${all.length} made`);
  }
  mkdirSync('tmp', { recursive: true });
  writeFileSync(KEPT, JSON.stringify(all));
  judged(all, say);
}

const answered = (cause: string, truth: readonly string[]) => (truth.includes(cause) ? 'yes' : 'no');

/** The figures of failures that were made up before. */
export function judged(all: readonly Failure[], say: (line: string) => void) {
  const explain = (f: Failure, answers: Record<string, string> = {}) => {
    const found = explainCase({ ...f.told, answers });
    if (!found.ok) throw new ProblemError(found.problem);
    return found.value;
  };
  const percent = (n: number, of: number) => `${of ? Math.round((100 * n) / of) : 0} % of ${of}`;
  const sound = all.filter(f => !f.truth.length);
  const wrong = all.map(f => ({ f, found: explain(f) })).filter(x => x.f.truth.length);
  // Where the photo shows nothing wrong there is nothing to explain.
  const shown = wrong.filter(x => x.found.nothingWrong < 0.5);
  const one = shown.filter(x => x.f.truth.length === 1);
  const two = shown.filter(x => x.f.truth.length === 2);
  const at = (x: (typeof one)[number], cause: string) => x.found.causes.findIndex(c => c.id === cause);
  const isFirst = (x: (typeof one)[number]) => at(x, x.f.truth[0]) === 0;
  const isTop = (x: (typeof one)[number]) => x.f.truth.every(c => at(x, c) >= 0 && at(x, c) < 3);
  say(
    `one cause: first ${percent(one.filter(isFirst).length, one.length)} (asked: 70), in the first three ${percent(one.filter(isTop).length, one.length)} (92)`,
  );
  say(`two causes: both in the first three ${percent(two.filter(isTop).length, two.length)} (75)`);
  const asked = one.filter(({ f, found }) => {
    const answers: Record<string, string> = {};
    let now = found;
    for (let k = 0; k < 2; k++) {
      const [next] = now.ask;
      if (!next) break;
      answers[next.question] = answered(next.question.replace('check:', ''), f.truth);
      now = explain(f, answers);
    }
    return now.causes[0]?.id === f.truth[0];
  });
  say(`after two questions answered truly: first ${percent(asked.length, one.length)} (85)`);
  const healthy = sound.filter(f => {
    const found = explain(f);
    return found.nothingWrong >= 0.5 || (found.causes[0]?.likely ?? 0) < 0.35;
  });
  say(`sound patches called sound, or not enough to tell: ${percent(healthy.length, sound.length)} (95)`);
  say(
    `calibration error ${calibration(
      shown.map(x => ({ truth: x.f.truth, causes: x.found.causes })),
      say,
    ).toFixed(3)} (0.06)`,
  );
  say('what was taken for what (truly → named first):');
  const taken = new Map<string, number>();
  for (const x of one) {
    const pair = `${x.f.truth[0]} → ${x.found.causes[0]?.id ?? 'nothing'}`;
    taken.set(pair, (taken.get(pair) ?? 0) + 1);
  }
  for (const [pair, n] of [...taken].sort((a, b) => b[1] - a[1])) say(`  ${String(n).padStart(4)}  ${pair}`);
}

/** Expected calibration error over every cause that was named, in ten bins of what was said. */
function calibration(
  told: readonly {
    readonly truth: readonly string[];
    readonly causes: readonly { readonly id: string; readonly likely: number }[];
  }[],
  say: (line: string) => void,
): number {
  const bins = Array.from({ length: 10 }, () => ({ n: 0, said: 0, was: 0 }));
  for (const { truth, causes } of told)
    for (const { id, likely } of causes) {
      const bin = bins[Math.min(9, Math.floor(likely * 10))];
      bin.n++;
      bin.said += likely;
      bin.was += Number(truth.includes(id));
    }
  const all = bins.reduce((sum, b) => sum + b.n, 0);
  for (const b of bins.filter(x => x.n))
    say(`  said ${((100 * b.said) / b.n).toFixed(0)} %: was ${((100 * b.was) / b.n).toFixed(0)} % of ${b.n}`);
  return bins.reduce((sum, b) => sum + Math.abs(b.said - b.was), 0) / Math.max(1, all);
}
