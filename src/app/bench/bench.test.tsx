// @vitest-environment happy-dom
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { jpegOf } from '../../core/bundle/example.ts';
import { examplePlan } from '../../core/design/example.ts';
import type { TrialRecord } from '../../core/trial/index.ts';
import { StorageError, setAtHand, workshopOf } from '../../store/index.ts';
import { opened } from '../testing/opened.tsx';

const plan = examplePlan();
const mine = workshopOf('mine');
const [one, two] = [...plan.patches].sort((x, y) => x.order - y.order);
const page = `/w/mine/t/${plan.id}/bench`;
const button = (name: string | RegExp) => screen.findByRole('button', { name });
const title = () => screen.findByRole('heading', { level: 1 });
const kept = async <K extends TrialRecord['kind']>(kind: K) =>
  (await mine.records(plan.id)).records.filter(
    (r): r is Extract<TrialRecord, { kind: K }> => r.kind === kind,
  );
const ago = (min: number) => new Date(Date.now() - min * 60_000).toISOString();
/** The air was noted and everything marked a while ago: the first is to be coated. */
const ready: TrialRecord[] = [
  { id: 'air0', at: ago(31), kind: 'air', patch: null, air: plan.air },
  ...plan.patches.map(
    (p, i): TrialRecord => ({
      ...{ id: `m${i}`, at: ago(30), kind: 'step', patch: p.code, step: 'mark', round: 1 },
    }),
  ),
];
const coated = ({ code }: { readonly code: string }) => new RegExp(`^Coated\\s*${code}`);
/** Presses the control as long as it takes to be heard: what has just come up is read first, and all trials have to be known. */
const press = async (
  user: ReturnType<typeof userEvent.setup>,
  control: RegExp,
  until: () => Promise<unknown> | unknown,
) => {
  await button(control);
  await waitFor(async () => {
    const there = screen.queryByRole('button', { name: control });
    if (there) await user.click(there);
    await new Promise(resolve => setTimeout(resolve, 500));
    await until();
  });
};

afterEach(() => void vi.restoreAllMocks());

beforeEach(async () => {
  await mine.wipe();
  await mine.savePlan(plan);
  setAtHand('mine', undefined);
});

describe('the set-up of the bench', () => {
  it('notes the air that was set, in large steps, and then the work stands there', async () => {
    const user = userEvent.setup();
    opened(page);
    expect((await title()).textContent).toBe('Before you begin');
    await user.click(await button('Humidity higher'));
    await user.click(await button('Room lower'));
    await user.click(await button('Window open, gloves on'));
    await waitFor(async () => expect((await title()).textContent).toMatch(/^Mark it/));
    expect(await kept('air')).toMatchObject([{ air: { tempC: plan.air.tempC - 1, rh: plan.air.rh + 5 } }]);
    expect((await kept('air'))[0].source).toBeUndefined();
  });

  it('takes the air of a logger’s file, and says of one that is none what it lacks', async () => {
    const user = userEvent.setup();
    opened(page);
    const log = await screen.findByTestId('air-log');
    const file = (text: string) => new File([text], 'shed.csv', { type: 'text/csv' });
    await user.upload(log, file('a,b\n1,2'));
    await screen.findByText(/no columns named temperature and humidity/);
    const rows = [
      'Time;Temperature °C;Humidity %',
      '2026-05-02T10:00:00Z;15,5;71',
      '2026-05-02T10:30:00Z;16,5;73',
    ];
    await user.upload(log, file(rows.join('\n')));
    await screen.findByText('16 °C');
    await user.click(await button('Window open, gloves on'));
    await waitFor(async () =>
      expect(await kept('air')).toMatchObject([{ air: { tempC: 16, rh: 72 }, source: 'logger' }]),
    );
  });

  it('says of made-up air that it is made up', async () => {
    const user = userEvent.setup();
    opened(page);
    await user.click(await button('Simulated hygrometer'));
    await screen.findByText(/^Simulated: a made-up reading/);
    await user.click(await button('Window open, gloves on'));
    await waitFor(async () => expect(await kept('air')).toMatchObject([{ source: 'simulated' }]));
  });
});

