import { expect, type Page, test } from '@playwright/test';
import { encodeJpeg } from '../../src/cli/node-image.ts';
import { card, target } from '../../src/core/print/index.ts';
import { STARTER_SHELF } from '../../src/core/shelf/index.ts';
import { untouched } from '../../src/core/simulator/example.ts';
import { photograph } from '../../src/core/simulator/index.ts';
import { download, sound, visit } from './views.ts';

const places = (page: Page) =>
  page
    .locator('.patch')
    .evaluateAll(all =>
      Object.fromEntries(all.map(g => [g.getAttribute('data-code'), g.getAttribute('transform')])),
    );

test('a ready-made question becomes a laid-out board, and patches change places by drag and by keyboard', async ({
  page,
}) => {
  await visit(page, '/w/mine/new');
  await page.getByRole('link', { name: 'Settle it: Which paper?' }).click();
  await expect(page.getByLabel('Name of the trial')).toHaveValue('Which paper?');
  await expect(page.locator('.patch')).toHaveCount(12);
  await expect(page.getByRole('img', { name: /12 patches: .* points/ })).toBeVisible();

  // The promise, by the rule that will judge: rehearsed with made-up results.
  const rehearsal = page.getByRole('region', { name: 'Rehearse it' });
  await rehearsal.getByLabel('Really better by, points').fill('30');
  await rehearsal.getByRole('button', { name: /^Rehearse/ }).click();
  await expect(rehearsal).toContainText(
    /Donor sheet: if one .* is really 30 points better, this trial will name it, at least 80 % sure, (9 times in 10|almost always)/,
    { timeout: 30_000 },
  );
  await expect(rehearsal).toContainText(/If nothing makes a difference, it will still lean to something/);
  await sound(page);

  // By drag: one onto another swaps the two; into free ground moves it; off the board says why not.
  const before = await places(page);
  const [a, b] = Object.keys(before);
  const middle = async (code: string) => {
    const box = (await page.locator(`[data-code="${code}"]`).boundingBox())!;
    return { x: box.x + box.width / 2, y: box.y + box.height / 2, w: box.width };
  };
  const drag = async (from: { x: number; y: number }, to: { x: number; y: number }) => {
    await page.mouse.move(from.x, from.y);
    await page.mouse.down();
    await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 4 });
    await page.mouse.move(to.x, to.y, { steps: 4 });
    await page.mouse.up();
  };
  const [ma, mb] = [await middle(a), await middle(b)];
  await drag(ma, mb);
  await expect.poll(async () => (await places(page))[a]).toBe(before[b]);
  let now = await places(page);
  expect(now[b]).toBe(before[a]);
  const corner = Object.keys(now).find(code => now[code] === 'translate(20 20)')!;
  const again = await middle(corner);
  await drag(again, { x: again.x - 12, y: again.y - 12 });
  await expect.poll(async () => (await places(page))[corner]).not.toBe(now[corner]);
  const nudged = await places(page);
  await drag(await middle(corner), { x: again.x - again.w, y: again.y });
  await expect(page.getByText('closer than 12 mm to the edge of the board')).toBeVisible();
  expect((await places(page))[corner]).toBe(nudged[corner]);
  await page.getByRole('button', { name: 'Close' }).click();

  // By keyboard: pick up, walk, swap; nudge with Alt.
  await page.locator(`[data-code="${b}"]`).focus();
  await page.keyboard.press('m');
  await expect(page.locator(`[data-code="${b}"]`)).toHaveAttribute('aria-label', /Picked up/);
  now = await places(page);
  await page.keyboard.press(now[b]!.endsWith(' 120)') ? 'ArrowUp' : 'ArrowDown');
  const other = page.locator('.patch:focus');
  await expect(other).not.toHaveAttribute('data-code', b);
  const otherCode = (await other.getAttribute('data-code'))!;
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await places(page))[b]).toBe(now[otherCode]);
  const nearTheTop = await places(page);
  await page.locator(`[data-code="${b}"]`).focus();
  await page.keyboard.press('Alt+ArrowRight');
  await expect.poll(async () => (await places(page))[b]).not.toBe(nearTheTop[b]);

  // What was moved is what is saved, and it can still be moved until something is made.
  const kept = await places(page);
  await page.getByRole('button', { name: 'Save the plan and print' }).click();
  await expect(page).toHaveURL(/\/print/);
  await expect.poll(() => places(page)).toEqual(kept);
  await page.getByRole('link', { name: 'Lay out' }).click();
  await expect(page.getByText('Nothing is made yet')).toBeVisible();
  await drag(await middle(a), await middle(b));
  await expect.poll(async () => (await places(page))[a]).toBe(kept[b]);
});

