import type { Patch, TrialPlan } from '../trial/index.ts';

/** What patches of a plan share. */
export interface Shared {
  /** A name for each random term: board, batch, strip, go, load. */
  readonly random: readonly string[];
  /** Which of each a patch is on. */
  readonly of: (patch: Patch) => string[];
  /** A factor of which every level is made in one go, so that it can never be told from the go; −1 where there is none. */
  readonly whole: number;
}

/**
 * What patches share and what may shift them together: boards or batches of single pieces, and strips, goes or loads.
 *
 * @example sharedIn(plan).random; // => ['board']
 */
export function sharedIn({ design, board, patches, factors }: TrialPlan): Shared {
  const isLoad = design.loadSize !== null || board.onePiece;
  const terms: [name: string, of: (p: Patch) => string][] = [];
  if (!board.onePiece) terms.push(['board', p => `${p.board}`]);
  else if (patches.some(p => p.batch)) terms.push(['batch', p => `${p.batch ?? 0}`]);
  const plot = design.stripKey
    ? (p: Patch) => `${p.strip}`
    : isLoad
      ? (p: Patch) => `${p.group}`
      : (p: Patch) => `${p.board} ${p.repeat} ${p.group}`;
  if (design.stripKey) terms.push(['strip', plot]);
  else if (design.groupKey) terms.push(['go', plot]);
  else if (design.loadSize !== null) terms.push(['load', plot]);
  const key = design.stripKey ?? design.groupKey;
  const whole = factors.findIndex(f => f.key === key);
  const own = patches.filter(p => p.levels.length);
  const plots = new Set(own.map(plot)).size;
  return {
    random: terms.map(t => t[0]),
    of: patch => terms.map(t => t[1](patch)),
    whole: whole >= 0 && plots <= factors[whole].levels.length ? whole : -1,
  };
}
