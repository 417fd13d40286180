import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { planTrial } from '../design/index.ts';
import { METHODS } from '../methods/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { patchStatus, progressOf } from '../progress/index.ts';
import { howLong, requestFor } from '../questions/index.ts';
import { chanceFrom } from '../random/index.ts';
import { rulesAbout } from '../rules/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { EXAMPLE_READING } from '../trial/example.ts';
import { type Factor, settingsOf, type TrialPlan, type TrialRecord } from '../trial/index.ts';
import { coatFactor, dryingFactor, REFERENCE_AIR } from '../units/index.ts';
import {
  dryingLine,
  learntDrying,
  learntMediums,
  learntShortWait,
  lessonsOf,
  shelfAsLearnt,
} from './index.ts';

const T0 = Date.parse('2026-05-02T09:00:00.000Z');
const HOUR = 3_600_000;
let count = 0;
const base = (patch: string, at: number) => ({ id: `l${++count}`, at: new Date(at).toISOString(), patch });
const step = (patch: string, id: string, at: number, round = 1): TrialRecord => ({
  ...base(patch, at),
  kind: 'step',
  step: id,
  round,
});
const answer = (patch: string, ready: boolean, at: number): TrialRecord => ({
  ...base(patch, at),
  kind: 'ready',
  ready,
  step: 'wet',
  round: 1,
});
const plan = examplePlan();
const medium = STARTER_SHELF.mediums.find(m => m.id === 'matte-acrylic')!;
const withMedium = plan.patches.filter(p => settingsOf(plan, p).medium.id === medium.id);
const placed = (patch: string, at = T0): TrialRecord[] => [
  step(patch, 'mark', at),
  step(patch, 'coat', at),
  step(patch, 'place', at),
];
/** Answers of pieces that dried in so many hours at the thickness the shelf speaks of, made and looked at one after the other. */
const dried = (atReference: number, n = withMedium.length): TrialRecord[] => {
  const hours = atReference * coatFactor(plan.usual.coatMm);
  return withMedium.slice(0, n).flatMap((p, i) => {
    const at = T0 + i * 0.2 * HOUR;
    return [
      ...placed(p.code, at),
      answer(p.code, false, at + (hours - 1) * HOUR),
      answer(p.code, true, at + (hours + 1) * HOUR),
    ];
  });
};

const FINISHES: Factor[] = [{ key: 'finish', levels: ['clear-wax', 'water-varnish'] }];

/** A plan of a method that ends with a finish where it has one, with a medium of its own where one is named. */
function finished(method: string, medium?: string): TrialPlan {
  const asks = requestFor(METHODS.find(m => m.id === method)!, STARTER_SHELF);
  if (!asks.ok) throw new ProblemError(asks.problem);
  const usual = { ...asks.value.usual, ...(medium ? { medium } : {}) };
  const made = planTrial(
    {
      ...asks.value,
      usual,
      name: 'Hook plates',
      factors: method === 'thick-coat' ? [{ key: 'dryHours', levels: [24, 48] }] : FINISHES,
    },
    STARTER_SHELF,
    { createdAt: '2026-05-02T08:00:00.000Z', random: () => 0.4 },
  );
  if (!made.ok) throw new ProblemError(made.problem);
  return made.value;
}

