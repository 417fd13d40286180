import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { type PlanRequest, planTrial } from '../design/index.ts';
import { dryingHints, learntMediums } from '../drying/index.ts';
import { WEAR_TESTS } from '../factors/index.ts';
import { findMethod, METHODS, type Method, waitsForDrying } from '../methods/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { rulesFor, stopsFor } from '../rules/index.ts';
import { write } from '../say/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { chainOf } from '../steps/index.ts';
import { lookUp, settingsOf, type TrialPlan } from '../trial/index.ts';
import { DISAGREEMENTS, doesItLast, howLong, plainly, requestFor, settle, waysTo } from './index.ts';

const shelf = STARTER_SHELF;
const learnt = learntMediums(shelf.mediums, []);
const identity = { createdAt: '2026-05-02T08:00:00.000Z', random: () => 0.3 };
const asked = (name: string, made: ReturnType<typeof settle>, method: Method) => {
  if (!made.ok) throw new Error(`${name}: ${write(made.problem.say)}`);
  return [name, { ...made.value, name } as PlanRequest, method] as const;
};
/** Every plan that is ready made: each method’s wait, whether it lasts by each wear, and each disagreement. */
const READY = [
  ...METHODS.flatMap(m => [
    asked(`${m.id}, plainly`, plainly(m, shelf), m),
    ...(m.vary.includes('dryHours') ? [asked(`${m.id}, its wait`, howLong(m, shelf), m)] : []),
    ...WEAR_TESTS.map(w => asked(`${m.id}, ${w}`, doesItLast(m, shelf, [w]), m)),
  ]),
  ...DISAGREEMENTS.map(d => asked(d.id, settle(d.id, shelf), findMethod(d.method)!)),
];
const planOf = (request: PlanRequest): TrialPlan => {
  const made = planTrial(request, shelf, identity);
  if (!made.ok) throw new Error(`${request.name}: ${write(made.problem.say)}`);
  return made.value;
};
const judged = (plan: TrialPlan, request: PlanRequest, patch: TrialPlan['patches'][number]) =>
  rulesFor({
    settings: settingsOf(plan, patch),
    method: settingsOf(plan, patch).method,
    ...{ air: plan.air, patchMm: request.patchMm, wear: plan.wear },
  });

/** What a row of the handbook calls what a plan takes. */
const IN_WORDS: Readonly<Record<string, RegExp>> = {
  toner: /toner/,
  'pigment ink': /inkjet|print/,
  'dye ink': /inkjet(?! \(dye fails\))/,
  'stamp ink': /stamp/,
  carbon: /carbon/,
  'plain paper': /plain paper|cheap thin paper/,
  'smooth heavy paper': /smooth heavy paper/,
  'waxy backing': /waxy/,
  'clear film': /clear film/,
  'decal film': /decal film/,
  'iron-on sheet, light goods': /iron-on sheet/,
  'release sheet': /release sheet/,
  'tracing or tissue paper': /tissue paper/,
  'quick-release paper': /quick-release paper/,
  'dissolving paper': /cellulose paper/,
  'carbon sheet': /carbon sheet/,
};
const ROWS = new Map(
  readFileSync(new URL('../../../docs/HANDBOOK.md', import.meta.url), 'utf8')
    .split('\n')
    .flatMap(line => {
      const cells = line.split('|').map(c => c.trim());
      return /^\d+$/.test(cells[1] ?? '')
        ? [[cells[2], { colourant: cells[3], donor: cells[4] }] as const]
        : [];
    }),
);

