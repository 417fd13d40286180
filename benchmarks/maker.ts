import { METHODS } from '../src/core/methods/index.ts';
import { planOf } from '../src/core/questions/example.ts';
import { USUAL_WORKING } from '../src/core/schedule/index.ts';
import { DISTRACTED, watched } from '../src/core/simulator/at-screen.ts';
import { asAdvised, asDue, asForeseen, CLUMSY, workedThrough } from '../src/core/simulator/maker.ts';

const RUNS = Number(process.env.RUNS ?? 20);
const T0 = new Date(2026, 4, 2, 9, 0).getTime();
const HOUR = 3_600_000;

/** Windows missed by a made-up clumsy maker, by the plain rule, by the app's advice, and with foresight; hours until all is done. */
export function benchMaker(say: (line: string) => void): void {
  for (const most of [12, 6]) benchSize(say, most);
}

function benchSize(say: (line: string) => void, most: number): void {
  const total = [0, 0, 0];
  let presses = 0;
  say(
    `bench: ${RUNS} runs of every method with up to ${most} patches by a made-up maker; RUNS=200 for as many`,
  );
  say(
    'method             windows missed: plain  advised  foresight    hours: plain  advised  foresight   ms a press',
  );
  for (const method of METHODS) {
    const whole = planOf(method.id);
    const plan = { ...whole, patches: whole.patches.slice(0, most) };
    const missed = [0, 0, 0];
    const hours = [0, 0, 0];
    let [ms, own] = [0, 0];
    for (let seed = 0; seed < RUNS; seed++)
      [asDue(USUAL_WORKING), asAdvised(USUAL_WORKING), asForeseen(USUAL_WORKING, CLUMSY, seed)].forEach(
        (adviser, k) => {
          const start = performance.now();
          const worked = workedThrough([plan], adviser, CLUMSY, { seed, start: T0 });
          if (k === 1) [ms, own] = [ms + performance.now() - start, own + worked.presses];
          missed[k] += worked.missed;
          hours[k] += (worked.ends - T0) / HOUR / RUNS;
          presses += worked.presses;
        },
      );
    missed.forEach((n, k) => {
      total[k] += n;
    });
    const cells = [...missed.map(n => String(n).padStart(9)), ...hours.map(h => h.toFixed(1).padStart(11))];
    say(`${method.id.padEnd(28)} ${cells.join('')} ${(ms / own).toFixed(1).padStart(12)}`);
  }
  say(
    `all ${total.join(' ')} in ${presses} presses; advised to plain ${(total[1] / total[0]).toFixed(3)}, to foresight ${(total[1] / total[2]).toFixed(3)}`,
  );
}

/** Presses of a distracted maker before the screen of the bench, with what it shows, holds and takes for pressed in the loop. */
export function benchScreen(say: (line: string) => void): void {
  const wanted = Number(process.env.PRESSES ?? 5_000);
  say(`bench: at least ${wanted} presses of a distracted maker before the screen; PRESSES=50000 for as many`);
  const start = performance.now();
  let [presses, records, asked, wrong] = [0, 0, 0, 0];
  for (let seed = 0; presses < wanted; seed++)
    METHODS.forEach(({ id }, i) => {
      // Every fourth time two trials lie on one bench.
      const second = METHODS[(i + 1 + seed) % METHODS.length].id;
      const plans = (seed + i) % 4 === 3 && second !== id ? [planOf(id), planOf(second, 0.7)] : [planOf(id)];
      const worked = watched(plans, USUAL_WORKING, DISTRACTED, { seed: seed * 100 + i, start: T0 });
      presses += worked.presses;
      records += worked.records;
      asked += worked.asked;
      wrong += worked.wrong.length;
      for (const what of worked.wrong)
        say(`  seed ${seed * 100 + i}, ${plans.map(p => p.used.method.name).join(' and ')}: ${what}`);
    });
  say(
    `${presses} presses: ${records} steps recorded, ${asked} presses asked about or passed over, ${wrong} of another patch or step; ${((performance.now() - start) / 1000).toFixed(0)} s`,
  );
}
