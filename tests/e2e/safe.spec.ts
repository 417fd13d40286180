import { readFileSync, writeFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { unzipSync } from 'fflate';
import { readBundle } from '../../src/core/bundle/index.ts';
import { examplePlan } from '../../src/core/design/example.ts';
import { chainOf } from '../../src/core/steps/index.ts';
import type { TrialRecord } from '../../src/core/trial/index.ts';
import { bring } from './at-bench.ts';
import { download, sound, visit } from './views.ts';

const plan = { ...examplePlan({}, 21), name: 'Lamp boards' };
const [first] = plan.patches;
const mark = chainOf(plan, first)[0].step.id;
const marked = (id: string, minute: number): TrialRecord => ({
  ...{ id, at: new Date(Date.now() - minute * 60_000).toISOString(), kind: 'step', patch: first.code },
  ...{ step: mark, round: 1 },
});

const forget = (page: Page) =>
  page.evaluate(async () => {
    for (const { name } of await indexedDB.databases())
      await new Promise(done => {
        const request = indexedDB.deleteDatabase(name!);
        request.onsuccess = request.onerror = request.onblocked = done;
      });
    localStorage.clear();
  });

test('a workshop is backed up, lost, and whole again; taken in once more, nothing is there twice', async ({
  page,
}) => {
  await bring(page, plan, [marked('a', 30)]);
  await visit(page, '/w/mine/safe');
  await expect(page.getByText('It was not backed up yet.')).toBeVisible();
  await sound(page);
  const file = await download(page, 'Back up as a download');
  await expect(page.getByText(/Last backed up .*: 1 trials/)).toBeVisible();
  const path = test.info().outputPath('workshop.zip');
  writeFileSync(path, file);

  await page.goto('about:blank');
  await page.goto('/mark.svg');
  await forget(page);
  await visit(page, '/w/mine/safe');
  await expect(page.getByText('It was not backed up yet.')).toBeVisible();
  const input = page.getByTestId('backup-file');
  // A file that is none is refused in words.
  await input.setInputFiles({ name: 'x.zip', mimeType: 'application/zip', buffer: Buffer.from('no zip') });
  await expect(page.getByText('This file is not a ZIP, or it is damaged.')).toBeVisible();
  await input.setInputFiles(path);
  await expect(page.getByText('None of its trials is here yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByText('1 trial came in, 0 joined, 0 had nothing new; 1 record,')).toBeVisible();
  await page.getByRole('link', { name: 'Trials' }).click();
  await expect(page.getByText('Lamp boards').first()).toBeVisible();

  await page.getByRole('link', { name: 'Safe', exact: true }).click();
  await input.setInputFiles(path);
  await page.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByText('0 trials came in, 0 joined, 1 had nothing new; 0 records,')).toBeVisible();
  await sound(page);
});

test('work that went on in two places is joined; backups go into a folder, and what was removed is cleaned up', async ({
  browser,
}) => {
  const [one, other] = [await browser.newContext(), await browser.newContext()];
  const [here, there] = [await one.newPage(), await other.newPage()];
  await bring(here, plan, [marked('a', 30)]);
  await bring(there, plan, [
    marked('a', 30),
    { ...marked('b', 20), kind: 'note', text: 'Dry to the touch' } as TrialRecord,
  ]);
  await there.goto('/w/mine/safe');
  // A folder of the browser's own stands in for one that the maker chooses.
  await there.evaluate(() => {
    Object.assign(window, { showDirectoryPicker: () => navigator.storage.getDirectory() });
  });
  const file = await download(there, 'Back up as a download');
  await there.getByRole('link', { name: 'Shelf' }).click();
  await there.getByRole('link', { name: 'Safe', exact: true }).click();
  await there.getByRole('button', { name: 'Into a folder' }).click();
  await expect(there.getByText(/ is in the folder /)).toBeVisible();
  await expect(there.getByRole('button', { name: /^Back up into / })).toBeVisible();
  const size = await there.evaluate(async () => {
    const root = (await navigator.storage.getDirectory()) as unknown as AsyncIterable<
      [string, FileSystemFileHandle]
    >;
    for await (const [name, handle] of root) if (name.endsWith('.zip')) return (await handle.getFile()).size;
    return 0;
  });
  // The same but for the moment it was made.
  expect(Math.abs(size - file.length)).toBeLessThan(50);

  await here.goto('/w/mine/safe');
  const path = test.info().outputPath('there.zip');
  writeFileSync(path, file);
  await here.getByTestId('backup-file').setInputFiles(path);
  await expect(
    here.getByText('All of its trials are here: 1 trial will be joined with its own.'),
  ).toBeVisible();
  await here.getByRole('button', { name: 'Take it in' }).click();
  await expect(here.getByText('0 trials came in, 1 joined, 0 had nothing new; 1 record,')).toBeVisible();
  const joined = unzipSync(await download(here, 'Back up as a download'));
  const trial = readBundle(joined[`trials/${plan.id}.zip`]);
  expect(trial.ok && trial.value.records.map(r => r.id)).toEqual(['a', 'b']);
  await here.getByRole('button', { name: 'Look what could go' }).click();
  await expect(here.getByText('Nothing: all that is stored is shown somewhere.')).toBeVisible();
  await one.close();
  await other.close();
  expect(readFileSync(path).length).toBe(file.length);
});
