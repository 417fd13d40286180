import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { write } from '../say/index.ts';
import { readingFor } from '../trial/example.ts';
import type { TrialRecord } from '../trial/index.ts';
import { arranged, hungIn, pathTo, wallOf } from './index.ts';

const plan = examplePlan();
const straightened = (records: TrialRecord[], straight: string | null): TrialRecord[] =>
  records.map(r => (r.kind === 'reading' ? { ...r, straight } : r));
const records = plan.patches.flatMap((p, i) =>
  straightened(
    readingFor(p.code, i, { landed: 50 + 3 * ((i * 5) % 12), veil: i === 3 ? null : 0.3 - 0.02 * i }),
    `s${i}`,
  ),
);

describe('single patches of any trials', () => {
  const [a, b, c] = plan.patches.map(p => p.code);
  const there = (...patches: { trial: string; code: string }[]) =>
    hungIn(new URL(pathTo(patches), 'http://localhost/w/mine/').searchParams);

  it('hang by their address, a trial that is asked for as a whole as a whole', () => {
    const { trials, only } = there(
      { trial: plan.id, code: b },
      { trial: 'OTHER', code: 'X1-2AB' },
      { trial: plan.id, code: a },
    );
    expect(trials).toEqual([plan.id, 'OTHER']);
    expect(wallOf([{ plan, records }], only).map(p => p.code)).toEqual([a, b]);
    const both = hungIn(
      new URLSearchParams(`trial=${plan.id}&patch=${plan.id}/${c}&patch=nonsense&patch=/x`),
    );
    expect([both.trials, both.only.size]).toEqual([[plan.id], 0]);
    expect(wallOf([{ plan, records }], both.only)).toHaveLength(12);
  });
});

describe('the wall', () => {
  it('holds every reading with a straightened photo, and none without', () => {
    const wall = wallOf([{ plan, records }]);
    expect(wall).toHaveLength(12);
    expect(wall[0]).toMatchObject({
      code: plan.patches[0].code,
      stage: 'Dry, after round 2',
      isSimulated: true,
    });
    expect(wall[0].size).toEqual({ w: plan.patchMm, h: plan.patchMm });
    const bare = records.map(r => (r.kind === 'reading' ? { ...r, straight: null } : r));
    expect(wallOf([{ plan, records: bare }])).toEqual([]);
  });

  it('puts the best first by a measure, more or less being better, and those without it last', () => {
    const wall = wallOf([{ plan, records }]);
    const [landed] = arranged(wall, { group: '', order: 'landed', lastOnly: true });
    const values = landed.patches.map(p => p.values.landed!);
    expect(values).toEqual([...values].sort((a, b) => b - a));
    const [veil] = arranged(wall, { group: '', order: 'veil', lastOnly: true });
    const thin = veil.patches.map(p => p.values.veil);
    expect(thin.at(-1)).toBeNull();
    expect(thin.slice(0, -1)).toEqual([...(thin.slice(0, -1) as number[])].sort((a, b) => a - b));
  });

  it('has a group for each level, numbers in their order, and the first made first', () => {
    const wall = wallOf([{ plan, records }]);
    const groups = arranged(wall, { group: 'dryHours', order: 'order', lastOnly: true });
    expect(groups.map(g => g.name)).toEqual(['4 h', '20 h']);
    for (const { patches } of groups) {
      const order = patches.map(p => p.order);
      expect(order).toEqual([...order].sort((a, b) => a - b));
    }
    expect(write(arranged(wall, { group: 'donor', order: 'time', lastOnly: true })[0].name)).toBe('Without');
  });

  it('shows all readings of a patch or the last alone, and tells trials apart that have a code in common', () => {
    const again = straightened(readingFor(plan.patches[0].code, 40, { landed: 99, veil: 0.1 }), 's40');
    const wall = wallOf([{ plan, records: [...records, ...again] }]);
    expect(arranged(wall, { group: '', order: 'time', lastOnly: false })[0].patches).toHaveLength(13);
    const [last] = arranged(wall, { group: '', order: 'time', lastOnly: true });
    expect(last.patches).toHaveLength(12);
    expect(last.patches.find(p => p.code === plan.patches[0].code)!.values.landed).toBe(99);
    const other = { plan: { ...plan, id: 'other', name: 'Another' }, records };
    const both = arranged(wallOf([{ plan, records }, other]), {
      group: 'trial',
      order: 'time',
      lastOnly: true,
    });
    expect(both.map(g => [g.name, g.patches.length])).toEqual([
      ['Another', 12],
      [plan.name, 12],
    ]);
  });

  it('is grouped by stage and by verdict', () => {
    const judged: TrialRecord = {
      ...{ id: 'v', at: '2026-05-04T10:00:00.000Z', kind: 'verdict', patch: plan.patches[1].code },
      ...{ verdict: 'keep', grade: 5, symptoms: [] },
    };
    const wall = wallOf([{ plan, records: [...records, judged] }]);
    const names = (group: string) =>
      arranged(wall, { group, order: 'time', lastOnly: true }).map(g => g.name);
    expect(names('verdict')).toEqual(['Keep', 'Not judged']);
    expect(names('stage')).toEqual(['Dry, after round 2']);
  });
});
