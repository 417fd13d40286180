/**
 * Makes `src/core/schedule/solver/reference-cases.json`: small scheduling problems with the cost of their best
 * schedule as MiniZinc with Gecode finds and proves it. Needs both on the machine (`apt-get install minizinc`);
 * run with `node --import tsx docs/reference/schedule-reference.ts`. Whole numbers, in seconds or minutes.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { planTrial } from '../../src/core/design/index.ts';
import { findMethod } from '../../src/core/methods/index.ts';
import { compareMethods, requestFor } from '../../src/core/questions/index.ts';
import { chanceFrom } from '../../src/core/random/index.ts';
import { USUAL_WORKING } from '../../src/core/schedule/index.ts';
import { workloadOf } from '../../src/core/schedule/workload-of.ts';
import { STARTER_SHELF } from '../../src/core/shelf/index.ts';

interface CaseOp {
  hands: number;
  gap?: [min: number, aim: number, max: number];
  brush?: number;
  place?: number;
}
export interface Case {
  name: string;
  jobs: CaseOp[][];
  people?: number;
  wash?: number;
  holds?: number[];
  sittings?: [number, number][];
  inOrder?: boolean;
}

const times = <T>(n: number, make: (i: number) => T) => Array.from({ length: n }, (_, i) => make(i));
const pull = (place = 30, off = 20): CaseOp[] => [{ hands: place, gap: [35, 45, 60] }, { hands: off }];

const CASES: Case[] = [
  { name: 'two pulls 45 s after placing', jobs: times(2, () => pull()) },
  {
    name: 'four pulls 45 s after placing, in fives of seconds',
    jobs: times(4, () => [{ hands: 6, gap: [7, 9, 12] }, { hands: 4 }]),
  },
  {
    name: 'five pulls in the plan’s order, each a little slower',
    jobs: times(5, i => [{ hands: 4 + i, gap: [7, 9, 12] }, { hands: 3 }]),
    inOrder: true,
  },
  {
    name: 'four pulls by two pairs of hands',
    jobs: times(4, () => [{ hands: 6, gap: [7, 9, 12] }, { hands: 4 }]),
    people: 2,
  },
  {
    name: 'three rubbed patches, minutes',
    jobs: times(3, i => [
      { hands: 3, gap: [0, 1, 3] },
      { hands: 2, gap: [60, 70 + 10 * i, 120] },
      { hands: 1, gap: [2, 3, 10] },
      { hands: 8 },
    ]),
  },
  {
    name: 'two rounds with drying between',
    jobs: times(3, () => [{ hands: 6, gap: [20, 30, 50] }, { hands: 6, gap: [20, 30, 50] }, { hands: 4 }]),
  },
  {
    name: 'two mediums and one brush',
    jobs: times(4, i => [{ hands: 3, brush: 1 + (i % 2), gap: [1, 2, 12] }, { hands: 2 }]),
    wash: 4,
  },
  {
    name: 'two mediums in the plan’s order',
    jobs: times(4, i => [{ hands: 3, brush: 1 + (i % 2), gap: [4, 6, 9] }, { hands: 1 }]),
    wash: 2,
    inOrder: true,
  },
  {
    name: 'an oven that holds two',
    jobs: times(4, () => [{ hands: 1, place: 1, gap: [8, 10, 15] }, { hands: 2 }]),
    holds: [2],
  },
  {
    name: 'an oven that holds one, patches that take long after it',
    jobs: times(3, i => [
      { hands: 1, place: 1, gap: [6, 8, 10] },
      { hands: 1, gap: [5, 10 + 5 * i, 40] },
      { hands: 5 },
    ]),
    holds: [1],
  },
  {
    name: 'three evenings, minutes',
    jobs: times(3, () => [{ hands: 20, gap: [600, 900, 1600] }, { hands: 25 }]),
    sittings: [
      [0, 60],
      [900, 1020],
      [1440, 1560],
    ],
  },
  {
    name: 'an evening that is too short for all',
    jobs: times(4, () => [{ hands: 15, gap: [10, 15, 30] }, { hands: 10 }]),
    sittings: [
      [0, 70],
      [300, 400],
    ],
  },
  {
    name: 'unlike chains in the plan’s order',
    jobs: [
      [{ hands: 5, gap: [10, 12, 20] }, { hands: 4, gap: [30, 40, 60] }, { hands: 6 }],
      [{ hands: 2, gap: [5, 6, 8] }, { hands: 3 }],
      [{ hands: 4, gap: [20, 25, 30] }, { hands: 2, gap: [3, 5, 9] }, { hands: 4 }],
      [{ hands: 6, gap: [2, 4, 12] }, { hands: 7 }],
    ],
    inOrder: true,
  },
];

/** A quarter of a minute: what a day of several methods is counted in. */
const UNIT = 15_000;

