import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { type Browser, expect, type Page, test } from '@playwright/test';
import type { TrialRecord } from '../../src/core/trial/index.ts';
import { makeServer } from '../../src/server/index.ts';
import { ownHosts, phoneRoutes } from '../../src/server/phone.ts';
import { bring, planOf, press, stored } from './at-bench.ts';
import { takePhotos } from './photos.ts';
import { sound } from './views.ts';

// As a phone would: by an address in the network, where there is one, and without encryption.
const LAN = ownHosts().find(h => /^\d/.test(h) && !h.startsWith('127.')) ?? '127.0.0.1';
let server: Server;
let port: number;
test.beforeAll(async () => {
  const phone = phoneRoutes({ hosts: () => ['localhost', '127.0.0.1', LAN], reach: () => [LAN] });
  server = makeServer('mine', undefined, phone).listen(0, '0.0.0.0');
  await new Promise(resolve => server.once('listening', resolve));
  port = (server.address() as AddressInfo).port;
});
test.afterAll(() => {
  server.close();
  server.closeAllConnections();
});

const laptopPage = async (browser: Browser) =>
  (
    await browser.newContext({
      baseURL: `http://localhost:${port}`,
      locale: 'en-GB',
      viewport: { width: 1280, height: 800 },
    })
  ).newPage();
const phonePage = async (browser: Browser) =>
  (await browser.newContext({ locale: 'en-GB', viewport: { width: 390, height: 844 } })).newPage();
const PLAN = planOf('wet-rub', {
  name: 'Sink or bench',
  factors: [{ key: 'medium', levels: ['matte-acrylic', 'soft-gel'] }],
  repeats: 2,
});
const address = async (page: Page) => (await page.getByTestId('phone-address').textContent())!;

test('photos go from a phone to the patch that was chosen there; the code is good once, and no photo is lost when the laptop is away', async ({
  browser,
}, info) => {
  const [laptop, phone] = [await laptopPage(browser), await phonePage(browser)];
  await bring(laptop, PLAN);
  await laptop.goto(`/w/mine/t/${PLAN.id}/read`);
  await laptop.getByRole('button', { name: 'Take photos with your phone' }).click();
  await expect(laptop.getByText('Others in this network could see what is sent')).toBeVisible();
  await sound(laptop);
  const open = await address(laptop);
  await phone.goto(open);
  const first = PLAN.patches[0].code;
  await phone.getByRole('button', { name: new RegExp(`^${first}`) }).click();
  expect(phone.url()).not.toContain('#');
  await sound(phone);
  expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  const [shot] = await takePhotos({ ...PLAN, patches: [PLAN.patches[0]] }, info.outputPath(''));
  // The laptop is out of reach: the photo stays, also through a reload, and goes on a second press.
  await phone.context().setOffline(true);
  await phone.getByTestId('phone-photo').setInputFiles(shot.file);
  await expect(phone.getByText('1 photo waits on this phone.')).toBeVisible();
  await phone.context().setOffline(false);
  await phone.getByRole('button', { name: 'Send again' }).click();
  await expect(phone.getByText('· 1 sent')).toBeVisible();
  await expect(laptop.getByText('1 came so far.')).toBeVisible();
  await expect(laptop.getByText('1 of 4 patches read.')).toBeVisible({ timeout: 60_000 });
  const other = await phonePage(browser);
  await other.goto(open);
  await expect(other.getByRole('alert')).toContainText('This code was used before');
  await laptop.getByRole('button', { name: 'End the link' }).click();
  await expect(laptop.getByRole('button', { name: 'Take photos with your phone' })).toBeVisible();
  await phone.getByTestId('phone-photo').setInputFiles(shot.file);
  await expect(phone.getByRole('alert')).toContainText('This link has ended');
  for (const page of [laptop, phone, other]) await page.context().close();
});

test('a trial goes to the sink on a phone, is worked on there without the laptop, and comes back to what was noted meanwhile', async ({
  browser,
}) => {
  const [laptop, phone] = [await laptopPage(browser), await phonePage(browser)];
  await bring(laptop, PLAN);
  await laptop.getByRole('button', { name: 'Take it to the sink on your phone' }).click();
  await phone.goto(await address(laptop));
  await sound(phone);
  await phone.getByRole('button', { name: 'Take it along' }).click();
  await expect(phone.getByText('It is on this phone now')).toBeVisible();
  await expect(laptop.getByText('Your phone has it.')).toBeVisible();
  // No laptop from here on.
  await phone.context().setOffline(true);
  await phone.getByRole('link', { name: 'To the bench' }).click();
  await phone.getByRole('button', { name: 'Window open, gloves on' }).click();
  await expect(phone.getByRole('heading', { level: 1 })).toHaveText('Mark it');
  for (let k = 0; k < 3; k++) await press(phone);
  await phone.getByRole('button', { name: 'Leave the bench' }).click();
  await phone.getByRole('button', { name: 'Give it back' }).click();
  await expect(phone.getByText('All of it is still here: give it back later.')).toBeVisible();
  // Meanwhile the laptop notes something of its own.
  await laptop.locator('.patch').first().click();
  await laptop.getByLabel('Note', { exact: false }).first().fill('The tap was cold');
  await laptop.getByRole('button', { name: 'Keep note' }).click();
  await expect.poll(async () => (await stored(laptop, PLAN.id)).some(r => r.kind === 'note')).toBe(true);
  await phone.context().setOffline(false);
  await phone.getByRole('button', { name: 'Give it back' }).click();
  await expect(phone.getByText('Given back.')).toBeVisible();
  await expect(laptop.getByText(/new records came from the phone/)).toBeVisible();
  const [there, here] = [await stored(phone, PLAN.id), await stored(laptop, PLAN.id)];
  const ids = (list: readonly TrialRecord[]) => list.map(r => r.id);
  expect(there.filter(r => r.kind === 'step')).toHaveLength(3);
  expect(ids(here)).toEqual(expect.arrayContaining(ids(there)));
  expect(here.filter(r => !ids(there).includes(r.id)).map(r => r.kind)).toEqual(['note']);
  // Given back once more, nothing is there twice.
  await phone.getByRole('button', { name: 'Give it back' }).click();
  await expect(laptop.getByText('0 new records came from the phone.')).toBeVisible();
  expect(ids(await stored(laptop, PLAN.id)).sort()).toEqual(ids(here).sort());
  for (const page of [laptop, phone]) await page.context().close();
});
