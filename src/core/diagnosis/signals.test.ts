import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { planTrial } from '../design/index.ts';
import { findMethod } from '../methods/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { requestFor } from '../questions/index.ts';
import { write } from '../say/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { openMinutes } from '../steps/index.ts';
import { readingFor } from '../trial/example.ts';
import { type BarePatch, type Patch, settingsOf, type TrialPlan, type TrialRecord } from '../trial/index.ts';
import { coatFactor, dryingFactor } from '../units/index.ts';
import { type Cause, explain, inQuestion, isTroubled, signalsOf, weigh } from './index.ts';
import { saidOf } from './signals.ts';

const plan = examplePlan();
const [patch] = plan.patches;
const T0 = Date.parse('2026-05-02T09:00:00Z');
let count = 0;
const step = (name: string, minute: number, round = 1, code = patch.code): TrialRecord => ({
  id: `s${++count}`,
  at: new Date(T0 + minute * 60_000).toISOString(),
  kind: 'step',
  patch: code,
  step: name,
  round,
});

/** The plan with its first medium, substrate, preparation or finish changed for the patch in question. */
function withUsed<K extends 'mediums' | 'substrates' | 'preparations' | 'finishes'>(
  kind: K,
  part: Partial<TrialPlan['used'][K][number]>,
): TrialPlan {
  return { ...plan, used: { ...plan.used, [kind]: plan.used[kind].map(item => ({ ...item, ...part })) } };
}

describe('signals from what was chosen', () => {
  it('reckon thirst and gloss as the ground’s times the preparation’s, and the ground’s light under a white coat', () => {
    const both = withUsed('substrates', { thirst: 0.8, gloss: 0.5, colour: [0.2, 0.4, 0.1] });
    const made = {
      ...both,
      used: {
        ...both.used,
        preparations: both.used.preparations.map(p => ({
          ...p,
          thirstTimes: 0.5,
          glossTimes: 0.2,
          whitens: 0.25,
        })),
      },
    };
    const s = signalsOf(made, patch, []);
    expect(s.thirst).toBeCloseTo(0.4, 12);
    expect(s.gloss).toBeCloseTo(0.1, 12);
    expect(s.groundLight).toBeCloseTo(0.4 * 0.75 + 0.88 * 0.25, 12);
  });

  it('are of the ground as it came where preparing it was left out', () => {
    const made = withUsed('preparations', {
      kind: 'wash and iron',
      thirstTimes: 0.5,
      glossTimes: 0.2,
      whitens: 0.25,
    });
    const { thirst, gloss, colour } = settingsOf(made, patch).substrate;
    const of = (records: readonly TrialRecord[]) => {
      const s = signalsOf(made, patch, records);
      return [s.washedGround, s.thirst, s.gloss, s.groundLight];
    };
    const light = colour[1] * 0.75 + 0.88 * 0.25;
    expect(of([step('prepare', 0)])).toEqual([1, thirst * 0.5, gloss * 0.2, light]);
    const leftOut = { ...step('prepare', 0), skipped: true } as TrialRecord;
    expect(of([leftOut])).toEqual([0, thirst, gloss, colour[1]]);
  });

  it('measure a coat against what is usual in its method', () => {
    const { coatMm } = settingsOf(plan, patch);
    const s = signalsOf(plan, patch, []);
    expect([s.coatMm, s.coatRatio]).toEqual([coatMm, coatMm / plan.used.method.usual.coatMm]);
  });

  it('know what is brushed, what is tape, what is solvent, and what is nothing', () => {
    const of = (kind: 'soft gel' | 'packing tape' | 'rubbing alcohol' | 'wax' | 'none') => {
      const s = signalsOf(withUsed('mediums', { kind }), patch, []);
      return [s.brushed, s.folds, s.solvent, s.medium, s.coatMm === undefined ? 0 : 1];
    };
    expect(of('soft gel')).toEqual([1, 0, 0, 1, 1]);
    expect(of('packing tape')).toEqual([0, 1, 0, 1, 0]);
    expect(of('rubbing alcohol')).toEqual([0, 0, 1, 1, 0]);
    expect(of('wax')).toEqual([0, 0, 0, 1, 0]);
    expect(of('none')).toEqual([0, 0, 0, 0, 0]);
  });

  it('tell how a method takes the paper off, and whether heat or water is used', () => {
    const by = (part: Partial<TrialPlan['used']['method']>) => {
      const method = { ...plan.used.method, ...part };
      const s = signalsOf({ ...plan, used: { ...plan.used, method } }, patch, []);
      return [s.removed, s.pulled, s.usesHeat, s.usesWater];
    };
    expect(by({})).toEqual([1, 0, 0, 1]);
    expect(by({ removal: 'none' })).toEqual([0, 0, 0, 1]);
    expect(by({ removal: 'pull', usesHeat: true, usesWater: false })).toEqual([1, 1, 1, 0]);
  });

  it('count clear coats, at least one where there is any', () => {
    const coats = (part: object) => {
      const finish = {
        ...STARTER_SHELF.finishes[0],
        id: 'f',
        ...part,
      } as TrialPlan['used']['finishes'][number];
      const own = {
        ...plan,
        usual: { ...plan.usual, finish: 'f' },
        used: { ...plan.used, finishes: [finish] },
      };
      return signalsOf(own, patch, []).clearCoats;
    };
    expect(coats({ kind: 'varnish', coats: 3 })).toBe(3);
    expect(coats({ kind: 'spray clear', coats: 0 })).toBe(1);
    expect(coats({ kind: 'clear wax', coats: 3 })).toBe(0);
    expect(signalsOf(plan, patch, []).clearCoats).toBe(0);
  });
});

