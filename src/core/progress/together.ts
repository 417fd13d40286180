import type { Link } from '../steps/index.ts';
import type { TrialProgress } from './progress.ts';

/**
 * Other patches that a step is done for in the same go now: as far along, and not written off.
 *
 * @example alsoNow(progress, patch.code, line.chain[1]); // => []
 */
export function alsoNow(progress: TrialProgress, code: string, link: Link): string[] {
  const line = progress.lines.find(l => l.patch.code === code);
  if (!line || !link.step.onlyIfPrepared) return [];
  const go = new Set(line.preparedWith);
  return progress.lines
    .filter(l => l.patch.code !== code && go.has(l.patch.code) && !l.spoilt)
    .filter(l => l.chain[l.doneAt.indexOf(undefined)]?.step.id === link.step.id)
    .map(l => l.patch.code);
}
