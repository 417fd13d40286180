import { goFor, type Link, wholeOf } from '../steps/index.ts';
import type { PatchProgress, TrialProgress } from './progress.ts';

const isIt = (a: Link | undefined, b: Link): boolean => a?.step.id === b.step.id && a.round === b.round;

/**
 * Other patches that a step is done for in the same go now: as far along, and not written off.
 *
 * @example alsoNow(progress, patch.code, line.chain[1]); // => []
 */
export function alsoNow(progress: TrialProgress, code: string, link: Link): string[] {
  const line = progress.lines.find(l => l.patch.code === code);
  if (!line) return [];
  const go = new Set(goFor(link.step, line));
  return progress.lines
    .filter(l => l.patch.code !== code && go.has(l.patch.code) && !l.spoilt)
    .filter(l => isIt(l.chain[l.doneAt.indexOf(undefined)], link))
    .map(l => l.patch.code);
}

/**
 * Patches of the same piece that a step has to wait for, since it happens to the piece: not written off, and not as far
 * along. None for what is done patch by patch.
 *
 * @example waitedFor(progress, line, line.chain[1]); // => []
 */
export function waitedFor(progress: TrialProgress, line: PatchProgress, link: Link): string[] {
  if (!wholeOf(link.step, line)) return [];
  const go = new Set(line.pieceWith);
  return progress.lines
    .filter(l => l !== line && go.has(l.patch.code) && !l.spoilt)
    .filter(l => {
      const at = l.chain.findIndex(other => isIt(other, link));
      return at >= 0 && l.doneAt[at] === undefined && l.doneAt.indexOf(undefined) < at;
    })
    .map(l => l.patch.code);
}
