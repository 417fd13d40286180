import { describe, expect, it } from 'vitest';
import { examplePlan } from '../../core/design/example.ts';
import { planTrial } from '../../core/design/index.ts';
import { copyMethod, METHODS } from '../../core/methods/index.ts';
import { ProblemError } from '../../core/outcome/index.ts';
import { write } from '../../core/say/index.ts';
import { STARTER_SHELF } from '../../core/shelf/index.ts';
import { layoutOf, nearest } from '../board/geometry.ts';
import { requestFrom } from './from.ts';

const identity = { createdAt: '2026-05-02T08:00:00.000Z', random: () => 0.5 };

describe('what an address starts a trial from', () => {
  it.each([
    ['settle:which-paper', 'wet-rub', 12],
    ['wait:film-pull', 'film-pull', 10],
    ['last:wet-rub:dry-rub+water', 'wet-rub', 12],
    ['way:quick-release:office-laser:white-tile', 'quick-release', 12],
    ['plain:wet-rub', 'wet-rub', 12],
  ])('%s is a plan by %s of %i patches', (from, method, patches) => {
    const request = requestFrom(from, STARTER_SHELF, []);
    if (!request.ok) throw new ProblemError(request.problem);
    expect(request.value.method).toBe(method);
    const plan = planTrial({ ...request.value, name: 'x' }, STARTER_SHELF, identity);
    expect(plan.ok && plan.value.patches.length).toBe(patches);
  });

  it.each(METHODS.map(m => [m.id]))('plain:%s can be laid out as it is', id => {
    const request = requestFrom(`plain:${id}`, STARTER_SHELF, []);
    if (!request.ok) throw new ProblemError(request.problem);
    const plan = planTrial({ ...request.value, name: 'x' }, STARTER_SHELF, identity);
    if (!plan.ok) throw new Error(`${write(plan.problem.say)} ${write(plan.problem.wayOut ?? '')}`);
    expect(plan.value.patches.length).toBeGreaterThanOrEqual(4);
  });

  it('knows the maker’s own methods, and says so of strangers', () => {
    const own = copyMethod(METHODS[0], []);
    const mine = requestFrom(`plain:${own.id}`, STARTER_SHELF, [own]);
    expect(mine.ok && mine.value.method).toBe(own.id);
    for (const from of ['plain:sea-magic', 'wait:', 'settle:nothing', 'way:film-pull:office-laser:birch-ply'])
      expect(requestFrom(from, STARTER_SHELF, []).ok).toBe(false);
  });

  it('passes over wear tests that do not exist', () => {
    const request = requestFrom('last:wet-rub:dry-rub+shark', STARTER_SHELF, []);
    expect(request.ok && request.value.wear).toEqual(['dry-rub']);
  });
});

describe('the drawing of boards', () => {
  const plan = examplePlan({ repeats: 4 });
  const layout = layoutOf(plan);

  it('puts no board over another and every patch on its own', () => {
    const [a, b] = [layout.at(0), layout.at(1)];
    expect(Math.abs(a.x - b.x) >= plan.board.w || Math.abs(a.y - b.y) >= plan.board.h).toBe(true);
    for (const p of plan.patches) {
      const { x, y } = layout.of(p);
      expect(layout.boardAt(x + 20, y + 20)).toBe(p.board);
      expect(x + plan.patchMm).toBeLessThanOrEqual(layout.width);
      expect(y + plan.patchMm).toBeLessThanOrEqual(layout.height);
    }
    expect(layout.boardAt(-5, -5)).toBeUndefined();
  });

  it('goes to the neighbour that lies that way, or nowhere', () => {
    const one = examplePlan();
    const flat = layoutOf(one);
    const corner = one.patches.reduce((best, p) => (p.x + p.y < best.x + best.y ? p : best));
    const right = nearest(one.patches, corner, 1, 0, flat.of)!;
    expect([right.x - corner.x, right.y - corner.y]).toEqual([50, 0]);
    expect(nearest(one.patches, corner, -1, 0, flat.of)).toBeUndefined();
    expect(nearest(one.patches, corner, 0, -1, flat.of)).toBeUndefined();
  });
});