describe('how long a medium takes to dry', () => {
  it('is what the jar says, as a range, while nobody was asked', () => {
    const jar = learntDrying(medium, [lessonsOf({ plan, records: [] })], REFERENCE_AIR);
    expect(jar.mid).toBeCloseTo(medium.dryHours, 1);
    expect(jar.lo / jar.mid).toBeLessThan(0.75);
    expect(jar.hi / jar.mid).toBeGreaterThan(1.4);
    expect(jar.answers).toBe(0);
  });

  it('goes to what was found, surer with every answer', () => {
    const truth = medium.dryHours * 1.8;
    const [one, all] = [1, withMedium.length].map(n =>
      learntDrying(medium, [lessonsOf({ plan, records: dried(truth, n) })], REFERENCE_AIR),
    );
    const far = (d: { mid: number }) => Math.abs(d.mid - truth);
    expect(far(all)).toBeLessThan(far(one));
    expect(far(all) / truth).toBeLessThan(0.12);
    expect(all.hi / all.lo).toBeLessThan(one.hi / one.lo);
    expect(all.answers).toBe(withMedium.length);
  });

  it('takes one answer for all pieces of a bar for one look', () => {
    const hours = medium.dryHours * 1.8 * coatFactor(plan.usual.coatMm);
    const bar = withMedium.flatMap(p => [
      ...placed(p.code),
      answer(p.code, false, T0 + (hours - 1) * HOUR),
      answer(p.code, true, T0 + (hours + 1) * HOUR),
    ]);
    const [alone, together] = [dried(medium.dryHours * 1.8, 1), bar].map(records =>
      learntDrying(medium, [lessonsOf({ plan, records })], REFERENCE_AIR),
    );
    expect(together.answers).toBe(1);
    expect(together.mid).toBeCloseTo(alone.mid, 6);
  });

  it('is moved little by one wrong answer among others', () => {
    const right = dried(medium.dryHours);
    const [last] = withMedium.slice(-1);
    const wrong = [
      ...right.filter(r => r.patch !== last.code),
      ...placed(last.code),
      answer(last.code, true, T0 + 0.02 * medium.dryHours * HOUR),
    ];
    const [a, b] = [right, wrong].map(records =>
      learntDrying(medium, [lessonsOf({ plan, records })], REFERENCE_AIR),
    );
    expect(Math.abs(Math.log(b.mid / a.mid))).toBeLessThan(0.1);
  });

  it('counts each hour by its own air: another air noted next day changes nothing of what was', () => {
    const noted = (at: number, air: { tempC: number; rh: number }): TrialRecord => ({
      ...base('', at),
      patch: null,
      kind: 'air',
      air,
    });
    const first = noted(T0 - HOUR, REFERENCE_AIR);
    const damp = noted(T0 + 90 * HOUR, { tempC: 12, rh: 80 });
    const records = [first, ...dried(medium.dryHours)];
    const [before, after] = [records, [...records, damp]].map(r =>
      learntDrying(medium, [lessonsOf({ plan, records: r })], REFERENCE_AIR),
    );
    expect(after).toEqual(before);
    // Half of the time in air that dries half as fast counts half.
    const hours = 2 * medium.dryHours;
    const slow = { tempC: 21, rh: 72.5 };
    expect(dryingFactor(slow)).toBeCloseTo(2, 6);
    const [p] = withMedium;
    const looked = [
      first,
      ...placed(p.code),
      noted(T0 + hours * 0.5 * HOUR, slow),
      answer(p.code, true, T0 + hours * HOUR),
    ];
    const seen = lessonsOf({ plan, records: looked }).drying[0];
    expect(seen.to).toBeCloseTo((hours * 0.75) / coatFactor(plan.usual.coatMm), 6);
  });

  it('holds the truth as often as it says, from looks at whole bars, with an answer in twenty wrong', () => {
    const chance = chanceFrom(11);
    let [held, off, n] = [0, 0, 0];
    for (let maker = 0; maker < 120; maker++) {
      const truth = medium.dryHours * Math.exp(chance.normal(0, 0.3));
      const drying = Array.from({ length: 3 }, () => {
        const piece = truth * Math.exp(chance.normal(0, 0.2));
        const looks = [0.6, 0.8, 1, 1.3, 1.7, 2.5].map(t => t * medium.dryHours * chance.between(0.9, 1.1));
        const i = looks.findIndex(t => t >= piece);
        if (chance.next() < 0.05)
          return { medium: medium.id, from: 0, to: chance.between(0.1, 3) * medium.dryHours };
        return {
          medium: medium.id,
          from: i > 0 ? looks[i - 1] : i < 0 ? looks[5] : 0,
          to: i < 0 ? null : looks[i],
        };
      });
      const { lo, mid, hi } = learntDrying(medium, [{ drying }], REFERENCE_AIR);
      const piece = truth * Math.exp(chance.normal(0, 0.2));
      if (piece >= lo && piece <= hi) held++;
      off += Math.log(mid / truth);
      n++;
    }
    expect(held / n).toBeGreaterThan(0.85);
    expect(held / n).toBeLessThan(0.95);
    expect(Math.abs(off / n)).toBeLessThan(0.05);
  });

  it('learns how far pieces lie apart: of a maker whose pieces differ more it holds as many, and is wider', () => {
    const chance = chanceFrom(29);
    const wide = [0.1, 0.45].map(sd => {
      let [held, width, n] = [0, 0, 0];
      for (let maker = 0; maker < 80; maker++) {
        const truth = medium.dryHours * Math.exp(chance.normal(0, 0.3));
        const drying = Array.from({ length: 12 }, () => {
          const piece = truth * Math.exp(chance.normal(0, sd));
          const looks = Array.from({ length: 14 }, (_, i) => medium.dryHours * 0.25 * 1.27 ** i);
          const i = looks.findIndex(t => t >= piece);
          return {
            ...{ medium: medium.id, from: i > 0 ? looks[i - 1] : i < 0 ? looks[13] : 0 },
            to: i < 0 ? null : looks[i],
          };
        });
        const { lo, hi } = learntDrying(medium, [{ drying }], REFERENCE_AIR);
        for (let k = 0; k < 20; k++) {
          const piece = truth * Math.exp(chance.normal(0, sd));
          if (piece >= lo && piece <= hi) held++;
          n++;
        }
        width += Math.log(hi / lo) / 80;
      }
      expect(held / n).toBeGreaterThan(0.85);
      expect(held / n).toBeLessThan(sd < 0.2 ? 1 : 0.95);
      return width;
    });
    expect(wide[1]).toBeGreaterThan(2 * wide[0]);
  });

  it('is warned by in the next plan: what the jar calls dry the maker knows to be wet', () => {
    const slow = [{ plan, records: dried(medium.dryHours * 2.5) }];
    const learnt = learntMediums(STARTER_SHELF.mediums, slow.map(lessonsOf));
    expect(learnt.has('none')).toBe(false);
    const shelf = shelfAsLearnt(STARTER_SHELF, learnt);
    const own = shelf.mediums.find(m => m.id === medium.id)!;
    expect(own.dryHours).toBeCloseTo(learnt.get(medium.id)!.mid, 10);
    expect(own.dryHours).toBeGreaterThan(1.6 * medium.dryHours);
    // What nobody was asked about stays as its jar says.
    for (const m of shelf.mediums.filter(x => x.id !== medium.id)) expect(STARTER_SHELF.mediums).toContain(m);
    const settings = { ...settingsOf(plan, withMedium[0]), dryHours: medium.dryHours, coatMm: 0.3 };
    const warned = (of: typeof own) =>
      rulesAbout('dryHours', {
        settings: { ...settings, medium: of },
        method: plan.used.method,
        air: REFERENCE_AIR,
        patchMm: 40,
        wear: [],
      }).map(r => r.id);
    expect(warned(medium)).not.toContain('too-early');
    expect(warned(own)).toContain('too-early');
  });

  it('follows the thickness of the coat: what was learnt of thin ones counts for thick ones', () => {
    const slow = [{ plan, records: dried(medium.dryHours * 1.5) }];
    for (const trials of [[], slow]) {
      const [thin, thick] = [0.3, 1.5].map(
        mm => learntDrying(medium, trials.map(lessonsOf), REFERENCE_AIR, mm).mid,
      );
      expect(thick / thin).toBeCloseTo(coatFactor(1.5), 10);
    }
    // Under 1.5 mm on cloth the drying line expects what the rule of a dry coat does.
    const cloth = finished('thick-coat');
    const [{ patch, chain, settings }] = progressOf(cloth, []).lines;
    const done = chain
      .slice(0, chain.findIndex(l => l.step.id === 'place') + 1)
      .map(l => step(patch.code, l.step.id, T0, l.round));
    const [bar] = dryingLine([{ plan: cloth, records: done }], T0 + HOUR);
    const middle = Math.sqrt((bar.dry!.lo - T0) * (bar.dry!.hi - T0)) / HOUR;
    expect(middle / (settings.medium.dryHours * coatFactor(settings.coatMm))).toBeCloseTo(1, 1);
  });

  it('counts a piece that is still wet as longer than so far', () => {
    const wet = placed(withMedium[0].code).concat(
      answer(withMedium[0].code, false, T0 + medium.dryHours * 2 * HOUR),
    );
    expect(learntDrying(medium, [lessonsOf({ plan, records: wet })], REFERENCE_AIR).mid).toBeGreaterThan(
      medium.dryHours * 1.2,
    );
  });

  it('is a time, however many answers contradict it: those of records kept twice, or of another jar', () => {
    const odd = withMedium.flatMap(p => [
      ...placed(p.code),
      answer(p.code, true, T0 + 60_000),
      answer(p.code, false, T0 + 90_000),
    ]);
    const lessons = Array.from({ length: 12 }, () => lessonsOf({ plan, records: odd }));
    const { lo, mid, hi } = learntDrying(medium, lessons, REFERENCE_AIR);
    expect([lo, mid, hi].every(h => Number.isFinite(h) && h > 0)).toBe(true);
    // Not yet, said after it was ready, is no proof that it was wet then.
    expect(lessons[0].drying.every(d => d.from === 0 && d.to !== null && d.to > 0)).toBe(true);
  });

  it('learns nothing from what dried after it: water, a base coat, a finish', () => {
    const jar = learntDrying(medium, [lessonsOf({ plan, records: [] })], REFERENCE_AIR);
    const rubbed = withMedium.flatMap(p => [
      ...placed(p.code),
      step(p.code, 'wet', T0 + 12 * HOUR),
      step(p.code, 'rub', T0 + 12 * HOUR),
      { ...answer(p.code, true, T0 + 12.5 * HOUR), step: 'look' } as TrialRecord,
    ]);
    expect(learntDrying(medium, [lessonsOf({ plan, records: rubbed })], REFERENCE_AIR)).toEqual(jar);
    // With an answer of the medium's own drying beside it, that one counts and only that.
    const both = [...rubbed, answer(withMedium[0].code, true, T0 + 11 * HOUR)];
    expect(learntDrying(medium, [lessonsOf({ plan, records: both })], REFERENCE_AIR).answers).toBe(1);
    const bed = finished('paint-bed');
    const [{ patch, settings }] = progressOf(bed, []).lines;
    const based = [
      step(patch.code, 'base', T0),
      { ...answer(patch.code, true, T0 + HOUR), step: 'coat' } as TrialRecord,
    ];
    expect(
      learntDrying(settings.medium, [lessonsOf({ plan: bed, records: based })], REFERENCE_AIR).answers,
    ).toBe(0);
  });

  it('follows the air, and what was learnt in damp air counts in dry air', () => {
    const damp = { tempC: 14, rh: 80 };
    const air: TrialRecord = {
      id: 'air1',
      at: new Date(T0 - 1).toISOString(),
      patch: null,
      kind: 'air',
      air: damp,
      source: 'hand',
    };
    const factor = dryingFactor(damp);
    const records = [air, ...dried(medium.dryHours * factor)];
    const inDry = learntDrying(medium, [lessonsOf({ plan, records })], REFERENCE_AIR);
    expect(Math.abs(inDry.mid / medium.dryHours - 1)).toBeLessThan(0.1);
    expect(learntDrying(medium, [lessonsOf({ plan, records })], damp).mid / inDry.mid).toBeCloseTo(factor, 6);
  });
});