describe('signals from when it was done', () => {
  const s = settingsOf(plan, patch);
  const whole = [step('mark', 0), step('coat', 1), step('place', 4), step('wet', 304), step('rub', 309)];

  it('are the coat’s drying over its need in this air and thickness, and the minutes it was wet', () => {
    const signals = signalsOf(plan, patch, whole);
    const need = s.medium.dryHours * dryingFactor(plan.air) * coatFactor(s.coatMm);
    expect(signals.dryRatio).toBeCloseTo(5 / need, 10);
    expect(signals.wetMin).toBeCloseTo(5, 10);
    // With the drying known the wait itself says nothing more.
    expect(signals.waitRatio).toBeUndefined();
  });

  it('are not there while a step is missing', () => {
    const upTo = (n: number) => signalsOf(plan, patch, whole.slice(0, n));
    expect(upTo(4).wetMin).toBeUndefined();
    expect(upTo(3).dryRatio).toBeUndefined();
    expect(upTo(2).lateRatio).toBeUndefined();
    expect(
      signalsOf(
        plan,
        patch,
        whole.filter((_, i) => i !== 2),
      ).dryRatio,
    ).toBeUndefined();
    expect(
      signalsOf(
        plan,
        patch,
        whole.filter((_, i) => i !== 3),
      ).wetMin,
    ).toBeUndefined();
    expect(upTo(0)).not.toHaveProperty('rounds');
  });

  it('count how late it was placed from the end of the coat to the begin of placing', () => {
    const handsOn = plan.used.method.steps.find(x => x.id === 'place')!.handsOnMin;
    expect(signalsOf(plan, patch, whole).lateRatio).toBeCloseTo((3 - handsOn) / openMinutes(s, plan.air), 10);
    const atOnce = [step('mark', 0), step('coat', 1), step('place', 1.2)];
    expect(signalsOf(plan, patch, atOnce).lateRatio).toBe(0);
  });

  it('count the rounds that were rubbed, and no other step', () => {
    expect(signalsOf(plan, patch, whole).rounds).toBe(1);
    const twice = [...whole, step('look', 400), step('wet', 401, 2), step('rub', 405, 2)];
    expect(signalsOf(plan, patch, twice).rounds).toBe(2);
  });

  it('keep the worst of short waits as a share of their longest, and long ones not at all', () => {
    const wet = plan.used.method.steps.find(x => x.id === 'wet')!;
    const rub = plan.used.method.steps.find(x => x.id === 'rub')!.handsOnMin;
    const most = wet.wait.kind === 'fixed' ? wet.wait.max : 0;
    expect(signalsOf(plan, patch, whole).shortLate).toBeCloseTo((5 - rub) / most, 10);
    const late = [...whole, step('look', 400), step('wet', 401, 2), step('rub', 421, 2)];
    expect(signalsOf(plan, patch, late).shortLate).toBeCloseTo((20 - rub) / most, 10);
  });

  it('know how soon a finish was coated again, and when a wash came after it was made', () => {
    const asks = requestFor(findMethod('tissue-embed')!, STARTER_SHELF);
    if (!asks.ok) throw new ProblemError(asks.problem);
    const finish = STARTER_SHELF.finishes.find(f => f.coats > 1 && f.waitHours > 0)!;
    const made = planTrial(
      {
        ...asks.value,
        name: 'Tissue',
        usual: { ...asks.value.usual, finish: finish.id },
        factors: [{ key: 'dryHours', levels: [0.5, 1] }],
      },
      STARTER_SHELF,
      { createdAt: '2026-05-02T08:00:00.000Z', random: () => 0.4 },
    );
    if (!made.ok) throw new ProblemError(made.problem);
    const own: TrialPlan = { ...made.value, wear: ['wash'] };
    const [first] = own.patches;
    const at = (name: string, minute: number, round = 1) => step(name, minute, round, first.code);
    const before = ['mark', 'coat', 'place', 'first-clear'].map((name, i) => at(name, i));
    const again = (minutes: number) =>
      signalsOf(own, first, [...before, at('finish', 60), at('finish', 60 + minutes, 2)]).recoatRatio;
    const wait = finish.waitHours * 60 * dryingFactor(own.air);
    expect(again(wait)).toBeCloseTo(1, 6);
    expect(again(wait / 4)!).toBeLessThan(0.3);
    const chain = [...before, at('finish', 60), at('finish', 60 + wait, 2)];
    expect(signalsOf(own, first, chain)).not.toHaveProperty('washHours');
    const looked = [
      ...chain,
      ...Array.from({ length: 6 }, (_, i) => at('finish', 600 + i, i + 3)),
      at('look', 1000),
    ];
    const washed = signalsOf(own, first, [...looked, at('wear-wash', 60 + wait + 48 * 60)]).washHours;
    // It cures from its last coat on, not from when it was looked at.
    expect(washed).toBeCloseTo(48, 6);
  });
});

