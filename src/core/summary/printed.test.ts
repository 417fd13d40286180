import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import type { TrialRecord } from '../trial/index.ts';
import { summaryOf } from './index.ts';

const plan = examplePlan();
const papers = (id: string, donors: boolean): TrialRecord => ({
  ...{ id, at: '2026-05-02T09:00:00.000Z', kind: 'papers', patch: null },
  ...{ names: ['Back labels'], donors },
});

describe('whether the sheets of a trial were saved to be printed', () => {
  it('is so once donor sheets were, which begins nothing yet', () => {
    expect(summaryOf({ plan, records: [] }).printed).toBe(false);
    expect(summaryOf({ plan, records: [papers('a', false)] }).printed).toBe(false);
    expect(summaryOf({ plan, records: [papers('a', true)] })).toMatchObject({
      printed: true,
      standing: 'planned',
    });
  });

  it('is not any more when that was taken back', () => {
    const undo: TrialRecord = { id: 'u', at: '2026-05-02T09:01:00.000Z', kind: 'undo', patch: null, of: 'a' };
    expect(summaryOf({ plan, records: [papers('a', true), undo] }).printed).toBe(false);
  });
});