describe('every ready-made plan', () => {
  it('is one of many, each method with a row in the handbook', () => {
    expect(READY.length).toBeGreaterThan(150);
    for (const m of METHODS) expect([...ROWS.keys()], m.id).toContain(m.name);
  });

  it.each(READY)('%s: no rule stops any patch of it, but what it sets aside to see', (_, request) => {
    const plan = planOf(request);
    expect(plan.design.leftOut).toEqual([]);
    for (const patch of plan.patches) {
      const stops = judged(plan, request, patch).filter(r => r.severity === 'stop');
      expect(stops.map(r => r.id).filter(id => !request.overrides.includes(id))).toEqual([]);
    }
  });

  it.each(READY)(
    '%s: a coat dries as long as the hint says, and where it does not it says “careful”',
    (_, request) => {
      const plan = planOf(request);
      const compared = request.factors.some(f => f.key === 'dryHours');
      const hints = dryingHints(plan, learnt);
      for (const patch of plan.patches) {
        const s = settingsOf(plan, patch);
        if (!waitsForDrying(s.method)) continue;
        const hint = hints.find(h => h.medium === s.medium.name);
        if (!hint) continue;
        const said = judged(plan, request, patch).some(r => r.id === 'too-early');
        if (s.dryHours < 0.75 * hint.hours[0]) expect(said, `${s.dryHours} h of ${hint.hours[0]}`).toBe(true);
        if (!compared) expect(said).toBe(false);
        if (s.dryHours >= hint.hours[1]) expect(said).toBe(false);
      }
    },
  );

  it.each(READY)(
    '%s: prints what its handbook row says, on such a sheet, where neither is compared',
    (_, request, method) => {
      const row = ROWS.get(method.name)!;
      const { printer, donor } = settingsOf(planOf(request), { levels: [] });
      const is = (key: string) => request.factors.some(f => f.key === key);
      const asides = request.overrides.length > 0;
      if (!is('printer') && !is('donor') && !asides) {
        expect(row.colourant).toMatch(IN_WORDS[printer.colourant]);
        expect(row.donor).toMatch(IN_WORDS[donor.kind]);
      }
    },
  );
});

describe('what is offered for a printer on a ground', () => {
  it.each(shelf.printers.map(p => [p.id]))('%s: is stopped nowhere and dries in time', printer => {
    for (const { id: substrate } of shelf.substrates)
      for (const { method, request } of waysTo({ printer, substrate }, shelf)) {
        if (!request) continue;
        const compared = request.factors.find(f => f.key === 'medium')?.levels ?? [request.usual.medium];
        for (const medium of compared) {
          const used = { ...shelf, method } as TrialPlan['used'];
          const settings = lookUp(used, { ...request.usual, medium: String(medium) });
          const context = { settings, method, air: request.air, patchMm: request.patchMm, wear: [] };
          const said = rulesFor(context).map(r => r.id);
          expect(stopsFor(context, []), `${method.id} on ${substrate}`).toEqual([]);
          expect(said, `${method.id} on ${substrate}, ${medium}`).not.toContain('too-early');
        }
      }
  });
});

describe('ready-made plans that were wrong', () => {
  it('paint off a gel plate stands out from its ground, which is coloured or primed first', () => {
    for (const [name, request] of READY.filter(([name]) => name.startsWith('gel-plate'))) {
      const plan = planOf(request);
      for (const patch of plan.patches) {
        const { medium, preparation } = settingsOf(plan, patch);
        expect([medium.driesClear, medium.paint === null, preparation.kind === 'none'], name).toEqual([
          false,
          false,
          false,
        ]);
        expect(chainOf(plan, patch).some(l => l.step.does === 'prepare')).toBe(true);
      }
    }
  });

  it('a skin is begun with days that a maker would say: what its slowest gel needs, and half of it', () => {
    const skin = plainly(findMethod('gel-skin')!, shelf);
    expect(skin.ok && skin.value.factors.find(f => f.key === 'dryHours')?.levels).toEqual([96, 192]);
  });

  it('a mist is misted and a gel is brushed', () => {
    const bloom = findMethod('solvent-bloom')!;
    const first = requestFor(bloom, shelf);
    if (!first.ok) throw new ProblemError(first.problem);
    const gel = shelf.mediums.find(m => m.kind === 'film gel')!.id;
    const coatOf = (medium: string) => {
      const factors = [{ key: 'coatMm', levels: [0.1, 0.2] }] as const;
      const usual = { ...first.value.usual, medium };
      const plan = planOf({ ...first.value, name: 'x', usual, factors: factors as never });
      return chainOf(plan, plan.patches[0]).find(l => l.step.does === 'coat')!.step;
    };
    expect(coatOf(first.value.usual.medium)).toMatchObject({ action: 'Mist it', done: 'Misted' });
    expect(coatOf(gel)).toMatchObject({ action: 'Brush the gel on', done: 'Gel on' });
    expect(coatOf(gel).instruction).not.toMatch(/mist/i);
  });
});