describe('signals from a reading', () => {
  const bare = (shape: BarePatch['shape'], area: number, along = 0): BarePatch => ({
    x: 1,
    y: 1,
    area,
    shape,
    edge: 5,
    along,
  });
  const of = (
    part: Parameters<typeof readingFor>[2],
    stage: 'wet' | 'dry' = 'dry',
    more: TrialRecord[] = [],
  ) => signalsOf(plan, patch as Patch, [...more, ...readingFor(patch.code, 5, part, stage)]);

  it('share the bare area out by shape', () => {
    const s = of({ bare: [bare('ragged', 50), bare('round', 30), bare('streak', 15), bare('corner', 5)] });
    expect([s.raggedShare, s.roundShare, s.streakShare, s.cornerShare, s.edgeShare]).toEqual([
      0.5, 0.3, 0.15, 0.05, 0,
    ]);
    expect([s.bareCount, s.largestBareMm2]).toEqual([4, 50]);
    const none = of({ bare: [] });
    expect([none.roundShare, none.largestBareMm2, none.bareCount]).toEqual([0, 0, 0]);
    expect(none).not.toHaveProperty('streakLevel');
  });

  it('tell which way streaks run: level ones lie within 25° of the x axis, from either side', () => {
    const level = (...along: number[]) => of({ bare: along.map(a => bare('streak', 3, a)) }).streakLevel;
    expect(level(0)).toBe(1);
    expect(level(24.9, 155.1)).toBe(1);
    expect(level(25, 155)).toBe(0);
    expect(level(90, 10)).toBe(0.5);
  });

  it('say how much more is lost at the worst edge, and in the lights', () => {
    const s = of({
      landed: 80,
      edges: { top: 80, right: 50, bottom: 80, left: 70 },
      landedByTone: { light: 40, mid: 60, dark: 95 },
    });
    expect(s.edgeLoss).toBeCloseTo(0.5 - 0.2, 12);
    expect(s.lightLoss).toBeCloseTo(0.55, 12);
    expect(of({ landed: null })).not.toHaveProperty('edgeLoss');
    expect(of({ landedByTone: { light: null, mid: 60, dark: 95 } })).not.toHaveProperty('lightLoss');
    expect(of({ landedByTone: { light: 40, mid: 60, dark: null } })).not.toHaveProperty('lightLoss');
  });

  it('know a wet photo, a picture that is backwards, and what a round took off', () => {
    expect([of({}).judgedWet, of({}, 'wet').judgedWet]).toEqual([0, 1]);
    expect([of({}).mirrored, of({ mirrored: true }).mirrored]).toEqual([0, 1]);
    const earlier = readingFor(patch.code, 1, { veil: 0.4 });
    expect(of({ veil: 0.1 }, 'dry', earlier).veilDrop).toBeCloseTo(0.3, 12);
    expect(of({ veil: 0.1 })).not.toHaveProperty('veilDrop');
    expect(of({ veil: 0.1 }, 'dry', readingFor(patch.code, 1, { veil: null }))).not.toHaveProperty(
      'veilDrop',
    );
    expect(of({ veil: null }, 'dry', earlier)).not.toHaveProperty('veilDrop');
  });
});