describe('an answer to “is it ready?”', () => {
  const code = withMedium[0].code;
  const statusWith = (...more: TrialRecord[]) => {
    const progress = progressOf(plan, [...placed(code), ...more]);
    const line = progress.lines.find(l => l.patch.code === code)!;
    return (at: number) => patchStatus(line, progress.airs, at);
  };

  it('opens the window at once when it is ready before its time', () => {
    const at = T0 + HOUR;
    expect(statusWith()(at).phase).toBe('waiting');
    expect(statusWith(answer(code, true, at))(at).phase).toBe('ready');
  });

  it('gives it a quarter longer than it has had when it is not', () => {
    const aim = statusWith()(T0).window!.aim;
    const at = aim + HOUR;
    const { window, phase } = statusWith(answer(code, false, at))(at + 1);
    expect(phase).toBe('waiting');
    expect(window!.opens).toBeCloseTo(at + (at - T0) / 4, -2);
    expect(window!.closes).toBeGreaterThan(window!.aim);
  });
});

describe('the drying line', () => {
  it('puts pieces that wait together into one bar, the soonest first, with what to look for', () => {
    const records = plan.patches.flatMap(p => placed(p.code));
    const bars = dryingLine([{ plan, records }], T0 + HOUR);
    expect(bars.reduce((n, b) => n + b.patches.length, 0)).toBe(plan.patches.length);
    expect(bars.map(b => b.aim)).toEqual([...bars.map(b => b.aim)].sort((a, b) => a - b));
    for (const bar of bars) {
      expect(bar.next.step.id).toBe('wet');
      expect(bar.question).toMatch(/milk|cool/);
      expect(bar.dry!.lo).toBeLessThan(bar.dry!.hi);
      expect(bar.opens).toBeLessThanOrEqual(bar.aim);
    }
  });

  it.each([
    ['wet-rub', 'soft-gel', 'place', 'No milk left, no longer cool, not tacky?', true],
    ['wet-rub', 'white-pva', 'place', 'No longer cool to the touch, and not tacky at the edge?', true],
    ['wet-rub', 'soft-gel', 'rub', 'Dry to the touch, no longer dark?', false],
    ['wet-rub', 'soft-gel', 'finish', 'No longer cool, and not tacky at the edge?', false],
    ['paint-bed', undefined, 'base', 'Dry all over, no longer cool to the touch?', false],
    ['film-pull', undefined, 'pull', 'Dry to a light touch at the edge?', false],
    ['tissue-embed', undefined, 'first-clear', 'Tacky at the edge, no longer wet?', false],
    ['quick-release', undefined, 'peel', 'Dry to the touch?', false],
  ])('asks of a %s with %s after %s what shows on the piece: %s', (method, medium, last, question, dries) => {
    const made = finished(method, medium);
    const { patch, chain } = progressOf(made, []).lines.find(l => l.settings.finish?.id === 'water-varnish')!;
    const upTo = chain.slice(0, chain.findIndex(l => l.step.id === last) + 1);
    const done = upTo.map(l => step(patch.code, l.step.id, T0, l.round));
    const [bar] = dryingLine([{ plan: made, records: done }], T0 + 60_000);
    expect(bar.question).toBe(question);
    // The range of the medium stands only where it is the medium that dries.
    expect(bar.dry !== undefined).toBe(dries);
  });

  it('is empty before anything is placed, and holds no short waits', () => {
    expect(dryingLine([{ plan, records: [] }], T0)).toEqual([]);
    const wet = [...placed(withMedium[0].code), step(withMedium[0].code, 'wet', T0 + 12 * HOUR)];
    expect(dryingLine([{ plan, records: wet }], T0 + 12 * HOUR)).toEqual([]);
  });
});

