// npm run bench [-- reading | diagnosis | common | design | findings | evidence | pages | print | schedule | bench | screen | store | workshop]: how true the readings are on simulated photos of unseen seeds over all methods, and speed as a ratio to a reference;
// how fast and how good the planner's search is; how the store behaves as a workshop grows.
import { mkdirSync, writeFileSync } from 'node:fs';
import { loadCv } from '../src/cli/node-cv.ts';
import { examplePlan } from '../src/core/design/example.ts';
import { forecast } from '../src/core/schedule/index.ts';
import { type Trialled, tryOne } from './accuracy.ts';
import { benchBoard } from './board.ts';
import { benchCommon, benchExplaining } from './common.ts';
import { benchDesigns } from './design.ts';
import { benchDiagnosis } from './diagnosis.ts';
import { benchEvidence } from './evidence.ts';
import { benchFindings } from './findings.ts';
import { benchMaker, benchScreen } from './maker.ts';
import { benchPages } from './pages.ts';
import { benchPrint } from './print.ts';
import { benchSchedule } from './schedule.ts';
import { benchStore } from './store.ts';
import { benchWorkshop } from './workshop.ts';

const [part = 'all', seed, photos] = process.argv.slice(2);
/** Three of each method, unless more are asked for: `npm run bench -- reading 90000 400`. */
const PHOTOS = Number(photos ?? 48);
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
  console.log(
    'seed    method, ground                                    landed: true   read  ±     veil: true   read',
  );
  for (let i = 0; i < PHOTOS; i++) {
    const t = await tryOne(cv, FIRST_SEED + i);
    all.push(t);
    const read = t.refusal
      ? `refused: ${t.refusal}`
      : `${t.landed[1]!.toFixed(1).padStart(6)}  ${t.landed[2]!.toFixed(1)}       ${t.veil[0].toFixed(3)}  ${t.veil[1]?.toFixed(3) ?? '-'}`;
    console.log(
      `${t.seed}  ${`${t.method}, ${t.ground}`.slice(0, 50).padEnd(50)} ${t.landed[0].toFixed(1).padStart(8)} ${read}`,
    );
  }
  const [landed, veil] = [errors(all, 'landed'), errors(all, 'veil')];
  const holds = (what: 'landed' | 'veil') => {
    const given = all.filter(t => t[what][1] !== null && t[what][2] !== null);
    const within = given.filter(t => Math.abs(t[what][0] - t[what][1]!) <= t[what][2]!);
    return `${Math.round((100 * within.length) / given.length)} %`;
  };
  console.log(
    `\nlanded: median error ${at(landed, 0.5).toFixed(2)} points, nine in ten within ${at(landed, 0.9).toFixed(2)} (asked: 0.8, 3); ± holds ${holds('landed')} (85–95)`,
  );
  console.log(
    `veil:   median error ${at(veil, 0.5).toFixed(3)}, nine in ten within ${at(veil, 0.9).toFixed(3)} (asked: 0.04, 0.08); ± holds ${holds('veil')}`,
  );
  console.log(`refused: ${all.filter(t => t.refusal).length} of ${PHOTOS}`);
  console.log('\nby method: median and largest error of what landed');
  for (const method of new Set(all.map(t => t.method))) {
    const off = errors(
      all.filter(t => t.method === method),
      'landed',
    );
    if (off.length)
      console.log(`  ${method.padEnd(34)} ${at(off, 0.5).toFixed(2)}  ${off.at(-1)!.toFixed(2)}`);
  }
  // The worst as pictures, to be looked at.
  mkdirSync('tmp/worst', { recursive: true });
  const off = (t: Trialled) => (t.landed[1] === null ? 100 : Math.abs(t.landed[0] - t.landed[1]));
  for (const t of [...all].sort((a, b) => off(b) - off(a)).slice(0, 6))
    writeFileSync(`tmp/worst/${t.seed}-${off(t).toFixed(0)}.jpg`, t.jpeg);
  const readMs = all.map(t => t.readMs).sort((a, b) => a - b);
  console.log(`\nspeed, in units of the reference (${unit.toFixed(0)} ms here):`);
  console.log(`  one photo read       ${(at(readMs, 0.5) / unit).toFixed(1)}`);
  const start = performance.now();
  const plan = examplePlan();
  forecast(plan, [], Date.parse(plan.createdAt));
  console.log(`  plan and forecast    ${((performance.now() - start) / unit).toFixed(2)}`);
}

if (part === 'all' || part === 'reading') await benchReading();
if (part === 'all' || part === 'reading' || part === 'board') await benchBoard(console.log);
if (part === 'all' || part === 'design') benchDesigns(console.log);
if (part === 'all' || part === 'print') await benchPrint(reference(), console.log);
if (part === 'all' || part === 'pages') await benchPages(console.log);
if (part === 'all' || part === 'store') await benchStore(console.log);
if (part === 'all' || part === 'workshop') await benchWorkshop(console.log);
if (part === 'all' || part === 'schedule') benchSchedule(reference(), console.log);
if (part === 'all' || part === 'bench' || part === 'screen') benchScreen(console.log);
if (part === 'all' || part === 'bench') benchMaker(console.log);
if (part === 'all' || part === 'findings') benchFindings(line => console.log(line));
if (part === 'all' || part === 'diagnosis' || part === 'common') {
  benchCommon(console.log, 200);
  benchExplaining(console.log);
}
if (part === 'all' || part === 'diagnosis')
  await benchDiagnosis(console.log, FIRST_SEED, Number(photos ?? 60));
if (part === 'all' || part === 'evidence') benchEvidence(line => console.log(line));
