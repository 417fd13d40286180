import { analyse, choicesOf, type Seen } from '../src/core/findings/index.ts';
import { chanceFrom } from '../src/core/random/index.ts';

type Tell = (line: string) => void;

/** A plan as its patches: levels, board, strip; the kinds that the planner makes. */
interface Plan {
  readonly name: string;
  readonly counts: readonly number[];
  readonly random: readonly string[];
  readonly patches: readonly { readonly levels: readonly number[]; readonly shares: readonly string[] }[];
}

const crossed = (counts: readonly number[]): number[][] =>
  counts.reduce<number[][]>(
    (all, k) => all.flatMap(l => Array.from({ length: k }, (_, i) => [...l, i])),
    [[]],
  );

function plans(): Plan[] {
  const boards = (counts: readonly number[], count: number) =>
    Array.from({ length: count }, (_, b) =>
      crossed(counts).map(levels => ({ levels, shares: [`${b}`] })),
    ).flat();
  const half = crossed([2, 2, 2, 2]).filter(l => l.reduce((a, b) => a + b, 0) % 2 === 0);
  return [
    { name: 'two by two, four boards', counts: [2, 2], random: ['board'], patches: boards([2, 2], 4) },
    { name: 'three by two, two boards', counts: [3, 2], random: ['board'], patches: boards([3, 2], 2) },
    { name: 'five levels, three boards', counts: [5], random: ['board'], patches: boards([5], 3) },
    {
      name: 'half of four factors, two boards',
      counts: [2, 2, 2, 2],
      random: ['board'],
      patches: ['0', '1'].flatMap(b => half.map(levels => ({ levels, shares: [b] }))),
    },
    {
      name: 'three primers in strips',
      counts: [3, 2],
      random: ['board', 'strip'],
      patches: [0, 1, 2].flatMap(b =>
        [0, 1, 2].flatMap(p => [0, 1, 0, 1].map(w => ({ levels: [p, w], shares: [`${b}`, `${b} ${p}`] }))),
      ),
    },
    {
      name: 'a ladder of six, thrice',
      counts: [6],
      random: [],
      patches: [0, 1, 2].flatMap(() => crossed([6]).map(levels => ({ levels, shares: [] }))),
    },
  ];
}

interface World {
  readonly name: string;
  /** Points that a patch is worth from the sum of all that moves it. */
  readonly worth: (sum: number) => number;
  readonly fails: number;
}
const WORLDS: readonly World[] = [
  { name: 'Gaussian', worth: sum => 70 + sum, fails: 0 },
  // Most patches near the top, a few that did not work at all.
  { name: 'real-looking', worth: sum => 100 / (1 + Math.exp(-(2.4 + sum / 9))), fails: 0.08 },
];
const LOSSES = ['complete', '15 % missing', 'missing because failed'] as const;

const SIMS = Number(process.env.SIMS ?? 150);
const SCATTER = 5;

