import { expect, type Page } from '@playwright/test';
import { writeBundle } from '../../src/core/bundle/index.ts';
import { type PlanRequest, planTrial } from '../../src/core/design/index.ts';
import { findMethod } from '../../src/core/methods/index.ts';
import { ProblemError } from '../../src/core/outcome/index.ts';
import { requestFor } from '../../src/core/questions/index.ts';
import { chanceFrom, seedOf } from '../../src/core/random/index.ts';
import { USUAL_WORKING } from '../../src/core/schedule/index.ts';
import { STARTER_SHELF } from '../../src/core/shelf/index.ts';
import { type Distraction, watched } from '../../src/core/simulator/at-screen.ts';
import type { TrialPlan, TrialRecord } from '../../src/core/trial/index.ts';
import { visit } from './views.ts';

/** A trial of a method, as a plan. */
export function planOf(method: string, part: Partial<PlanRequest>): TrialPlan {
  const plain = requestFor(findMethod(method, [])!, STARTER_SHELF);
  if (!plain.ok) throw new ProblemError(plain.problem);
  const chance = chanceFrom(seedOf(part.name ?? ''));
  const made = planTrial({ ...plain.value, ...part }, STARTER_SHELF, {
    createdAt: '2026-05-02T08:00:00.000Z',
    random: () => chance.next(),
  });
  if (!made.ok) throw new ProblemError(made.problem);
  return made.value;
}

const UNDISTRACTED: Distraction = {
  ...{ sd: 0, away: 0, awayMin: 0, gone: 0, doubled: 0, elbow: 0, undone: 0 },
  ...{ notNow: 0, chosen: 0, reloaded: 0, spoilt: 0 },
};

/** All but the last steps of a trial, as one works who does what the screen says, when it says so, from `start` on. */
export function nearlyMade(plan: TrialPlan, start: number, left: number): readonly TrialRecord[] {
  const { records } = watched([plan], USUAL_WORKING, UNDISTRACTED, { seed: 1, start }).trials[0];
  const steps = records.filter(r => r.kind === 'step');
  const until = steps[Math.max(0, steps.length - left)].at;
  return records.filter(r => r.at < until);
}

/** Takes a trial in through the file button of the opening view and goes to its Make stage. */
export async function bring(page: Page, plan: TrialPlan, records: readonly TrialRecord[] = []) {
  await visit(page, '/w/mine');
  await page.getByTestId('import-file').setInputFiles({
    name: 'trial.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from(writeBundle({ plan, records, photos: new Map() }, plan.createdAt)),
  });
  await expect(page.getByText(new RegExp(`“${plan.name}” (was imported|is here already)`))).toBeVisible();
  await page.goto(`/w/mine/t/${plan.id}/make`);
}

/** From the Make stage to work. */
export async function begin(page: Page) {
  await page
    .getByRole('link', { name: /the bench$/ })
    .first()
    .click();
  const start = page.getByRole('button', { name: 'Window open, gloves on' });
  await start.click();
  await expect(start).toBeHidden();
}

/** What the bench asks for and of which patch, as it stands this moment. */
export const showing = (page: Page): Promise<string> =>
  page.evaluate(
    () => `${document.querySelector('h1')?.textContent} ${document.querySelector('h1 + p')?.textContent}`,
  );

/** Presses a key until the screen moves on: a press while the one before is still being written is passed over on purpose. */
export async function press(page: Page, key = ' ') {
  const before = await showing(page);
  await expect(async () => {
    if ((await showing(page)) === before) await page.locator('body').press(key);
    const quick = page.getByText('That was quick');
    const isAsked = async () => (await showing(page)) !== before || (await quick.isVisible());
    await expect.poll(isAsked, { timeout: 700, intervals: [30, 60] }).toBe(true);
    // A machine is quicker than any hand: asked whether it is done, it says so once more.
    if ((await showing(page)) === before) {
      await page.waitForTimeout(360);
      await page.locator('body').press(key);
    }
    await expect.poll(() => showing(page), { timeout: 700, intervals: [30, 60] }).not.toBe(before);
  }).toPass({ timeout: 15_000, intervals: [30] });
}

/** A trial's records as they are stored in the browser, in order of time. */
export const stored = (page: Page, trial: string): Promise<TrialRecord[]> =>
  page.evaluate(
    id =>
      new Promise<TrialRecord[]>((resolve, reject) => {
        const open = indexedDB.open('wet-test-mine');
        open.onerror = () => reject(open.error);
        open.onsuccess = () => {
          const all = open.result.transaction('log').objectStore('log');
          const values = all.getAll(IDBKeyRange.bound(`${id}/`, `${id}/\uffff`));
          values.onsuccess = () => {
            open.result.close();
            resolve(
              (values.result as { records: TrialRecord[] }[])
                .flatMap(entry => entry.records)
                .sort((a, b) => a.at.localeCompare(b.at)),
            );
          };
        };
      }),
    trial,
  );