describe('weighing a cause', () => {
  const cause: Cause = {
    id: 'made-up',
    name: 'Made up',
    prior: -1,
    only: [{ signal: 'gsm', above: 60, below: 120 }],
    evidence: [
      { signal: 'veil', above: 0.2, below: 0.5, weight: 2, say: 'Veil {}.' },
      { signal: 'stain', below: 0.1, weight: -3, say: 'Stain {}.' },
      { signal: 'tone', above: 5, weight: 1, say: 'Tone {}.' },
    ],
    check: '',
    rescue: '',
    prevent: '',
  };

  it('takes what lies above and below, and not what lies on the line or is not known', () => {
    const met = (signals: object) => weigh(cause, signals).met.map(m => m.weight);
    expect(met({ veil: 0.3, stain: 0.05, tone: 6 })).toEqual([2, -3, 1]);
    expect(met({ veil: 0.2, stain: 0.1, tone: 5 })).toEqual([]);
    expect(met({ veil: 0.5 })).toEqual([]);
    expect(met({})).toEqual([]);
    expect(weigh(cause, { veil: 0.3, tone: 6 }).logOdds).toBe(2);
  });

  it('asks only where its gates are open, on neither of their lines', () => {
    for (const [gsm, open] of [
      [61, true],
      [60, false],
      [120, false],
      [119, true],
    ] as const)
      expect(inQuestion(cause, { gsm }), String(gsm)).toBe(open);
    expect(inQuestion(cause, {})).toBe(false);
    expect(inQuestion({ ...cause, only: undefined }, {})).toBe(true);
  });

  it('writes bare numbers as long as they tell something', () => {
    const ratio = { signal: 'waitRatio', above: 0, weight: 1, say: 'Ratio {}.' } as const;
    const told = (waitRatio: number) =>
      write(weigh({ ...cause, evidence: [ratio] }, { waitRatio }).met[0].say);
    expect([0.046, 0.996, 1, 5.04, 9.99, 10, 123.4].map(told)).toEqual([
      ...['Ratio 0.05.', 'Ratio 1.00.', 'Ratio 1.0.', 'Ratio 5.0.', 'Ratio 10.0.', 'Ratio 10.', 'Ratio 123.'],
    ]);
  });

  it.each([
    ['tone', 6.04, 'ΔE 6.0'],
    ['laterBetter', 0.54, '54 %'],
    ['earlierBetter', 0.086, '9 %'],
    ['veil', 0.128, '0.13'],
    ['veilDrop', 0.05, '0.05'],
    ['stain', 0.046, '5 %'],
    ['pale', 0.7, '70 %'],
    ['smear', 0.301, '0.30 mm'],
    ['coatMm', 0.2, '0.2 mm'],
    ['largestBareMm2', 128.7, '129 mm²'],
    ['gsm', 120, '120 g'],
    ['wetMin', 12, '12 min'],
    ['washHours', 30, '30 h'],
    ['roundDryH', 0.25, '15 min'],
    ['rounds', 1, '1 round'],
    ['bareCount', 14, '14'],
  ] as const)('says %s of %s as what it is: %s', (signal, value, read) =>
    expect(write(saidOf(signal, value))).toBe(read),
  );

  it('knows trouble from its first trace on', () => {
    expect([0.04, 0.041].map(bareShare => isTroubled({ bareShare }))).toEqual([false, true]);
    expect([0.08, 0.081].map(veil => isTroubled({ veil }))).toEqual([false, true]);
    expect([
      isTroubled({ mirrored: 0 }),
      isTroubled({ mirrored: 1 }),
      isTroubled({ 'symptom:veil': 1 }),
    ]).toEqual([false, true, true]);
  });

  it('gives causes by how likely they are, the strongest evidence first, nothing without any for it', () => {
    const bare = [
      { x: 1, y: 1, area: 80, shape: 'round', edge: 5, along: 0 },
      { x: 9, y: 9, area: 60, shape: 'ragged', edge: 5, along: 0 },
      { x: 20, y: 1, area: 60, shape: 'streak', edge: 5, along: 3 },
    ] as const;
    const records = readingFor(patch.code, 1, { landed: 60, veil: 0.4, stain: 8, bare: [...bare] });
    const all = explain(plan, patch, records);
    expect(all.length).toBeGreaterThan(2);
    const falls = (values: readonly number[]) => values.every((v, i) => i === 0 || values[i - 1] >= v);
    expect(falls(all.map(e => e.likely))).toBe(true);
    for (const e of all) {
      expect(e.for.length).toBeGreaterThan(0);
      expect(falls(e.for.map(m => m.weight))).toBe(true);
      expect(falls(e.against.map(m => -m.weight))).toBe(true);
      expect(e.for.every(m => m.weight > 0) && e.against.every(m => m.weight < 0)).toBe(true);
      expect(e.likely).toBeGreaterThan(0.02);
    }
    for (const e of all) expect(e.likely).toBeLessThan(1);
    expect(all.some(e => e.for.length > 1)).toBe(true);
  });
});
