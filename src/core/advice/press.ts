import type { Action } from '../schedule/index.ts';

/** An instruction on the screen: since when (ms), and whether it is there because the maker pressed for it. */
export interface OnScreen {
  readonly action: Action;
  readonly since: number;
  readonly called: boolean;
}

/** Nobody has read an instruction that came up by itself less than so long ago, ms. */
const READ_MS = 700;

/**
 * What a press means for what is on the screen: that it is done; that it may have been meant for what stood there a
 * moment ago; or that it comes before it may, which takes a second press (`again`).
 *
 * @example pressMeans({ action: { kind: 'finished' }, since: 0, called: true }, 5000, false); // => 'nothing'
 */
export function pressMeans(
  { action, since, called }: OnScreen,
  now: number,
  again: boolean,
): 'done' | 'just changed' | 'too soon' | 'nothing' {
  if (action.kind === 'finished') return 'nothing';
  if (!called && now - since < READ_MS) return 'just changed';
  const { window } = action.status;
  const soon = window ? now < window.opens : action.kind === 'wait';
  return soon && !again ? 'too soon' : 'done';
}
