import { describe, expect, it } from 'vitest';
import { EXAMPLE_REQUEST } from '../../core/design/example.ts';
import type { PlanRequest } from '../../core/design/index.ts';
import { trimmed } from './trimmed.ts';

const MEDIUM = { key: 'medium', levels: ['soft-gel', 'white-pva'] } as const;
const HOURS = { key: 'dryHours', levels: [4, 20] } as const;
const PREPARED = { key: 'preparation', levels: ['none', 'gesso'] } as const;
type Factors = PlanRequest['factors'];
const factors = (...all: readonly (typeof MEDIUM | typeof HOURS | typeof PREPARED)[]): Factors =>
  all.map(f => ({ key: f.key, levels: [...f.levels] }));
const request = (part: Partial<PlanRequest>): PlanRequest => ({ ...EXAMPLE_REQUEST, ...part });

describe('what was said of factors', () => {
  it('stays while the same factors are varied, also with other levels', () => {
    const old = request({
      factors: factors(MEDIUM, HOURS),
      interactions: [[0, 1]],
      groupKey: 'medium',
      design: 'best fraction',
    });
    const more = factors(MEDIUM, HOURS).map(f => ({ ...f, levels: [...f.levels, f.levels[0]] }));
    expect(trimmed(old, more)).toMatchObject({
      interactions: [[0, 1]],
      groupKey: 'medium',
      design: 'best fraction',
    });
  });

  it('goes with them: interactions, groups and strips', () => {
    const old = request({
      factors: factors(PREPARED, MEDIUM, HOURS),
      interactions: [[0, 1]],
      groupKey: 'preparation',
      stripKey: 'preparation',
      design: 'strips',
    });
    expect(trimmed(old, factors(MEDIUM, HOURS))).toMatchObject({
      interactions: [],
      groupKey: null,
      stripKey: null,
      design: 'every combination',
    });
  });

  it('keeps strips while what is given to them is varied with something else', () => {
    const old = request({ factors: factors(PREPARED, MEDIUM), stripKey: 'preparation', design: 'strips' });
    expect(trimmed(old, factors(PREPARED, HOURS)).design).toBe('strips');
    expect(trimmed(old, factors(PREPARED)).design).toBe('every combination');
  });

  it('makes no ladder of two things, and keeps one of one', () => {
    const old = request({ factors: factors(HOURS), design: 'ladder' });
    expect(trimmed(old, factors(HOURS)).design).toBe('ladder');
    expect(trimmed(old, factors(HOURS, MEDIUM)).design).toBe('every combination');
  });

  it('has no best part of one thing alone', () => {
    const old = request({ factors: factors(HOURS, MEDIUM), design: 'best fraction' });
    expect(trimmed(old, factors(MEDIUM)).design).toBe('every combination');
  });
});
