// @vitest-environment happy-dom
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { examplePlan } from '../core/design/example.ts';
import { METHODS } from '../core/methods/index.ts';
import { STARTER_SHELF } from '../core/shelf/index.ts';
import { readingFor } from '../core/trial/example.ts';
import { StorageError, workshopOf } from '../store/index.ts';
import { opened } from './testing/opened.tsx';

const mine = workshopOf('mine');
const plan = examplePlan();
const STAGES = ['plan', 'print', 'make', 'read', 'judge', 'explain', 'keep'];
const PAGES = [
  '',
  '/new',
  '/shelf',
  '/methods',
  '/pictures',
  '/known',
  '/recipes',
  '/find',
  '/safe',
  '/wall',
  '/train',
];
const broken = new StorageError({
  code: 'storage',
  say: 'The browser gave nothing back.',
  wayOut: 'Load it again.',
});

beforeEach(async () => {
  await mine.wipe();
});
afterEach(() => void vi.restoreAllMocks());

describe('a page in an empty workshop', () => {
  it.each(PAGES)('“%s” has a name and a word of what it is for', async path => {
    opened(`/w/mine${path}`);
    const heading = await screen.findByRole('heading', { level: 1 });
    expect(heading.textContent).not.toMatch(/stopped working|nothing here/i);
    await waitFor(() => expect(document.title).toMatch(/Wet Test/));
    expect(document.body.textContent!.length).toBeGreaterThan(120);
  });

  it('that does not exist says so, and where one can go', async () => {
    opened('/w/mine/nowhere');
    expect((await screen.findByRole('heading', { level: 1 })).textContent).toMatch(/There is nothing here/);
    expect(screen.getAllByRole('link').length).toBeGreaterThan(0);
  });
});

describe('a page of which the store gives nothing', () => {
  it.each([
    ['', 'overview', /The browser gave nothing back/],
    ['/known', 'overview', /could not be weighed.*The browser gave nothing back/],
    ['/known', 'shelf', /could not be weighed.*The browser gave nothing back/],
    ['/shelf', 'shelf', /The shelf cannot be opened/],
    ['/recipes', 'recipeEvents', /The recipes cannot be read just now/],
    [`/t/${plan.id}/judge`, 'plan', /stored and safe. The browser gave nothing back/],
    [`/t/${plan.id}/keep`, 'records', /stored and safe. The browser gave nothing back/],
  ] as const)('“%s” (%s) says so, and how to go on', async (path, asks, says) => {
    await mine.savePlan(plan);
    vi.spyOn(mine, asks as 'overview').mockRejectedValue(broken);
    vi.spyOn(console, 'error').mockImplementation(() => {});
    vi.spyOn(console, 'warn').mockImplementation(() => {});
    opened(`/w/mine${path}`);
    await waitFor(() => expect(document.body.textContent).toMatch(says));
    expect(document.body.textContent).toMatch(
      /[Ll]oad it again|Try again|Load again|load the page again|Load the page again/,
    );
  });
});

describe('a stage of a trial', () => {
  it.each(STAGES)('“%s” shows its name, the stages and the board', async stage => {
    await mine.savePlan(plan);
    await mine.append(plan.id, readingFor(plan.patches[0].code, 1, {}));
    opened(`/w/mine/t/${plan.id}/${stage}`);
    await screen.findByRole('heading', { level: 1, name: plan.name });
    const stages = screen.getByRole('navigation', { name: 'Stages' });
    expect([...stages.querySelectorAll('a')].map(a => a.textContent)).toEqual([
      'Lay out',
      'Print',
      'Make',
      'Read',
      'Judge',
      'Explain',
      'Keep',
    ]);
    for (const { code } of plan.patches)
      expect(document.querySelector(`[data-code="${code}"]`), code).not.toBeNull();
    await waitFor(() => expect(screen.getAllByRole('main').length).toBeGreaterThan(0));
  });

  it('that is not named is the first', async () => {
    await mine.savePlan(plan);
    const { router } = opened(`/w/mine/t/${plan.id}`);
    await waitFor(() => expect(router.state.location.pathname).toBe(`/w/mine/t/${plan.id}/plan`));
  });

  it('of a removed trial is not there until it is brought back', async () => {
    const user = userEvent.setup();
    await mine.savePlan(plan);
    const { router } = opened(`/w/mine/t/${plan.id}/plan`);
    await user.click(await screen.findByRole('button', { name: 'Remove trial' }));
    await screen.findByText(/was removed. It is kept until you erase it/);
    expect(router.state.location.pathname).toBe('/w/mine');
    expect(await mine.plan(plan.id)).toBeUndefined();
    await user.click(screen.getByRole('button', { name: 'Undo' }));
    await waitFor(async () => expect(await mine.plan(plan.id)).toMatchObject({ ok: true }));
  });
});

