import { describe, expect, it } from 'vitest';
import { examplePlan } from '../../core/design/example.ts';
import type { Action } from '../../core/schedule/index.ts';
import { chainOf } from '../../core/steps/index.ts';
import { cuesOf } from './cues.ts';

const plan = examplePlan();
const patch = plan.patches[0];
const link = chainOf(plan, patch)[2];
const T = 1_000_000_000_000;
const action = (window?: { opens: number; aim: number; closes: number }): Action => ({
  kind: 'do',
  patch,
  link,
  why: '',
  status: { phase: 'ready', next: link, ...(window ? { window } : {}) },
});

describe('what is called out', () => {
  const cues = cuesOf(action({ opens: T, aim: T + 60_000, closes: T + 180_000 }));

  it('comes a little before the window opens, at the aim, and before it closes, each more urgent', () => {
    expect(cues.map(c => c.times)).toEqual([1, 2, 3]);
    expect(cues[0].at).toBeLessThan(T);
    expect(cues[1].at).toBe(T + 60_000);
    expect(cues[2].at).toBeLessThan(T + 180_000);
    expect(cues[2].at).toBeGreaterThan(cues[1].at);
    expect(cues[0].hertz).toBeLessThan(cues[2].hertz);
  });

  it('says what and which, sign by sign, so that it is understood across a room', () => {
    for (const cue of cues) expect(cue.words).toContain(patch.code.replace('-', '').split('').join(' '));
    expect(cues[1].words).toMatch(/now/);
    expect(cues[2].words).toMatch(/^Last moment/);
  });

  it('of a window of seconds still comes in order', () => {
    const short = cuesOf(action({ opens: T, aim: T + 2000, closes: T + 4000 }));
    expect(short.map(c => c.at)).toEqual(short.map(c => c.at).sort((a, b) => a - b));
    expect(new Set(short.map(c => c.at)).size).toBe(3);
  });

  it('is one word when a wait ends, and none when there is nothing to wait for', () => {
    const wait: Action = { kind: 'wait', patch, link, status: { phase: 'to do', next: link }, until: T };
    expect(cuesOf(wait)).toHaveLength(1);
    // Also where the piece's own best moment is another: what ends the wait is the plan of the work.
    const own = {
      phase: 'ready',
      next: link,
      window: { opens: T - 9e6, aim: T + 9e6, closes: T + 9e7 },
    } as const;
    expect(cuesOf({ ...wait, status: own }).map(c => c.at)).toEqual([T]);
    expect(cuesOf(action())).toEqual([]);
    expect(cuesOf({ kind: 'finished' })).toEqual([]);
  });
});