/** One patch each of several methods on one board, as the planner lays their work out, in quarters of a minute. */
function mixed(methods: readonly string[], inOrder: boolean): Case {
  const plain = requestFor(findMethod(methods[0], [])!, STARTER_SHELF);
  if (!plain.ok) throw new Error(plain.problem.say);
  const asked = compareMethods(
    { ...plain.value, name: 'Mixed', factors: [{ key: 'method', levels: [...methods] }], repeats: 1 },
    STARTER_SHELF,
  );
  if (!asked.ok) throw new Error(asked.problem.say);
  const plan = planTrial({ ...asked.value, board: { ...asked.value.board, w: 400, h: 300 } }, STARTER_SHELF, {
    createdAt: '2026-05-01T09:00:00.000Z',
    random: () => 0.4,
  });
  if (!plan.ok) throw new Error(plan.problem.say);
  const { problem } = workloadOf(plan.value, [], { ...USUAL_WORKING, order: inOrder ? 'plan' : 'free' }, 0);
  const brushes: string[] = [];
  const units = (ms: number) => Math.round(ms / UNIT);
  return {
    name: `${methods.join(', ')}: one of each${inOrder ? ' in the plan’s order' : ''}`,
    jobs: problem.jobs.map(job =>
      job.ops.map(({ hands, gap, brush }, k): CaseOp => {
        if (brush && !brushes.includes(brush)) brushes.push(brush);
        return {
          hands: Math.max(1, units(hands)),
          ...(k < job.ops.length - 1 && gap ? { gap: [units(gap.min), units(gap.aim), units(gap.max)] } : {}),
          ...(brush ? { brush: 1 + brushes.indexOf(brush) } : {}),
        };
      }),
    ),
    wash: units(problem.wash),
    ...(inOrder ? { inOrder } : {}),
  };
}

const MIXED: Case[] = [
  mixed(['film-pull', 'tape-lift'], true),
  mixed(['film-pull', 'tape-lift'], false),
  mixed(['tape-lift', 'carbon-trace'], false),
  mixed(['film-pull', 'solvent-bloom'], false),
  mixed(['film-pull', 'tape-lift', 'solvent-bloom'], true),
];

/** Cases of every kind put together by chance, small enough to be proved. */
function madeUp(seed: number): Case {
  const chance = chanceFrom(seed);
  const isTight = chance.next() < 0.5;
  const wash = chance.next() < 0.4 ? chance.whole(1, 4) : 0;
  const holds = chance.next() < 0.3 ? [chance.whole(1, 2)] : [];
  const evening = chance.whole(20, 45);
  const kinds = chance.whole(1, 3);
  const kind = times(kinds, () =>
    times(chance.whole(2, 3), (k): CaseOp => {
      const min = chance.whole(0, 12);
      const aim = min + chance.whole(0, 5);
      return {
        hands: chance.whole(1, 7),
        gap: [min, aim, aim + chance.whole(1, isTight ? 4 : 15)],
        ...(wash && k === 0 ? { brush: chance.whole(1, 2) } : {}),
        ...(holds.length && k === 0 ? { place: 1 } : {}),
      };
    }),
  );
  return {
    name: `made up ${seed}`,
    jobs: times(chance.whole(3, 5), i => {
      const ops = kind[i % kinds];
      return ops.map((op, k) => {
        const { gap: _, ...last } = op;
        return k === ops.length - 1 ? { hands: op.hands } : { ...last, gap: op.gap };
      });
    }),
    ...(wash ? { wash } : {}),
    ...(holds.length ? { holds } : {}),
    ...(chance.next() < 0.2 ? { people: 2 } : {}),
    ...(chance.next() < 0.3
      ? { sittings: times(4, d => [d * 60, d * 60 + evening] as [number, number]) }
      : {}),
    ...(chance.next() < 0.4 ? { inOrder: true } : {}),
  };
}

