import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import Papa from 'papaparse';
import { demoPlan, download, sound, visit } from './views.ts';

test('what a trial found becomes a recipe, is made for real, and what came of it moves how sure it is', async ({
  page,
}) => {
  await visit(page, '/w/demo/recipes');
  await expect(page.getByText('None is kept yet.')).toBeVisible();
  await visit(page, '/w/demo/t/6FH7HRYKRMR6/keep');
  await page.getByRole('button', { name: 'Keep this recipe' }).click();
  await expect(page.getByRole('button', { name: 'Keep it as the next version' })).toBeVisible();
  await page.getByRole('link', { name: 'Make it for real' }).click();
  await expect(page.getByRole('heading', { name: 'Make it for real' })).toBeVisible();
  expect(await page.evaluate(() => window.scrollY)).toBe(0);
  const photos = page.getByRole('region', { name: 'Its best patches' });
  await expect(photos.getByRole('img').first()).toBeVisible();
  await expect(photos.getByText('simulated photo', { exact: false }).first()).toBeVisible();
  const sure = page.getByText(/ came out good: of the next ones about|Nothing made by it was judged yet/);
  const before = await sure.textContent();
  const begin = page.getByText(/^Begin \d+, for 2 good ones\.$/);
  const first = Number((await begin.textContent())!.match(/\d+/)![0]);
  await sound(page);

  // Ten more that came out good: fewer have to be begun.
  await page.getByLabel('Made', { exact: true }).fill('10');
  await page.getByLabel('Of these good').fill('10');
  await page.getByLabel('What was different').fill('With the sponge');
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByText(/10 good of 10, 200 × 150 mm · With the sponge/)).toBeVisible();
  // How they wear is asked after, day by day, here and in the calendar.
  const lasts = page.getByRole('region', { name: 'Does it last?' });
  await expect(lasts.getByText('Dry rub')).toBeVisible();
  await lasts.getByRole('button', { name: 'It held' }).first().click();
  await expect(lasts.getByText('Dry rub: held 1 of 1')).toBeVisible();
  const days = (await download(page, 'Save the follow-ups as calendar (ICS)')).toString();
  expect(days.match(/BEGIN:VEVENT/g)).toHaveLength(3);
  expect(days).not.toContain('dry rub');
  await expect(sure).not.toHaveText(before!);
  const then = Number((await begin.textContent())!.match(/\d+/)![0]);
  expect(then).toBeLessThan(first);
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(sure).toHaveText(before!);

  const list = Papa.parse<string[]>((await download(page, 'Shopping list (CSV)')).toString().trim());
  expect(list.errors).toEqual([]);
  expect(list.data[0]).toEqual(['list', 'what', 'amount', 'price']);
  const pdf = test.info().outputPath('card.pdf');
  writeFileSync(pdf, await download(page, 'Print the card (PDF)'));
  const words = execFileSync('pdftotext', ['-layout', pdf, '-']).toString();
  expect(words).toContain('Why we believe it');
  expect(words).toMatch(/1\. /);
  const json = await download(page, 'For another workshop (JSON)');

  await page.getByLabel('Name').fill('Berth plates, our way');
  await page.getByLabel('Why it changes').fill('Its own name');
  await page.getByRole('button', { name: 'Keep it under this name' }).click();
  await expect(page.getByRole('heading', { name: 'Berth plates, our way' })).toBeVisible();
  await expect(page.getByText(/^2\..*Its own name$/)).toBeVisible();
  await page.setViewportSize({ width: 390, height: 844 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.setViewportSize({ width: 1280, height: 800 });

  // Another workshop takes it in; a file that is none is refused in words.
  await visit(page, '/w/mine/recipes');
  const file = page.getByTestId('recipe-file');
  await file.setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from('{}') });
  await expect(page.getByText('This file holds no Wet Test recipe.')).toBeVisible();
  await file.setInputFiles({ name: 'r.json', mimeType: 'application/json', buffer: json });
  await expect(page.getByRole('link', { name: / on / })).toBeVisible();
  await file.setInputFiles({ name: 'r.json', mimeType: 'application/json', buffer: json });
  await expect(page.getByText('All of it was here already.')).toBeVisible();
  await sound(page);
});

test('the notebook is searched as one types, narrowed down, and a jar tells where it was used', async ({
  page,
}) => {
  await visit(page, '/w/demo');
  await expect(page.getByText('Berth plates').first()).toBeVisible();
  await page.getByRole('link', { name: 'Find', exact: true }).click();
  const box = page.getByLabel('Search the notebook');
  await box.fill('berth pla');
  await expect(page.getByRole('link', { name: /^Berth plates/ }).first()).toBeVisible();
  await box.fill('CX-28H');
  await page.getByRole('link', { name: 'CX-28H' }).click();
  await expect(page).toHaveURL(/read\?patch=CX-28H/);
  await expect(page.getByRole('heading', { name: 'CX-28H' })).toBeVisible();
  await visit(page, '/w/demo/find');
  await page.getByRole('button', { name: 'Trials', exact: true }).click();
  await page.getByLabel('Made with').selectOption('Matte acrylic medium');
  const jar = page.getByRole('region', { name: 'Matte acrylic medium' });
  await expect(jar.getByText(/patches in \d+ trials?, \d+ % landed/)).toBeVisible();
  await expect(jar.getByRole('link', { name: /^Berth plates/ })).toBeVisible();
  await sound(page);
  await page.setViewportSize({ width: 390, height: 844 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  // Patches of different trials, ticked one by one, hang side by side.
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole('button', { name: 'Show everything' }).click();
  const tick = async (code: string) => {
    await box.fill(code);
    await page.getByText('for the wall', { exact: true }).first().click();
  };
  const [one, other] = [demoPlan('berth-plates.zip'), demoPlan('log-covers.zip')].map(p => p.patches[0].code);
  await tick(one);
  await tick(other);
  await sound(page);
  await page.getByRole('link', { name: 'See these 2 side by side' }).click();
  await expect(page.getByRole('button', { name: new RegExp(`^${one}, `) })).toBeVisible();
  await expect(page.getByRole('button', { name: new RegExp(`^${other}, `) })).toBeVisible();
  await expect(
    page.getByRole('button', { name: /^[0-9A-Z]{2}-[0-9A-Z]{3}, .*(landed|not given)/ }),
  ).toHaveCount(2);
  await page.goBack();
  await box.fill('zzzz');
  await expect(page.getByText('Nothing like this is in the notebook.', { exact: false })).toBeVisible();
});