describe('the opening view', () => {
  it('names what needs hands now, with one press to it', async () => {
    await mine.savePlan(plan);
    opened('/w/mine');
    await waitFor(() => expect(document.body.textContent).toContain(plan.name));
    await screen.findByRole('link', { name: /[Pp]rint/ });
  });

  it('names what cannot be read and offers it as a file', async () => {
    await mine.savePlan(plan);
    vi.spyOn(mine, 'overview').mockResolvedValue({
      trials: [],
      damaged: [{ id: 'x', name: 'Tide tins', why: 'It was made by something else.' }],
    });
    opened('/w/mine');
    await screen.findByText(/Tide tins/);
    expect(document.body.textContent).toContain('It was made by something else.');
  });
});

describe('the shelf', () => {
  it('keeps what is changed, and what is no number is refused in words and kept nowhere', async () => {
    const user = userEvent.setup();
    const gel = STARTER_SHELF.mediums.find(m => m.kind === 'soft gel')!;
    opened(`/w/mine/shelf?kind=mediums&item=${gel.id}`);
    const hand = await screen.findByLabelText('On hand, mL');
    await user.tripleClick(hand);
    await user.paste('5000000');
    expect((await screen.findByRole('alert')).textContent).toContain('From 0 to 100000. It stays');
    await waitFor(() =>
      expect(screen.getByRole('button', { name: 'Save the changes' }).hasAttribute('disabled')).toBe(true),
    );
    await user.clear(hand);
    await user.type(hand, '400');
    await user.click(screen.getByRole('button', { name: 'Save the changes' }));
    await screen.findByText(/is on the shelf/);
    expect((await mine.shelf()).shelf.mediums.find(m => m.id === gel.id)!.onHandMl).toBe(400);
  });
});

describe('the methods', () => {
  it('show a method as its steps, and a copy with an empty step is not kept', async () => {
    const user = userEvent.setup();
    const film = METHODS.find(m => m.id === 'film-pull')!;
    opened('/w/mine/methods?method=film-pull');
    const steps = await screen.findByRole('list', { name: `Steps of ${film.name}` });
    expect(steps.querySelectorAll('li')).toHaveLength(film.steps.length);
    await user.click(screen.getByRole('button', { name: 'Copy it and change the steps' }));
    await user.click(await screen.findByRole('button', { name: 'Add a step after “Mark it”' }));
    await user.clear(screen.getAllByLabelText('What to do')[1]);
    await user.click(screen.getByRole('button', { name: 'Keep this method' }));
    expect((await screen.findByRole('alert')).textContent).toContain('Step 2: Write something here.');
    expect(await mine.methods()).toEqual([]);
    for (const [field, words] of [
      ['What to do', 'Chill the board.'],
      ['What the button says', 'Chill it'],
    ]) {
      await user.click(screen.getAllByLabelText(field)[1]);
      await user.paste(words);
    }
    await user.click(screen.getByRole('button', { name: 'Keep this method' }));
    await waitFor(async () => expect(await mine.methods()).toHaveLength(1));
  });
});

describe('find', () => {
  it('finds a trial and a patch as one types, and says when there is nothing like it', async () => {
    const user = userEvent.setup();
    await mine.savePlan(plan);
    opened('/w/mine/find');
    const box = await screen.findByLabelText('Search the notebook');
    await user.type(box, plan.name.slice(0, 7));
    await screen.findAllByRole('link', { name: new RegExp(`^${plan.name}`) });
    await user.clear(box);
    await user.type(box, plan.patches[3].code);
    await screen.findByRole('link', { name: plan.patches[3].code });
    await user.clear(box);
    await user.type(box, 'zzzz');
    await screen.findByText(/Nothing like this is in the notebook/);
  });
});
