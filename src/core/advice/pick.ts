import { patchStatus, type TrialProgress, waitedFor } from '../progress/index.ts';
import { isShortWait, type Link } from '../steps/index.ts';

/** What comes of choosing a patch: its next action now, a wait until its window opens (ms) or until others of its piece are as far, or nothing left to do. */
export type Pick =
  | { readonly kind: 'now'; readonly link: Link }
  | { readonly kind: 'later'; readonly link: Link; readonly opens: number }
  | { readonly kind: 'others'; readonly link: Link; readonly others: readonly string[] }
  | { readonly kind: 'nothing' };

/**
 * What choosing a patch by hand means at a moment (ms): it comes next where its window is open, has none, or opens so
 * soon that hands stand by for it; else it has to wait, whatever the maker would like.
 *
 * @example picked(progress, patch.code, start).kind; // => 'now'
 */
export function picked(progress: TrialProgress, code: string, now: number): Pick {
  const line = progress.lines.find(l => l.patch.code === code);
  const status = line && patchStatus(line, progress.airs, now);
  if (!line || !status?.next) return { kind: 'nothing' };
  const { next: link, window } = status;
  const others = waitedFor(progress, line, link);
  if (others.length) return { kind: 'others', link, others };
  return !window || now >= window.opens || isShortWait((window.opens - now) / 60_000)
    ? { kind: 'now', link }
    : { kind: 'later', link, opens: window.opens };
}
