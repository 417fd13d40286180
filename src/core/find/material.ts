import type { TrialSummary } from '../summary/index.ts';

/** What is known of one material from all trials it was used in. */
export interface MaterialStory {
  readonly name: string;
  readonly trials: readonly {
    readonly id: string;
    readonly name: string;
    readonly at: string;
    /** Of the patches made with it: how many, how many failed, what landed of the rest in the mean (%), judged and kept. */
    readonly patches: number;
    readonly failed: number;
    readonly landed: number | null;
    readonly judged: number;
    readonly kept: number;
  }[];
  readonly patches: number;
  readonly failed: number;
  readonly landed: number | null;
  readonly judged: number;
  readonly kept: number;
  /** How often its drying was seen: what the time it dries in was learnt from. */
  readonly dryingSeen: number;
}

const mean = (values: readonly number[]): number | null =>
  values.length ? values.reduce((a, b) => a + b, 0) / values.length : null;

/**
 * Where a material was used and how it did there, the newest trial first.
 *
 * @example materialStory([], 'Matte acrylic medium').patches; // => 0
 */
export function materialStory(trials: readonly TrialSummary[], name: string): MaterialStory {
  const all: number[] = [];
  let dryingSeen = 0;
  const told = trials.flatMap(t => {
    const rows = t.evidence.filter(r => Object.values(r.used).some(item => item.name === name));
    const ids = new Set(t.evidence.flatMap(r => (r.used.medium.name === name ? [r.used.medium.id] : [])));
    dryingSeen += t.lessons.drying.filter(d => ids.has(d.medium)).length;
    if (!rows.length && !t.words.materials.includes(name)) return [];
    const landed = rows.flatMap(r => r.landed);
    all.push(...landed);
    const sum = (of: (r: (typeof rows)[number]) => number) => rows.reduce((n, r) => n + of(r), 0);
    return [
      {
        ...{ id: t.id, name: t.name, at: t.createdAt, landed: mean(landed) },
        patches: sum(r => r.landed.length + r.failed),
        failed: sum(r => r.failed),
        judged: sum(r => r.judged),
        kept: sum(r => r.kept),
      },
    ];
  });
  const sum = (of: (t: (typeof told)[number]) => number) => told.reduce((n, t) => n + of(t), 0);
  return {
    ...{ name, dryingSeen, landed: mean(all) },
    trials: told.sort((a, b) => b.at.localeCompare(a.at)),
    patches: sum(t => t.patches),
    failed: sum(t => t.failed),
    judged: sum(t => t.judged),
    kept: sum(t => t.kept),
  };
}
