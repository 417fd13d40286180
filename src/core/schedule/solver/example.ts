import { chanceFrom } from '../../random/index.ts';
import type { Job, Workload } from './workload.ts';

/**
 * Work that just fits, for tests and benches: a schedule is made first, one action after the other with little room
 * between, sometimes in sittings; then windows are drawn closely around it. So one exists, and hardly another.
 */
export function tightWorkload(seed: number): Workload {
  const chance = chanceFrom(seed);
  const count = chance.whole(3, 8);
  const ops = Array.from({ length: count }, () => chance.whole(2, 4));
  const hasPauses = chance.next() < 0.4;
  const evening = chance.whole(30, 60);
  const day = 120;
  const wash = chance.next() < 0.4 ? chance.whole(1, 4) : 0;
  const width = chance.whole(1, 4);
  // Whose turn it is, by chance, until all are done.
  const turns = chance.shuffle(ops.flatMap((n, j) => new Array<number>(n).fill(j)));
  const done = ops.map((): { start: number; hands: number; brush?: string }[] => []);
  const there = Array.from({ length: 30 }, (_, d) => [d * day, d * day + evening] as const);
  let at = 0;
  let brush: string | undefined;
  for (const j of turns) {
    const hands = chance.whole(1, 8);
    const own = wash && chance.next() < 0.5 ? chance.pick(['gel', 'glue']) : undefined;
    let start =
      at + (chance.next() < 0.4 ? chance.whole(0, 5) : 0) + (own && brush && own !== brush ? wash : 0);
    if (hasPauses) {
      const d = Math.floor(start / day);
      if (start + hands > d * day + evening) start = (d + 1) * day + wash;
    }
    done[j].push({ start, hands, ...(own ? { brush: own } : {}) });
    brush = own ?? brush;
    at = start + hands;
  }
  const jobs = done.map(
    (line, j): Job => ({
      id: `j${j}`,
      ops: line.map(({ start, hands, brush: own }, k) => {
        const next = line[k + 1];
        const wait = next && next.start - start - hands;
        return {
          id: `o${k}`,
          hands,
          ...(own ? { brush: own } : {}),
          ...(next
            ? {
                gap: {
                  min: Math.max(0, wait - chance.whole(0, width)),
                  aim: wait,
                  max: wait + chance.whole(0, width),
                },
              }
            : {}),
        };
      }),
    }),
  );
  return {
    jobs,
    hands: [
      { name: 'you', there: hasPauses ? there : [[Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY]] },
    ],
    now: 0,
    places: {},
    wash,
  };
}