/** How often intervals hold, how often nothing is called something, and whether “so sure” is right as often. */
export function benchFindings(tell: Tell): void {
  const right = new Map<string, { n: number; said: number; right: number }>();
  let hold = { differences: 0, of: 0, means: 0, ofMeans: 0, outside: 0 };
  tell(
    'plan                               world, lost                          differences hold  means hold   firm where nothing differs',
  );
  for (const plan of plans())
    for (const world of WORLDS)
      for (const loss of LOSSES) {
        let [held, of, meansHeld, ofMeans, firm, nulls] = [0, 0, 0, 0, 0, 0];
        for (let sim = 0; sim < SIMS; sim++) {
          const c = chanceFrom(9000 + sim * 7 + plan.name.length);
          const isNull = sim % 3 === 0;
          const effects = plan.counts.map(k =>
            Array.from({ length: k }, () => (isNull ? 0 : 5 * c.normal())),
          );
          const shifts = plan.random.map(() => new Map<string, number>());
          const shiftOf = (shares: readonly string[]) =>
            shares.reduce((sum, s, k) => {
              if (!shifts[k].has(s)) shifts[k].set(s, 3 * c.normal());
              return sum + shifts[k].get(s)!;
            }, 0);
          const seen = plan.patches.map((p, i): Seen => {
            const sum = p.levels.reduce((t, l, f) => t + effects[f][l], 0) + shiftOf(p.shares);
            const failed =
              c.next() < (loss === 'missing because failed' ? Math.max(world.fails, 0.12) : world.fails);
            const missing = loss === '15 % missing' && c.next() < 0.15;
            const value = world.worth(sum + SCATTER * c.normal());
            return {
              ...{ code: `P${i}`, levels: p.levels, shares: p.shares, failed },
              value: failed || missing ? undefined : value,
            };
          });
          const bounds = world.fails ? ([0, 100] as const) : undefined;
          const found = analyse({
            factors: plan.counts.map((k, f) => ({
              name: `f${f}`,
              levels: Array.from({ length: k }, (_, l) => `${l}`),
            })),
            ...{ pairs: [], random: plan.random, patches: seen, better: 'high', bounds, draws: 800 },
          });
          if (!found.fit) continue;
          // What is true of a level: its mean over the others, boards and scatter, as a patch that works.
          const draws = Array.from(
            { length: 60 },
            () => SCATTER * c.normal() + plan.random.reduce(t => t + 3 * c.normal(), 0),
          );
          const all = crossed(plan.counts);
          const truth = (f: number, l: number) => {
            const own = all.filter(x => x[f] === l);
            let sum = 0;
            for (const x of own)
              for (const d of draws) sum += world.worth(x.reduce((t, y, g) => t + effects[g][y], 0) + d);
            return sum / own.length / draws.length;
          };
          const true_ = plan.counts.map((k, f) => Array.from({ length: k }, (_, l) => truth(f, l)));
          for (const d of found.differences) {
            const t = true_[d.factor][d.a] - true_[d.factor][d.b];
            of++;
            if (t >= d.lo && t <= d.hi) held++;
          }
          for (const m of found.means) {
            const [[f, l]] = [...m.at];
            ofMeans++;
            if (true_[f][l] >= m.estimate.lo && true_[f][l] <= m.estimate.hi) meansHeld++;
            if (bounds && (m.estimate.lo < 0 || m.estimate.hi > 100))
              hold = { ...hold, outside: hold.outside + 1 };
          }
          const choices = choicesOf(found);
          if (isNull && !world.fails) {
            nulls++;
            if (choices.some(x => x.firm)) firm++;
          } else if (!isNull)
            for (const x of choices) {
              const bin =
                x.sure >= 0.925 && x.sure < 0.975
                  ? '95 %'
                  : x.sure >= 0.75 && x.sure < 0.85
                    ? '80 %'
                    : undefined;
              if (!bin) continue;
              const b = right.get(bin) ?? { n: 0, said: 0, right: 0 };
              b.n++;
              b.said += x.sure;
              b.right += Number(effects[x.factor].every(e => e <= effects[x.factor][x.level]));
              right.set(bin, b);
            }
        }
        hold = {
          ...hold,
          differences: hold.differences + held,
          of: hold.of + of,
          means: hold.means + meansHeld,
          ofMeans: hold.ofMeans + ofMeans,
        };
        const pct = (a: number, b: number) => (b ? `${((100 * a) / b).toFixed(1)} %` : '–').padStart(10);
        tell(
          `${plan.name.padEnd(34)} ${`${world.name}, ${loss}`.padEnd(36)} ${pct(held, of)} ${pct(meansHeld, ofMeans)} ${pct(firm, nulls)}`,
        );
      }
  tell(
    `\nall: differences ${((100 * hold.differences) / hold.of).toFixed(1)} %, means ${((100 * hold.means) / hold.ofMeans).toFixed(1)} % (asked: 86 to 94); intervals beyond the scale: ${hold.outside}`,
  );
  for (const [bin, { n, said, right: yes }] of right)
    tell(
      `said about ${bin}: said ${((100 * said) / n).toFixed(0)} %, right ${((100 * yes) / n).toFixed(0)} % of ${n}`,
    );
  speed(tell);
}

function speed(tell: Tell): void {
  const c = chanceFrom(5);
  const patches = (n: number, counts: readonly number[]) =>
    Array.from({ length: n }, (_, i): Seen => {
      const levels = counts.map(k => c.whole(0, k - 1));
      return {
        code: `P${i}`,
        levels,
        shares: [`${i % 12}`],
        failed: false,
        value: 70 + 3 * levels[0] + 5 * c.normal(),
      };
    });
  const timed = (n: number, counts: readonly number[], draws: number) => {
    const asked = {
      factors: counts.map((k, f) => ({ name: `f${f}`, levels: Array.from({ length: k }, (_, l) => `${l}`) })),
      ...{ pairs: [], random: ['board'], patches: patches(n, counts), better: 'high' as const, draws },
    };
    analyse(asked);
    const start = performance.now();
    analyse(asked);
    return (performance.now() - start).toFixed(0);
  };
  tell(`64 patches, 8 factors, 20 000 draws: ${timed(64, [2, 2, 3, 2, 4, 2, 3, 2], 20_000)} ms`);
  tell(`360 patches, almost without draws: ${timed(360, [4, 3, 3, 2], 1)} ms`);
}