describe('the best short wait', () => {
  const film = METHODS.find(m => m.id === 'film-pull')!;
  const request = howLong(film, STARTER_SHELF);
  if (!request.ok) throw new ProblemError(request.problem);
  const made = planTrial(request.value, STARTER_SHELF, {
    createdAt: new Date(T0).toISOString(),
    random: () => 0.4,
  });
  if (!made.ok) throw new ProblemError(made.problem);
  const ladder: TrialPlan = made.value;
  /** A ladder whose patches landed best after 50 s. */
  const climbed = (best = 50): TrialRecord[] =>
    ladder.patches.flatMap((p, i) => {
      const seconds = settingsOf(ladder, p).dryHours * 3600;
      const landed = 95 - 30 * Math.log(seconds / best) ** 2 + (i % 2 ? 0.5 : -0.5);
      const at = T0 + i * 200_000;
      const photo = `photo${i}`;
      return [
        step(p.code, 'mark', at),
        step(p.code, 'mask', at),
        step(p.code, 'coat', at),
        step(p.code, 'place', at),
        step(p.code, 'pull', at + seconds * 1000),
        {
          ...base(p.code, at + 2000),
          kind: 'photo',
          photo,
          stage: 'dry',
          round: 1,
          name: 'x',
          simulated: true,
          takenAt: null,
        },
        {
          ...base(p.code, at + 3000),
          kind: 'reading',
          photo,
          straight: null,
          reading: { ...EXAMPLE_READING, landed },
        },
      ] as TrialRecord[];
    });

  it('is the top of the ladder, with a range', () => {
    const found = learntShortWait(
      'film-pull',
      [lessonsOf({ plan: ladder, records: climbed() })],
      ladder.air,
    )!;
    expect(found.min * 60).toBeGreaterThan(44);
    expect(found.min * 60).toBeLessThan(57);
    expect(found.lo).toBeLessThan(found.min);
    expect(found.hi).toBeGreaterThan(found.min);
    expect(found.patches).toBe(ladder.patches.length);
  });

  it('moves with the air', () => {
    const trials = [{ plan: ladder, records: climbed() }];
    const damp = { tempC: 15, rh: 75 };
    const ratio =
      learntShortWait('film-pull', trials.map(lessonsOf), damp)!.min /
      learntShortWait('film-pull', trials.map(lessonsOf), ladder.air)!.min;
    expect(ratio).toBeCloseTo(dryingFactor(damp) / dryingFactor(ladder.air), 6);
  });

  it('is not made up from too little, from a method with long waits, or where there is no top', () => {
    expect(
      learntShortWait(
        'film-pull',
        [lessonsOf({ plan: ladder, records: climbed().slice(0, 21) })],
        ladder.air,
      ),
    ).toBeUndefined();
    expect(
      learntShortWait('wet-rub', [lessonsOf({ plan: ladder, records: climbed() })], ladder.air),
    ).toBeUndefined();
    expect(
      learntShortWait('film-pull', [lessonsOf({ plan: ladder, records: climbed(4000) })], ladder.air),
    ).toBeUndefined();
  });

  it('is used where the plan leaves the wait open and it was taken over at set-up, not where it is varied', () => {
    const air: TrialRecord = {
      id: 'wait1',
      at: new Date(T0).toISOString(),
      patch: null,
      kind: 'air',
      air: ladder.air,
      source: 'hand',
      waitMin: 1.2,
    };
    const open = {
      ...ladder,
      factors: [{ key: 'finish' as const, levels: ['no-finish', 'clear-wax'] }],
      patches: ladder.patches.slice(0, 2).map(p => ({ ...p, levels: [0] })),
    };
    const aimOf = (plan: TrialPlan) => {
      const code = plan.patches[0].code;
      const progress = progressOf(plan, [
        air,
        ...['mark', 'mask', 'coat', 'place'].map(s => step(code, s, T0)),
      ]);
      const line = progress.lines.find(l => l.patch.code === code)!;
      return (patchStatus(line, progress.airs, T0).window!.aim - T0) / 60_000;
    };
    expect(aimOf(open)).toBeCloseTo(1.2, 9);
    expect(aimOf(ladder)).toBeCloseTo(settingsOf(ladder, ladder.patches[0]).dryHours * 60, 9);
  });
});

describe('a ladder of short waits', () => {
  const lessons = (landed: readonly number[], repeats = 2) => [
    {
      shortWaits: landed.flatMap((y, i) =>
        Array.from({ length: repeats }, (_, k) => ({
          ...{ method: 'film-pull', x: Math.log(0.25) + i * Math.log(2) },
          landed: y + (k ? 1 : -1),
        })),
      ),
    },
  ];
  const found = (landed: readonly number[], repeats?: number) =>
    learntShortWait('film-pull', lessons(landed, repeats), REFERENCE_AIR);

  it('tells of a hill, and not of a peak that fell away on both sides between two rungs', () => {
    expect(found([60, 78, 88, 80, 62])!.min).toBeCloseTo(1, 0);
    expect(found([30, 32, 90, 33, 30])).toBeUndefined();
    expect(found([30, 32, 90, 33, 30], 1)).toBeUndefined();
    // On one side only it is a cliff, and that is known for one.
    expect(found([20, 25, 90, 84, 76])).toBeDefined();
  });

  it('tells of none as long as even the best lands less than half', () => {
    expect(found([12, 28, 38, 30, 14])).toBeUndefined();
    expect(found([37, 53, 63, 55, 39])).toBeDefined();
  });
});
