// npm run bench [-- reading | design | findings | evidence | print | schedule | bench | screen | store]: how true the readings are on 40 simulated photos of unseen seeds, and speed as a ratio to a reference;
// how fast and how good the planner's search is; how the store behaves as a workshop grows.
import { loadCv } from '../src/cli/node-cv.ts';
import { examplePlan } from '../src/core/design/example.ts';
import { forecast } from '../src/core/schedule/index.ts';
import { type Trialled, tryOne } from './accuracy.ts';
import { benchDesigns } from './design.ts';
import { benchEvidence } from './evidence.ts';
import { benchFindings } from './findings.ts';
import { benchMaker, benchScreen } from './maker.ts';
import { benchPrint } from './print.ts';
import { benchSchedule } from './schedule.ts';
import { benchStore } from './store.ts';

const PHOTOS = 40;
const [part = 'all', seed] = process.argv.slice(2);
const FIRST_SEED = Number(seed ?? 70_000);

const at = (sorted: readonly number[], share: number) =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))];
const errors = (all: readonly Trialled[], what: 'landed' | 'veil') =>
  all.flatMap(t => (t[what][1] === null ? [] : [Math.abs(t[what][0] - t[what][1]!)])).sort((a, b) => a - b);

/** A fixed amount of arithmetic, in ms on this machine: what the times below are divided by. */
function reference(): number {
  const start = performance.now();
  let sum = 0;
  for (let i = 1; i < 2e7; i++) sum += Math.sqrt(i) / i;
  return sum > 0 ? performance.now() - start : 1;
}

async function benchReading() {
  const { cv } = await loadCv();
  const unit = reference();
  const all: Trialled[] = [];
  console.log('seed    ground                     landed: true   read    veil: true   read');
  for (let i = 0; i < PHOTOS; i++) {
    const t = await tryOne(cv, FIRST_SEED + i);
    all.push(t);
    const read = t.refusal
      ? `refused: ${t.refusal}`
      : `${t.landed[1]!.toFixed(1).padStart(6)}         ${t.veil[0].toFixed(3)}  ${t.veil[1]?.toFixed(3) ?? '-'}`;
    console.log(`${t.seed}  ${t.ground.padEnd(26)} ${t.landed[0].toFixed(1).padStart(11)} ${read}`);
  }
  const [landed, veil] = [errors(all, 'landed'), errors(all, 'veil')];
  console.log(
    `\nlanded: median error ${at(landed, 0.5).toFixed(2)} points, nine in ten within ${at(landed, 0.9).toFixed(2)} (asked: 4)`,
  );
  console.log(
    `veil:   median error ${at(veil, 0.5).toFixed(3)}, nine in ten within ${at(veil, 0.9).toFixed(3)} (asked at the median: 0.06)`,
  );
  console.log(`refused: ${all.filter(t => t.refusal).length} of ${PHOTOS}`);
  const readMs = all.map(t => t.readMs).sort((a, b) => a - b);
  console.log(`\nspeed, in units of the reference (${unit.toFixed(0)} ms here):`);
  console.log(`  one photo read       ${(at(readMs, 0.5) / unit).toFixed(1)}`);
  const start = performance.now();
  const plan = examplePlan();
  forecast(plan, [], Date.parse(plan.createdAt));
  console.log(`  plan and forecast    ${((performance.now() - start) / unit).toFixed(2)}`);
}

if (part === 'all' || part === 'reading') await benchReading();
if (part === 'all' || part === 'design') benchDesigns(console.log);
if (part === 'all' || part === 'print') await benchPrint(reference(), console.log);
if (part === 'all' || part === 'store') await benchStore(console.log);
if (part === 'all' || part === 'schedule') benchSchedule(reference(), console.log);
if (part === 'all' || part === 'bench' || part === 'screen') benchScreen(console.log);
if (part === 'all' || part === 'bench') benchMaker(console.log);
if (part === 'all' || part === 'findings') benchFindings(line => console.log(line));
if (part === 'all' || part === 'evidence') benchEvidence(line => console.log(line));