test('a plan that is not saved yet survives a look at the shelf, and is begun anew when asked', async ({
  page,
}) => {
  await visit(page, '/w/mine/new/plan?from=settle:which-paper');
  const name = page.getByLabel('Name of the trial');
  await name.fill('Paper by the pound');
  await page.getByLabel('Board width, mm').fill('640');
  await page.getByRole('link', { name: 'Shelf' }).first().click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/shelf/i);
  await page.goBack();
  await expect(page.getByText('Taken up where you left it.')).toBeVisible();
  await expect(name).toHaveValue('Paper by the pound');
  await expect(page.getByLabel('Board width, mm')).toHaveValue('640');
  await sound(page);
  await page.getByRole('button', { name: 'Begin anew' }).click();
  await expect(name).not.toHaveValue('Paper by the pound');
  await expect(page.getByLabel('Board width, mm')).not.toHaveValue('640');
});

test('where a wait is chosen it says when the mediums are likely dry in that air', async ({ page }) => {
  await visit(page, '/w/mine/new/plan?from=plain:wet-rub');
  const hint = page.getByText(/Likely dry in this air: .*, [\d.]+ mm thick, after .* as its jar says/);
  await expect(hint).toHaveCount(1);
  const inRoom = await hint.textContent();
  await page.getByLabel('Humidity, %').fill('85');
  await expect(hint).not.toHaveText(inRoom!);
  // A film is pulled after seconds: nothing has to dry before that.
  await visit(page, '/w/mine/new/plan?from=plain:film-pull');
  await expect(page.locator('.patch').first()).toBeVisible();
  await expect(page.getByText(/Likely dry in this air/)).toBeHidden();
});

test('a board that is too small says which would do, and is one press from it', async ({ page }) => {
  await visit(page, '/w/mine/new/plan?from=plain:wet-rub');
  await page.getByLabel('Outline').selectOption('ellipse');
  await page.getByLabel('Board width, mm').fill('60');
  await page.getByLabel('Board height, mm').fill('60');
  await expect(page.getByRole('alert')).toContainText('An oval board of 60 × 60 mm is too small');
  await page.getByRole('button', { name: 'Save the plan and print' }).click();
  await expect(page.getByRole('status').last()).toContainText('An oval board of 60 × 60 mm is too small');
  await page.getByRole('button', { name: /^Take one of \d+ × \d+ mm$/ }).click();
  await expect(page.getByRole('alert')).toBeHidden();
  await expect(page.locator('.patch')).toHaveCount(12);
});

test('hard stops are shown before they are chosen, leave combinations out, and only harmless ones can be set aside', async ({
  page,
}) => {
  await visit(page, '/w/mine/new/plan?from=plain:wet-rub');
  await page.getByLabel('A. Change the').selectOption('Donor sheet');
  await page.getByRole('button', { name: 'Add a level to Donor sheet' }).click();
  await page.getByLabel('A3', { exact: true }).selectOption('dissolving');
  await page.getByLabel('B. Change the').selectOption('Printer');
  await expect(page.getByLabel('B2', { exact: true }).locator('option[value="cabin-inkjet"]')).toHaveText(
    /stopped/,
  );
  await page.getByLabel('B2', { exact: true }).selectOption('cabin-inkjet');
  await expect(page.getByRole('alert')).toContainText(
    'The cabin inkjet (dye) cannot be tried here. Inkjet ink on plain paper runs',
  );
  await page.getByRole('button', { name: 'I want to see it fail' }).click();
  await expect(page.locator('.patch')).toHaveCount(10);
  const left = page.getByRole('region', { name: 'Left out by the rules' });
  await expect(left).toContainText('1 combination. A sheet that dissolves in water goes to slime');
  await expect(left).toContainText('It harms the machine: not to be set aside.');
  await expect(left).toContainText('Kept in. Inkjet ink on plain paper');
  await expect(
    page.getByText(/Donor sheet and printer cannot be told well apart|mixed up|Kept in/).first(),
  ).toBeVisible();
  await sound(page);
});

