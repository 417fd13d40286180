import normalCdf from '@stdlib/stats-base-dists-normal-cdf';
import {
  answer,
  comparedIn,
  contradictionsIn,
  type EvidenceRow,
  type Made,
  poolOf,
  THINGS,
  type Thing,
} from '../src/core/evidence/index.ts';
import { chanceFrom } from '../src/core/random/index.ts';

type Tell = (line: string) => void;

const KINDS: Record<Thing, number> = {
  method: 5,
  medium: 8,
  donor: 5,
  substrate: 6,
  preparation: 4,
  printer: 3,
};
const SPREADS: Record<Thing, number> = {
  method: 0.5,
  medium: 0.6,
  donor: 0.4,
  substrate: 0.4,
  preparation: 0.3,
  printer: 0.2,
};

/** A made-up workshop: every thing, some pairs and every trial with an effect of its own. */
function workshop(seed: number, trials: number, shiftSd = 0.3, each = 6, repeats = 2) {
  const c = chanceFrom(seed);
  const effects = new Map<string, number>();
  const effect = (key: string, sd: number) => {
    if (!effects.has(key)) effects.set(key, sd * c.normal());
    return effects.get(key)!;
  };
  const pick = (thing: Thing) => {
    const id = `${thing} ${c.whole(0, KINDS[thing] - 1)}`;
    return { id, name: id, kind: '' };
  };
  const used = () => Object.fromEntries(THINGS.map(t => [t, pick(t)])) as EvidenceRow['used'];
  const truth = ({ used: u, dry }: Made) =>
    1.8 +
    THINGS.reduce((sum, t) => sum + effect(u[t].id, SPREADS[t]), 0) +
    effect(`${u.medium.id} ${u.substrate.id}`, 0.25) +
    0.5 * dry -
    0.3 * dry * dry;
  const made = (): Made => ({ used: used(), dry: 0.5 * c.normal(), coat: -1, rounds: 2 });
  const shift = () => shiftSd * c.normal();
  const rows = Array.from({ length: trials }, (_, t) => {
    const base = made();
    const own = shift();
    return Array.from({ length: each }, (): EvidenceRow => {
      const row = { ...base, used: { ...base.used, medium: pick('medium') }, dry: 0.5 * c.normal() };
      const middle = truth(row) + own;
      const patches = Array.from({ length: repeats }, () => 0.8 * middle + c.normal() > 0);
      const works = patches.filter(Boolean);
      return {
        ...row,
        ...{ trial: `t${t}`, code: `T${t}`, at: '2026-01-01', varied: [], judged: 0, kept: 0 },
        failed: patches.length - works.length,
        landed: works.map(() => 100 / (1 + Math.exp(-(middle + 0.5 * c.normal())))),
      };
    });
  }).flat();
  return { rows, truth, made, shift };
}

/** How often what is foreseen of something never tried holds, and how quick it is. */
export function benchEvidence(tell: Tell): void {
  // What was tried is asked about as it is, in a further trial.
  const cells = [1, 3, 10, 40, 150].flatMap(trials =>
    [0.3, 1].flatMap(shift => [false, true].map(tried => ({ trials, shift, tried }))),
  );
  for (const { trials, shift, tried } of cells) {
    let [works, lands, of, off, wide] = [0, 0, 0, 0, 0];
    for (let sim = 0; sim < 12; sim++) {
      const world = workshop(500 + 13 * sim + trials, trials, shift);
      const pool = poolOf(world.rows);
      for (let ask = 0; ask < 12; ask++) {
        const made = tried ? world.rows[(7 * ask) % world.rows.length] : world.made();
        const middle = world.truth(made) + world.shift();
        const found = answer(pool, made);
        if (!found) continue;
        const landed = 100 / (1 + Math.exp(-middle));
        const chance = normalCdf(0.8 * middle, 0, 1);
        of++;
        if (found.lands.lo <= landed && landed <= found.lands.hi) lands++;
        if (found.works.lo <= chance && chance <= found.works.hi) works++;
        off += found.works.value - chance;
        wide += found.lands.hi - found.lands.lo;
      }
    }
    const pct = (n: number) => `${((100 * n) / of).toFixed(0)} %`;
    tell(
      `${trials} trials that shift by ${shift}, ${tried ? 'tried' : 'never tried'}: the range of what lands holds ${pct(lands)} (${(wide / of).toFixed(0)} points wide), that of whether it works ${pct(works)}, off by ${(off / of).toFixed(3)} in the mean`,
    );
  }
  let [said, right] = [0, 0];
  for (let sim = 0; sim < 40; sim++) {
    const world = workshop(9000 + sim, 30);
    const pool = poolOf(world.rows);
    const base = world.made();
    for (let m = 0; m < KINDS.method; m++) {
      const found = comparedIn(pool, `method ${m}`, 'medium');
      if (!found || found.levels[0].best < 0.8) continue;
      said++;
      const value = (id: string) =>
        world.truth({ ...base, used: { ...base.used, medium: { id, name: id, kind: '' } } });
      const best = [...found.levels].sort((a, b) => value(b.id) - value(a.id))[0];
      if (best.id === found.levels[0].id) right++;
    }
  }
  tell(`a medium said to be best with 80 % or more: right ${right} of ${said}`);
  const large = workshop(9, 500);
  const start = performance.now();
  poolOf(large.rows);
  tell(`500 trials, 6000 patches weighed in ${(performance.now() - start).toFixed(0)} ms (asked: 1000)`);
  tell(`contradictions among them: ${contradictionsIn(large.rows).length}`);
}