function data({ jobs, people = 1, wash = 0, holds = [], sittings = [], inOrder }: Case): string {
  const ops = jobs.flatMap(job => job.map((op, k) => ({ op, k, before: k ? job[k - 1] : undefined })));
  const total = ops.reduce((sum, { op, before }) => sum + op.hands + wash + (before?.gap?.[2] ?? 0), 0);
  const horizon = Math.max(total, ...sittings.map(s => s[1]));
  const firsts = ops.flatMap(({ k }, i) => (k === 0 ? [i + 1] : []));
  const list = (values: number[]) => `[${values.join(',')}]`;
  const none = [0, -1, horizon];
  const gap = (at: 0 | 1 | 2) => list(ops.map(({ before }) => before?.gap?.[at] ?? none[at]));
  return [
    `n=${ops.length}; horizon=${horizon}; people=${people}; wash=${wash};`,
    `hands=${list(ops.map(o => o.op.hands))}; prev=${list(ops.map(({ k }, i) => (k ? i : 0)))};`,
    `lo=${gap(0)}; aim=${gap(1)}; hi=${gap(2)}; brush=${list(ops.map(o => o.op.brush ?? 0))};`,
    `places=${holds.length}; place=${list(ops.map(o => o.op.place ?? 0))}; holds=${list(holds)};`,
    `sittings=${sittings.length}; opens=${list(sittings.map(s => s[0]))}; closes=${list(sittings.map(s => s[1]))};`,
    `turns=${inOrder ? firsts.length - 1 : 0}; earlier=${list(inOrder ? firsts.slice(0, -1) : [])}; later=${list(inOrder ? firsts.slice(1) : [])};`,
  ].join('\n');
}

const dir = mkdtempSync(join(tmpdir(), 'schedule-'));
const here = import.meta.dirname;
/** So many cases are kept of those that were proved. */
const MOST = 62;
let proofs = 0;
/** `mixed` alone is proved again where it is named, and takes the place of what was there. */
const isMixed = process.argv[2] === 'mixed';
const file = join(here, '../../src/core/schedule/solver/reference-cases.json');
const before = isMixed
  ? (JSON.parse(readFileSync(file, 'utf8')) as Case[]).filter(c => !MIXED.some(m => m.name === c.name))
  : [];
const wanted = isMixed ? MIXED : [...CASES, ...MIXED, ...times(110, i => madeUp(i + 1))];
const solved = wanted.flatMap(c => {
  if (proofs >= MOST) return [];
  const asked = join(dir, 'case.dzn');
  writeFileSync(asked, data(c));
  const from = Date.now();
  const out = execFileSync(
    'minizinc',
    ['--solver', 'gecode', '--time-limit', isMixed ? '60000' : '25000', join(here, 'schedule.mzn'), asked],
    { encoding: 'utf8' },
  );
  const proved = out.includes('==========');
  const found = out
    .split('\n')
    .filter(l => l.startsWith('{'))
    .at(-1);
  console.log(
    `${c.name}: ${found ?? 'none'}${proved ? ' proved' : ' not proved'} in ${Date.now() - from} ms`,
  );
  // That nothing fits is proved too, and kept as a case without a best.
  const impossible = out.includes('=====UNSATISFIABLE=====');
  if (!impossible && !(proved && found)) return [];
  proofs++;
  return [{ ...c, best: impossible ? null : (JSON.parse(found!).cost as number) }];
});
writeFileSync(file, `[\n${[...before, ...solved].map(c => JSON.stringify(c)).join(',\n')}\n]\n`);
