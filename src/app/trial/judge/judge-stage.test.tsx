// @vitest-environment happy-dom
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it } from 'vitest';
import { jpegOf } from '../../../core/bundle/example.ts';
import { examplePlan } from '../../../core/design/example.ts';
import { readingFor } from '../../../core/trial/example.ts';
import type { TrialRecord } from '../../../core/trial/index.ts';
import { workshopOf } from '../../../store/index.ts';
import { opened } from '../../testing/opened.tsx';

const plan = examplePlan();
const mine = workshopOf('mine');
const [a, b] = plan.patches.map(p => p.code);
const page = (patch?: string) => `/w/mine/t/${plan.id}/judge${patch ? `?patch=${patch}` : ''}`;
const photographed = [a, b].flatMap((code, i) => readingFor(code, i + 1, {}));
const files = new Map(['p1', 'p2'].map(id => [id, new Blob([jpegOf(1)], { type: 'image/jpeg' })]));
const given = async (kind: TrialRecord['kind']) =>
  (await mine.records(plan.id)).records.filter(r => r.kind === kind);
const button = (name: string | RegExp) => screen.findByRole('button', { name });

beforeEach(async () => {
  await mine.wipe();
  await mine.savePlan(plan);
});

describe('Judge', () => {
  it('asks for a verdict and a grade, keeps both with what was ticked, and goes on to the next', async () => {
    const user = userEvent.setup();
    const { router } = opened(page(a));
    await user.click(await button(/^Keep this verdict/));
    expect((await screen.findByRole('alert')).textContent).toMatch(/Choose keep, fix or scrap/);
    expect(await given('verdict')).toEqual([]);
    const grades = within(screen.getByRole('group', { name: 'Grade' }));
    await user.click(screen.getByRole('button', { name: /^Fix/ }));
    await user.click(grades.getByRole('button', { name: '3 fair' }));
    const seen = within(screen.getByRole('group', { name: 'Symptoms' })).getAllByRole('button');
    await user.click(seen[0]);
    await user.click(seen[1]);
    await user.click(seen[0]);
    await user.click(await button(/^Keep this verdict, on to/));
    await screen.findByRole('heading', { name: b });
    expect(router.state.location.search).toBe(`?patch=${b}`);
    const [verdict] = await given('verdict');
    expect(verdict).toMatchObject({ patch: a, verdict: 'fix', grade: 3 });
    expect(verdict.kind === 'verdict' && verdict.symptoms).toHaveLength(1);
  });

  it('without a photo says what to look at instead; with all judged it says so', async () => {
    await mine.append(
      plan.id,
      plan.patches.map((p, i) => ({
        ...{ id: `v${i}`, at: '2026-05-04T08:00:00.000Z', kind: 'verdict', patch: p.code },
        ...{ verdict: 'keep', grade: 4, symptoms: [] },
      })),
    );
    opened(page());
    expect(await screen.findByText(/^Every patch is judged/)).toBeTruthy();
  });

  it('blind shows no code, and a key grades what is seen; photos of two at least are asked for', async () => {
    const user = userEvent.setup();
    opened(page());
    await user.click(await button('Grade them blind'));
    await screen.findByText(/Read photos of at least two patches first/);
    await user.keyboard('4');
    expect(await given('verdict')).toEqual([]);
  });

  it('blind keeps a grade with who gave it', async () => {
    await mine.append(plan.id, photographed, files);
    const user = userEvent.setup();
    opened(page());
    await user.click(await button('Grade them blind'));
    await screen.findByRole('heading', { name: 'Number 1 of 2' });
    const main = screen.getByRole('main').textContent ?? '';
    for (const code of [a, b]) expect(main).not.toContain(code);
    await user.keyboard('3');
    await screen.findByRole('heading', { name: 'Number 2 of 2' });
    expect(await given('verdict')).toMatchObject([{ verdict: 'fix', grade: 3, blind: true, judge: 'me' }]);
    // Another judge begins anew, and typing a name grades nothing.
    await user.type(screen.getByLabelText('Who is judging'), '5');
    await screen.findByRole('heading', { name: 'Number 1 of 2' });
    expect(await given('verdict')).toHaveLength(1);
  });

  it('in pairs takes the left for better with the left arrow', async () => {
    await mine.append(plan.id, photographed, files);
    const user = userEvent.setup();
    opened(page());
    await user.click(await button('Compare them in pairs'));
    await screen.findByRole('heading', { name: 'Which is better?' });
    await user.keyboard('{ArrowLeft}');
    await screen.findByText(/1 pair/);
    expect(await given('pair')).toMatchObject([{ better: 'this', judge: 'me' }]);
  });
});