describe('at the bench', () => {
  beforeEach(() => mine.append(plan.id, ready));

  it('one press records the step that stands there, one takes it back', async () => {
    const user = userEvent.setup();
    opened(page);
    await waitFor(async () => expect((await title()).textContent).toBe('Coat it'));
    await press(user, coated(one), () => screen.getByRole('heading', { level: 1, name: 'Place the print' }));
    expect((await kept('step')).at(-1)).toMatchObject({ patch: one.code, step: 'coat', round: 1 });
    await user.click(await button(/^Undo: /));
    await waitFor(async () => expect((await title()).textContent).toBe('Coat it'));
    expect(await kept('undo')).toMatchObject([{ patch: one.code, of: (await kept('step')).at(-1)!.id }]);
  });

  it('what could not be written is not shown as done, and says so; the next press counts', async () => {
    const user = userEvent.setup();
    const full = vi
      .spyOn(mine, 'append')
      .mockRejectedValue(new StorageError({ code: 'storage-full', say: 'There is no room left.' }));
    opened(page);
    await press(user, coated(one), () => screen.getByText(/That was not saved. There is no room left/));
    expect((await title()).textContent).toBe('Coat it');
    full.mockRestore();
    await press(user, coated(one), () => screen.getByRole('heading', { level: 1, name: 'Place the print' }));
    expect((await kept('step')).filter(s => s.step === 'coat')).toHaveLength(1);
  });

  it('a note is written with letters that are keys elsewhere, and kept with its piece', async () => {
    const user = userEvent.setup();
    opened(page);
    await button(coated(one));
    await user.keyboard('n');
    await user.type(
      await screen.findByRole('textbox', { name: `Note about ${one.code}` }),
      'sun on it u x{Enter}',
    );
    await waitFor(async () =>
      expect(await kept('note')).toMatchObject([{ patch: one.code, text: 'sun on it u x' }]),
    );
    expect(await kept('undo')).toEqual([]);
    expect((await title()).textContent).toBe('Coat it');
  });

  it('a piece is written off as failed or as a slip of the hand, as its words say', async () => {
    const user = userEvent.setup();
    opened(page);
    await button(coated(one));
    await user.keyboard('x');
    await user.click(await button('It slipped from me'));
    await waitFor(async () =>
      expect(await kept('spoilt')).toMatchObject([
        { patch: one.code, why: 'It slipped from me', slip: true },
      ]),
    );
    await button(coated(two));
    await user.keyboard('x');
    await user.click(await button('It tore'));
    await waitFor(async () =>
      expect((await kept('spoilt'))[1]).toMatchObject({ patch: two.code, slip: false }),
    );
  });

  it('a step told late is kept at its time; what would be before the step before it cannot be', async () => {
    const user = userEvent.setup();
    opened(page);
    await button(coated(one));
    await user.keyboard('l');
    await screen.findByText(/how long ago/);
    expect(screen.getByRole('button', { name: '1 h ago' }).hasAttribute('disabled')).toBe(true);
    await user.click(screen.getByRole('button', { name: '10 min ago' }));
    await waitFor(async () => expect((await kept('step')).at(-1)!.step).toBe('coat'));
    const { at, told } = (await kept('step')).at(-1)!;
    expect(Date.parse(told!) - Date.parse(at)).toBe(600_000);
  });

  it('a step that is left out, and the weight of a coat, are kept as that', async () => {
    const user = userEvent.setup();
    opened(page);
    await button(coated(one));
    await user.click(await button('Skip'));
    await user.click(await button('Leave it out'));
    await waitFor(async () =>
      expect((await kept('step')).at(-1)).toMatchObject({ step: 'coat', skipped: true }),
    );
    await user.click(await button('Weigh the coat'));
    await user.click(await button('Simulated scale'));
    await user.click(await button('Keep weight'));
    await waitFor(async () => expect(await kept('coat')).toMatchObject([{ source: 'simulated' }]));
  });

  it('a photo of now goes to the piece, and the hands stay at it', async () => {
    const user = userEvent.setup();
    opened(page);
    await button(coated(one));
    await user.keyboard('p');
    const photo = new File([jpegOf(1)], 'now.jpg', { type: 'image/jpeg' });
    await user.upload(await screen.findByTestId('bench-photo'), photo);
    await waitFor(async () =>
      expect(await kept('photo')).toMatchObject([{ patch: one.code, name: 'now.jpg' }]),
    );
    expect((await title()).textContent).toBe('Coat it');
  });

  it('“not now” brings another piece, and it comes again after', async () => {
    const user = userEvent.setup();
    opened(page);
    await button(coated(one));
    await user.keyboard('d');
    await button(coated(two));
  });

  it('after half a day away the set-up comes again', async () => {
    await mine.wipe();
    await mine.savePlan(plan);
    await mine.append(
      plan.id,
      ready.map(r => ({ ...r, at: new Date(Date.parse(r.at) - 13 * 3_600_000).toISOString() })),
    );
    opened(page);
    expect((await title()).textContent).toBe('Before you begin');
  });
});

describe('a bench that is not there', () => {
  it('says that the trial is not in this workshop', async () => {
    opened('/w/mine/t/NOTHING/bench');
    expect((await title()).textContent).toBe('This trial is not in this workshop');
  });
});
