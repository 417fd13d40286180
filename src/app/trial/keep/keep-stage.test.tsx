// @vitest-environment happy-dom
import { screen, waitFor } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { examplePlan } from '../../../core/design/example.ts';
import { findingsOf } from '../../../core/findings/index.ts';
import { type Words, write } from '../../../core/say/index.ts';
import { readingFor } from '../../../core/trial/example.ts';
import type { TrialRecord } from '../../../core/trial/index.ts';
import { workshopOf } from '../../../store/index.ts';
import { opened } from '../../testing/opened.tsx';
import { nameOfWork } from '../findings-at-hand.ts';

const plan = examplePlan();
const mine = workshopOf('mine');
const page = `/w/mine/t/${plan.id}/keep`;
/** Every patch read: each level of the first thing that was varied lands 12 points more. */
const records = plan.patches.flatMap(({ code, levels }, i) =>
  readingFor(code, i + 1, { landed: 70 + 12 * levels[0] + (i % 3) }),
) as TrialRecord[];
const working = /^Weighing what was measured/;
const stored = async () => {
  const [kept, { records: all }] = await Promise.all([mine.plan(plan.id), mine.records(plan.id)]);
  if (!kept?.ok) throw new Error('the plan is not there');
  return { kept: kept.value, all };
};

beforeEach(async () => {
  await mine.wipe();
  await mine.savePlan(plan);
  await mine.append(plan.id, records);
});

// The worker never answers here: what is shown was kept.
/** A paragraph with these words in it, whatever of them can be pressed. */
const reads = (words: Words) => (_: string, element: Element | null) =>
  element?.tagName === 'P' && Boolean(element.textContent?.includes(write(words)));

describe('what a trial supports', () => {
  it('is there at once where it was worked out before of the same plan and records', async () => {
    const { kept, all } = await stored();
    const found = findingsOf(kept, all);
    expect(found.measured).toBe(plan.patches.length);
    await mine.keepWorkedOut(plan.id, nameOfWork(kept, all), structuredClone(found));
    opened(page);
    expect((await screen.findAllByText(reads(found.effects[0].sentence))).length).toBeGreaterThan(0);
    expect(screen.queryByText(working)).toBeNull();
  });

  it('is worked out anew where something was recorded since, where other code worked it out, and where nothing can be read', async () => {
    const { kept, all } = await stored();
    const found = structuredClone(findingsOf(kept, all));
    await mine.keepWorkedOut(plan.id, nameOfWork(kept, all.slice(1)), found);
    const first = opened(page);
    await screen.findByText(working);
    first.unmount();
    await mine.keepWorkedOut(plan.id, nameOfWork(kept, all, 'other'), found);
    const second = opened(page);
    await screen.findByText(working);
    second.unmount();
    await mine.keepWorkedOut(plan.id, nameOfWork(kept, all), found);
    const broken = vi.spyOn(mine, 'workedOut').mockRejectedValue(new Error('no'));
    opened(page);
    await waitFor(() => expect(broken).toHaveBeenCalled());
    await screen.findByText(working);
    expect(screen.queryByText(reads(found.effects[0].sentence))).toBeNull();
    broken.mockRestore();
  });
});

describe('the name of a piece of work', () => {
  it('is the same for the same, and another for anything else', () => {
    const name = nameOfWork(plan, records);
    expect(nameOfWork(structuredClone(plan), structuredClone(records))).toBe(name);
    expect(nameOfWork({ ...plan, intent: 'worn' }, records)).not.toBe(name);
    expect(nameOfWork(plan, records.slice(0, -1))).not.toBe(name);
    expect(nameOfWork(plan, [...records].reverse())).not.toBe(name);
    expect(nameOfWork(plan, records, 'other')).not.toBe(name);
  });
});
