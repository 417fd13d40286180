import { expect, test } from '@playwright/test';
import type { TrialRecord } from '../../src/core/trial/index.ts';
import { begin, bring, planOf, press, showing, stored } from './at-bench.ts';
import { sound, visit } from './views.ts';

const strips = planOf('wet-rub', {
  name: 'Prime or whiten',
  design: 'strips',
  stripKey: 'preparation',
  factors: [
    { key: 'preparation', levels: ['gesso', 'white-coat'] },
    { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] },
  ],
  repeats: 2,
  board: { w: 420, h: 420, outline: 'rectangle', onePiece: false },
});

test('a strip is prepared in one go: one press, undone as one, and never asked for again', async ({
  page,
}) => {
  await bring(page, strips);
  await begin(page);
  for (const _ of strips.patches) await press(page);
  await expect.poll(() => showing(page)).toMatch(/^Prepare the ground strip \d of the board/);
  const go = page.getByText(/^All of it in one go:/);
  await expect(go).toBeVisible();
  const codes = (await go.textContent())!.match(/[A-Z0-9]{2}-[A-Z0-9]+/g)!;
  const own = strips.patches.filter(p => codes.includes(p.code));
  expect(new Set(own.map(p => `${p.board} ${p.strip}`)).size).toBe(1);
  expect(own).toHaveLength(strips.patches.filter(p => p.strip === own[0].strip).length);
  await sound(page);

  const first = await showing(page);
  await press(page);
  const done = (await stored(page, strips.id)).filter(r => r.kind === 'step' && r.step === 'prepare');
  expect(done).toHaveLength(1);
  expect(done[0].kind === 'step' && [done[0].patch, ...(done[0].also ?? [])].sort()).toEqual(codes.sort());
  await page.getByRole('button', { name: /^Undo: .* and \d more prepare/ }).click();
  await expect.poll(() => showing(page)).toBe(first);

  // As many presses as strips, and nothing of it is asked for twice.
  const all = new Set(strips.patches.map(p => p.strip)).size;
  for (let i = 0; i < all; i++) {
    expect(await showing(page)).toMatch(/^Prepare the ground/);
    await press(page);
  }
  expect(await showing(page)).not.toMatch(/^Prepare the ground/);
});

test('a finish of four coats is asked for four times, with the wait of its label between', async ({
  page,
}) => {
  const plan = planOf('wet-rub', {
    name: 'Clear',
    usual: { ...strips.usual, preparation: 'none', finish: 'spray-clear', rounds: 1, dryHours: 2 },
    factors: [{ key: 'medium', levels: ['matte-acrylic', 'soft-gel'] }],
    repeats: 1,
  });
  const [one, two] = plan.patches.map(p => p.code);
  const at = Date.now() - 6 * 3_600_000;
  const steps = ['mark', 'coat', 'place', 'wet', 'rub', 'look'];
  const record = (patch: string, step: string, minutes: number, round = 1) =>
    ({
      id: `${patch}${step}${round}`.toLowerCase().replace(/-/g, ''),
      at: new Date(at + minutes * 60_000).toISOString(),
      kind: 'step',
      patch,
      step,
      round,
    }) as const;
  await bring(page, plan, [
    ...steps.map((step, i) => record(one, step, [0, 1, 2, 150, 153, 220][i])),
    ...steps.map((step, i) => record(two, step, [0, 4, 5, 155, 158, 225][i])),
    record(two, 'finish', 230),
  ]);
  await begin(page);
  await expect.poll(() => showing(page)).toMatch(/^Put the finish on/);
  // The other one has had its first coat hours ago: its second is overdue or ready, the first of this one free.
  await expect(page.getByText(/coat [12] of 4/)).toBeVisible();
  await press(page);
  const done = (await stored(page, plan.id)).filter(r => r.kind === 'step' && r.step === 'finish');
  expect(done).toHaveLength(2);
  await visit(page, `/w/mine/t/${plan.id}/make?patch=${two}`);
  await expect(page.getByText('Coat is on, coat 1 of 4')).toBeVisible();
});

test('a wear test asks for a photo before it, is one press for the whole piece, and Keep says what is still missing', async ({
  page,
}) => {
  const plan = planOf('wet-rub', {
    name: 'Wash day',
    usual: { ...strips.usual, preparation: 'none', rounds: 1, dryHours: 72 },
    factors: [{ key: 'medium', levels: ['matte-acrylic', 'soft-gel'] }],
    repeats: 1,
    wear: ['wash'],
  });
  const codes = plan.patches.map(p => p.code);
  const start = Date.now() - 9 * 86_400_000;
  const minutes = [0, 1, 2, 4325, 4328, 4400];
  const records = codes.flatMap((patch, n) =>
    ['mark', 'coat', 'place', 'wet', 'rub', 'look'].map(
      (step, i): TrialRecord => ({
        ...{ id: `w${n}${i}`, kind: 'step', patch, step, round: 1 },
        at: new Date(start + (minutes[i] + n * (i ? 5 : 1)) * 60_000).toISOString(),
      }),
    ),
  );
  await bring(page, plan, records);
  await begin(page);
  await expect.poll(() => showing(page)).toMatch(/^Wash/);
  await expect(page.getByText(`All of it in one go: ${codes.join(', ')}.`)).toBeVisible();
  await expect(page.getByText(/First photograph it dry in Read.*Missing/)).toBeVisible();
  await sound(page);
  await press(page);
  const washed = (await stored(page, plan.id)).filter(r => r.kind === 'step' && r.step === 'wear-wash');
  expect(washed).toHaveLength(1);
  await visit(page, `/w/mine/t/${plan.id}/read`);
  await page.getByLabel('The patch is').selectOption('dry, after: wash');
  await expect(page.getByLabel('The patch is')).toHaveValue('wash');
  await visit(page, `/w/mine/t/${plan.id}/keep`);
  const lasts = page.getByRole('region', { name: 'Does it last?' });
  await expect(lasts).toContainText('No patch is photographed dry before and after it yet.');
  await sound(page);
});