test('strips, a ladder and tiles are laid out as what they are', async ({ page }) => {
  await visit(page, '/w/mine/new/plan?from=settle:prime-or-raw');
  await page.getByRole('button', { name: 'Vary one thing more' }).click();
  await page.getByText('Strips of a board.').click();
  await page.getByLabel('Board width, mm').fill('640');
  await expect(page.getByText(/Preparation is given to whole strips/)).toBeVisible();
  await page.getByLabel('Name of the trial').fill('Primers in bands');
  await page.getByRole('button', { name: 'Save the plan and print' }).click();
  await expect(page).toHaveURL(/\/print/);

  await visit(page, '/w/mine/new');
  await page.getByRole('button', { name: 'How long should I wait?' }).click();
  await page.getByRole('link', { name: /Film pull/ }).click();
  await expect(page.getByRole('radio', { name: /A ladder/ })).toBeChecked();
  for (const [label, value] of [
    ['A1, s', '15'],
    ['A3, s', '45'],
  ] as const)
    await expect(page.getByLabel(label)).toHaveValue(value);
  await expect(page.locator('.patch')).toHaveCount(10);
  await expect(page.getByText('of bare ground all round each picture')).toBeVisible();
  // By mouse, where the field of the level lies right below.
  await page.getByRole('button', { name: 'Remove level A5' }).click();
  await expect(page.locator('.patch')).toHaveCount(8);

  await visit(page, '/w/mine/new');
  await page.getByRole('button', { name: 'Put this on that' }).click();
  await page.getByLabel('Onto').selectOption('Glazed white tile');
  await expect(page.getByText(/Not this one\./).first()).toBeVisible();
  await page.getByRole('link', { name: 'Try it: Quick-release peel' }).click();
  await expect(page.getByLabel('Carrier')).toHaveValue('piece');
  await expect(page.getByText(/on \d+ pieces/)).toBeVisible();
  await page.getByLabel('Piece width, mm').fill('45');
  await expect(page.getByRole('alert')).toContainText(
    'A piece of 45 × 100 mm is too small for a patch of 40 mm',
  );
  await sound(page);
});

test('a large question is searched for its best part, which can be stopped', async ({ page }) => {
  await visit(page, '/w/mine/new/plan?from=plain:wet-rub');
  for (let i = 0; i < 5; i++) await page.getByRole('button', { name: 'Vary one thing more' }).click();
  for (const name of ['Preparation', 'Donor sheet', 'Coat thickness', 'Rubbing rounds'])
    await page.getByRole('button', { name: `Add a level to ${name}` }).click();
  await page.getByText('The best part of them.', { exact: true }).click();
  await expect(page.getByText('Looking for the best set of patches')).toBeVisible();
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText('The search was stopped.')).toBeVisible();
  await page.getByRole('button', { name: 'Search again' }).click();
  await page.getByLabel('Board width, mm').fill('500');
  await page.getByLabel('Board height, mm').fill('400');
  await page.getByRole('spinbutton', { name: 'Patches you can afford' }).fill('24');
  await expect(page.locator('.patch')).toHaveCount(24, { timeout: 60_000 });
  // Every change starts the search anew; the figures are there when the last has ended.
  await page.getByText('The figures').click({ timeout: 60_000 });
  await expect(page.getByText(/D-efficiency \d\d\.\d %/)).toBeVisible();
  await page.getByRole('spinbutton', { name: 'Patches you can afford' }).fill('5');
  await expect(page.getByRole('alert')).toContainText(/at least \d+ patches; you can afford 5/);
});

test('the shelf is searched, changed, copied, taken out and in as a table, and a trial keeps what it used', async ({
  page,
}) => {
  await visit(page, '/w/mine/shelf');
  await page.getByLabel('Search mediums').fill('gel soft');
  await page.getByRole('button', { name: /^Soft gel medium/ }).click();
  await sound(page);
  await page.getByLabel('On hand, mL').fill('5000000');
  await expect(page.getByRole('alert')).toContainText('From 0 to 100000. It stays');
  await expect(page.getByRole('button', { name: 'Save the changes' })).toBeDisabled();
  await page.getByLabel('On hand, mL').fill('400');
  await page.getByLabel('Batch').fill('K7 spring');
  await page.getByRole('button', { name: 'Save the changes' }).click();
  await expect(page.getByText('Soft gel medium is on the shelf.')).toBeVisible();
  await page.reload();
  await expect(page.getByText('soft gel, dry in about 12 h, 400 mL left')).toBeVisible();
  await page.getByRole('button', { name: /^Soft gel medium/ }).click();
  await page.getByRole('button', { name: 'Make a copy' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Barnacle gel');
  await page.getByRole('button', { name: 'Put it on the shelf' }).click();
  await expect(page.getByRole('button', { name: /^Barnacle gel/ })).toBeVisible();

  const csv = (await download(page, 'Save this list (CSV)')).toString();
  expect(csv).toContain('K7 spring');
  const upload = page.locator('input[accept=".csv,text/csv"]');
  await upload.setInputFiles({
    name: 'broken.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('name,openMin\nTar,soon\n'),
  });
  await expect(page.getByText(/Line 2: Stays open/)).toBeVisible();
  await upload.setInputFiles({
    name: 'more.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(csv.replace('Barnacle gel', 'Limpet gel')),
  });
  await expect(page.getByRole('button', { name: /^Limpet gel/ })).toBeVisible();

  // Hundreds of items: found by their words, and only those in view are drawn.
  const rows = Array.from({ length: 600 }, (_, i) => `Trial glue ${i},4,8,0.1,0.9,1,250,6`);
  const many = ['name,openMin,dryHours,rewets,grip,densityGPerMl,jarMl,jarPrice', ...rows].join('\n');
  await upload.setInputFiles({ name: 'many.csv', mimeType: 'text/csv', buffer: Buffer.from(many) });
  await expect(page.getByText('600 taken from many.csv')).toBeVisible({ timeout: 30_000 });
  expect(await page.getByRole('button', { name: /^Trial glue/ }).count()).toBeLessThan(60);
  await page.getByLabel('Search mediums').fill('glue 417');
  await expect(page.getByRole('button', { name: /^Trial glue/ })).toHaveCount(1);
  await page.getByLabel('Search mediums').fill('');

  // A trial uses it; then it goes off the shelf; the trial still has it.
  await visit(page, '/w/mine/new/plan?from=plain:wet-rub');
  await page.getByLabel('A1', { exact: true }).selectOption('Limpet gel');
  await page.getByLabel('Name of the trial').fill('Limpets');
  await page.getByRole('button', { name: 'Save the plan and print' }).click();
  await expect(page).toHaveURL(/\/print/);
  const trial = page.url().replace(/print.*/, 'plan');
  await visit(page, '/w/mine/shelf?kind=mediums');
  await page.getByLabel('Search mediums').fill('limpet');
  await page.getByRole('button', { name: /^Limpet gel/ }).click();
  await page.getByRole('button', { name: 'Take it off the shelf' }).click();
  await expect(page.getByText('Nothing here has all of these words.')).toBeVisible();
  await page.goto(trial);
  await expect(page.getByText('Limpet gel').first()).toBeVisible();

  // A colour in words, and one from a photo of the bare ground through the card.
  await visit(page, '/w/mine/shelf?kind=substrates&item=birch-ply');
  await page.getByLabel('In words or hex').fill('driftwood');
  await expect(page.getByRole('alert')).toContainText('“driftwood” is not a colour.');
  await page.getByLabel('In words or hex').fill('tan');
  await expect(page.getByText(/^L\* 75/)).toBeVisible();
  const slate = STARTER_SHELF.substrates.find(s => s.id === 'slate')!;
  const shot = photograph(untouched(40), target(40), card(40), slate, STARTER_SHELF.preparations[0], {
    seed: 5,
    stage: 'dry',
    pxPerMm: 9,
    tiltDeg: 5,
    falloff: 0.15,
  });
  const photo = Buffer.from(await encodeJpeg(shot.photo, 85));
  await page
    .locator('input[aria-label^="Photo of the bare ground"]')
    .setInputFiles({ name: 'slate.jpg', mimeType: 'image/jpeg', buffer: photo });
  await expect(page.getByText(/^L\* 4[1-7]/)).toBeVisible({ timeout: 60_000 });
});

test('a method is read as a line of steps, copied, changed and planned with', async ({ page }) => {
  await visit(page, '/w/mine/methods?method=film-pull');
  await expect(page.getByRole('list', { name: 'Steps of Film pull' }).getByRole('listitem')).toHaveCount(8);
  await expect(page.getByRole('img', { name: /Then wait: not before .* best 45 s/ })).toBeVisible();
  await expect(page.getByText('Flammable vapour.').first()).toBeVisible();
  // Whole where it begins to matter, by its name from then on; and no rounds in a method without.
  await expect(page.getByText('Flammable vapour.', { exact: true })).toHaveCount(1);
  await expect(page.getByText(/Careful here too: .*flammable vapour/).first()).toBeVisible();
  await expect(page.getByText(/again in every round/)).toHaveCount(0);
  await sound(page);
  await page.getByRole('button', { name: 'Copy it and change the steps' }).click();
  await page.getByLabel('Name of the method').fill('Film pull with a chilled board');
  await page.getByRole('button', { name: 'Add a step after “Mark it”' }).click();
  await page.getByLabel('What to do').nth(1).fill('');
  await page.getByRole('button', { name: 'Keep this method' }).click();
  await expect(page.getByRole('alert')).toContainText('Step 2: Write something here.');
  await page.getByLabel('What to do').nth(1).fill('Chill the board for ten minutes.');
  await page.getByLabel('What the button says').nth(1).fill('Chill it');
  await sound(page);
  await page.getByRole('button', { name: 'Keep this method' }).click();
  await expect(page.getByRole('heading', { name: 'Film pull with a chilled board' })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('list', { name: /chilled board/ }).getByRole('listitem')).toHaveCount(9);
  await page.getByRole('link', { name: 'Plan a trial with it' }).click();
  await page.getByLabel('Name of the trial').fill('Chilled');
  await page.getByRole('button', { name: 'Save the plan and print' }).click();
  await expect(page).toHaveURL(/\/print/);
  await page.getByRole('link', { name: 'Make', exact: true }).click();
  await page.locator('.patch').first().click();
  await expect(page.getByText('Chill it').first()).toBeVisible();
  await page.getByRole('link', { name: 'Keep', exact: true }).click();
  const zip = await download(page, 'Export the trial (ZIP)');
  expect(zip.subarray(0, 2).toString()).toBe('PK');
});

test('phones show the planner, the shelf and the methods without cutting anything off', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  for (const path of [
    'new',
    'new/plan?from=settle:any-glue',
    'shelf?kind=donors&item=copy-80',
    'methods?method=hot-body',
  ]) {
    await visit(page, `/w/mine/${path}`);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    expect(await page.evaluate(() => document.documentElement.scrollWidth), path).toBeLessThanOrEqual(390);
    await sound(page);
  }
});
