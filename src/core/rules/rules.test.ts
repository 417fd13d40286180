import { describe, expect, it } from 'vitest';
import { STARTING_REQUEST } from '../design/index.ts';
import { METHODS } from '../methods/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { requestFor } from '../questions/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { lookUp, type TrialPlan } from '../trial/index.ts';
import { canOverride, holds, RULES, type RuleContext, rulesAbout, rulesFor, stopsFor } from './index.ts';

type Usual = typeof STARTING_REQUEST.usual;
const context = (part: Partial<Usual>, method = 'wet-rub', more: Partial<RuleContext> = {}): RuleContext => {
  const found = METHODS.find(m => m.id === method)!;
  return {
    settings: lookUp({ ...STARTER_SHELF, method: found } as TrialPlan['used'], {
      ...STARTING_REQUEST.usual,
      ...part,
    }),
    method: found,
    air: { tempC: 21, rh: 45 },
    patchMm: 40,
    wear: [],
    ...more,
  };
};
const ids = (c: RuleContext) => rulesFor(c).map(r => r.id);
const film = {
  printer: 'chart-printer',
  donor: 'clear-film',
  medium: 'film-gel',
  substrate: 'white-wood',
  dryHours: 0.0125,
};

/** The same with some properties of what is on the shelf changed. */
const withItem = <K extends 'printer' | 'donor' | 'medium' | 'substrate' | 'finish'>(
  c: RuleContext,
  key: K,
  part: Partial<NonNullable<RuleContext['settings'][K]>>,
): RuleContext => ({ ...c, settings: { ...c.settings, [key]: { ...c.settings[key], ...part } } });

type Case = readonly [string, RuleContext, string];
const STOPS: readonly Case[] = [
  [
    'a dissolving sheet in an inkjet',
    context({ donor: 'dissolving', printer: 'cabin-inkjet' }),
    'dissolving-in-inkjet',
  ],
  ['inkjet ink rubbed wet', context({ printer: 'chart-printer' }), 'inkjet-rubbed-wet'],
  [
    'tape over inkjet',
    context({ printer: 'cabin-inkjet', medium: 'packing-tape', substrate: 'white-wood' }, 'tape-lift'),
    'inkjet-under-tape',
  ],
  ['a film pull with dye', context({ ...film, printer: 'cabin-inkjet' }, 'film-pull'), 'dye-on-film'],
  [
    'a paint bed of paint with a sealer',
    context({ medium: 'sealed-paint', substrate: 'painted-chest' }, 'paint-bed'),
    'sealed-paint-bed',
  ],
  ['medium on untreated glaze', context({ substrate: 'glazed-tile' }), 'glossy-untreated'],
  ['solvent near a hot tool', context({ ...film, pressing: 'iron' }, 'film-pull'), 'solvent-near-heat'],
  [
    'heat on wax',
    context({ substrate: 'wax-board', medium: 'no-medium', donor: 'waxy-backing' }, 'backing-print'),
    'heat-on-plastic-or-wax',
  ],
  [
    'heat on plastic',
    context({ substrate: 'plastic-sheet', medium: 'application-tape' }, 'ironed-tape'),
    'heat-on-plastic-or-wax',
  ],
  ['washing before full cure', context({ dryHours: 20 }, 'wet-rub', { wear: ['wash'] }), 'washed-too-soon'],
  ['film in a laser printer', context({ ...film, printer: 'office-laser' }, 'film-pull'), 'film-in-laser'],
  [
    'a sheet wider than the printer',
    (() => {
      const c = context({});
      return { ...c, settings: { ...c.settings, printer: { ...c.settings.printer, widthMm: 100 } } };
    })(),
    'sheet-too-wide',
  ],
  [
    'dye on a sheet that does not take it',
    withItem(context({ printer: 'cabin-inkjet', ...{ donor: 'copy-80' } }), 'donor', { accepts: ['toner'] }),
    'donor-refuses-colourant',
  ],
  ['spray adhesive in a wet rub', context({ medium: 'spray-adhesive' }), 'wrong-medium'],
  ['clear film in a wet rub', context({ donor: 'clear-film', printer: 'chart-printer' }), 'wrong-donor'],
];

const WARNINGS: readonly Case[] = [
  ['old copies', context({ copyAgeH: 500 }), 'old-copies'],
  ['gloss paper', context({ donor: 'gloss-130' }), 'gloss-paper-rubbed'],
  ['a pale picture on a dark ground', context({ substrate: 'slate' }), 'dark-ground'],
  [
    'damp air and a short cure',
    context({ dryHours: 9 }, 'wet-rub', { air: { tempC: 12, rh: 80 } }),
    'too-early',
  ],
  ['a thick coat dried in minutes', context({ coatMm: 1.2, dryHours: 0.5 }), 'thick-coat-hurried'],
  [
    'raw canvas in the offset',
    context({ substrate: 'raw-canvas', medium: 'matt-paint' }, 'gel-plate'),
    'raw-canvas-offset',
  ],
  [
    'an open ground in the offset',
    context({ substrate: 'watercolour-card', medium: 'matt-charcoal' }, 'gel-plate'),
    'raw-canvas-offset',
  ],
  [
    'a clear medium where the paint is the picture',
    context({ substrate: 'watercolour-card', preparation: 'gesso', medium: 'matte-acrylic' }, 'gel-plate'),
    'paint-does-not-show',
  ],
  [
    'white paint on white',
    context({ substrate: 'watercolour-card', preparation: 'white-coat', medium: 'matt-white' }, 'gel-plate'),
    'paint-does-not-show',
  ],
  [
    'a paint of which nobody wrote the colour',
    context({ substrate: 'watercolour-card', medium: 'matt-paint' }, 'gel-plate'),
    'paint-colour-unknown',
  ],
  ['a margin left on', context({ trim: 'margin' }), 'margin-left'],
  ['sanding old paint', context({ substrate: 'painted-chest', preparation: 'sanded' }), 'old-paint-sanded'],
  ['pigment ink where toner is usual', context({ printer: 'chart-printer' }), 'wrong-colourant'],
  [
    'a ground that is seldom used',
    context({ substrate: 'glass', preparation: 'etched' }, 'thick-coat'),
    'unusual-ground',
  ],
  [
    'a ground that needs preparing',
    withItem(context({}), 'substrate', { needsPreparation: true, gloss: 0.1 }),
    'needs-preparation',
  ],
  ['cotton that is sanded', context({ substrate: 'cotton', preparation: 'sanded' }), 'unfit-preparation'],
  ['a ground that is half glossy', withItem(context({}), 'substrate', { gloss: 0.55 }), 'half-glossy'],
  [
    'a waxy side in a laser',
    context({ donor: 'waxy-backing', medium: 'no-medium' }, 'backing-print'),
    'waxy-in-laser',
  ],
  [
    'large tissue',
    context({ donor: 'tissue-20', printer: 'chart-printer' }, 'tissue-embed', { patchMm: 95 }),
    'large-tissue',
  ],
  ['two-part clear', context({ finish: 'poured-clear' }), 'two-part-clear'],
  ['spray after heat', context({ finish: 'spray-clear' }, 'backing-print'), 'spray-after-heat'],
  ['heavy paper', context({ donor: 'smooth-120' }), 'heavy-paper'],
  ['a thirsty ground', withItem(context({}), 'substrate', { thirst: 0.9 }), 'thirsty-ground'],
  ['slow air', context({}, 'wet-rub', { air: { tempC: 8, rh: 85 } }), 'slow-air'],
  [
    'film through a printer without a single feed',
    withItem(context(film, 'film-pull'), 'printer', { singleSheet: false }),
    'odd-sheet-in-tray',
  ],
  [
    'a sheet that no water gets through',
    withItem(context({}), 'donor', { absorbency: 0.05 }),
    'water-stays-out',
  ],
  [
    'a quick-release sheet that is said to come off by rubbing',
    withItem(context({ donor: 'quick-release', substrate: 'glazed-tile' }, 'quick-release'), 'donor', {
      releases: 'rub',
    }),
    'other-release',
  ],
  [
    'a medium that softens in water, tested wet with nothing over it',
    withItem(context({ finish: 'no-finish' }, 'wet-rub', { wear: ['water'] }), 'medium', {
      waterproof: false,
    }),
    'softens-in-water',
  ],
  [
    'an open film that is worn',
    withItem(context({ finish: 'no-finish' }, 'wet-rub', { wear: ['dry-rub'] }), 'medium', {
      film: 'porous',
    }),
    'open-film-worn',
  ],
  ['a medium that is not clear', withItem(context({}), 'medium', { driesClear: false }), 'medium-not-clear'],
  [
    'a white sheet that stays in the piece',
    withItem(context({ donor: 'tissue-20', printer: 'chart-printer' }, 'tissue-embed'), 'donor', {
      clear: false,
    }),
    'white-sheet-stays',
  ],
];

describe('hard stops', () => {
  it.each(STOPS)('%s is stopped', (_, c, id) => {
    expect(stopsFor(c, []).map(r => r.id)).toContain(id);
  });

  it('that would hurt a person or a machine cannot be set aside', () => {
    for (const rule of RULES.filter(r => r.harms)) expect(canOverride(rule)).toBe(false);
    const c = context({ ...film, pressing: 'heat-gun' }, 'film-pull');
    expect(stopsFor(c, ['solvent-near-heat']).map(r => r.id)).toContain('solvent-near-heat');
    expect(stopsFor(context({ printer: 'chart-printer' }), ['inkjet-rubbed-wet'])).toEqual([]);
  });

  it('let an etched tile and a warmed wax bed through', () => {
    expect(stopsFor(context({ substrate: 'glazed-tile', preparation: 'etched' }), [])).toEqual([]);
    expect(
      stopsFor(context({ substrate: 'wax-board', medium: 'beeswax', donor: 'smooth-120' }, 'wax-bed'), []),
    ).toEqual([]);
  });
});

describe('warnings', () => {
  it.each(WARNINGS)('speak up about %s', (_, c, id) => {
    expect(ids(c)).toContain(id);
  });

  it('of paint that does not show are silent where it differs enough, and where the picture is printed', () => {
    const on = (medium: string, method: string, paint?: [number, number, number]) => {
      const c = context({ substrate: 'watercolour-card', preparation: 'gesso', medium }, method);
      return ids(paint ? withItem(c, 'medium', { paint }) : c);
    };
    expect(on('matt-charcoal', 'gel-plate')).not.toContain('paint-does-not-show');
    expect(on('matt-white', 'paint-bed')).not.toContain('paint-does-not-show');
    // The ground is at L* 94 or so: a grey of L* 80 lies within twenty of it, one of 70 does not.
    const grey = (l: number) => (((l + 16) / 116) ** 3) as number;
    expect(on('matt-white', 'gel-plate', [grey(80), grey(80), grey(80)])).toContain('paint-does-not-show');
    expect(on('matt-white', 'gel-plate', [grey(70), grey(70), grey(70)])).not.toContain(
      'paint-does-not-show',
    );
  });

  it('have nothing to say against a sound plan', () => {
    expect(ids(context({ dryHours: 24 }))).toEqual([]);
  });

  it('are shown at the choices they are about', () => {
    const c = context({ donor: 'gloss-130' });
    expect(rulesAbout('donor', c).map(r => r.id)).toContain('gloss-paper-rubbed');
    expect(rulesAbout('medium', c).map(r => r.id)).not.toContain('gloss-paper-rubbed');
  });
});

it('every rule gives a reason and a way out, under an id of its own', () => {
  expect(new Set(RULES.map(r => r.id)).size).toBe(RULES.length);
  for (const rule of RULES) {
    expect(rule.why).toMatch(/\.$/);
    expect(rule.instead).toMatch(/\.$/);
    expect(rule.about.length).toBeGreaterThan(0);
  }
});

it('conditions can be joined and turned round', () => {
  const facts = { coatMm: 1, removal: 'rub' } as never;
  expect(
    holds({ all: [{ fact: 'coatMm', atLeast: 1 }, { not: { fact: 'removal', is: ['peel'] } }] }, facts),
  ).toBe(true);
  expect(
    holds(
      {
        any: [
          { fact: 'coatMm', below: 1 },
          { fact: 'removal', is: ['peel'] },
        ],
      },
      facts,
    ),
  ).toBe(false);
});

it('every rule has a case above', () => {
  const met = new Set([...STOPS, ...WARNINGS].map(([, , id]) => id));
  expect(RULES.map(r => r.id).filter(id => !met.has(id))).toEqual([]);
});

it('a finish over it, or no water, and a medium that softens is no worry', () => {
  const soft = (finish: string, wear: RuleContext['wear']) =>
    ids(withItem(context({ finish, dryHours: 72 }, 'wet-rub', { wear }), 'medium', { waterproof: false }));
  expect(soft('water-varnish', ['water'])).not.toContain('softens-in-water');
  expect(soft('no-finish', ['dry-rub'])).not.toContain('softens-in-water');
});

describe('the starter shelf', () => {
  it.each(METHODS.map(m => [m.id, m] as const))('has a sound way for %s: nothing stops it', (_, method) => {
    const request = requestFor(method, STARTER_SHELF);
    if (!request.ok) throw new ProblemError(request.problem);
    const c = context(request.value.usual, method.id);
    expect(stopsFor(c, [])).toEqual([]);
    expect(rulesFor(c).filter(r => r.id === 'other-release' || r.id === 'water-stays-out')).toEqual([]);
  });
});

describe('the limits of rules, on both sides', () => {
  const rule = (id: string) => {
    const found = RULES.find(r => r.id === id);
    if (!found) throw new Error(id);
    return found;
  };
  const speaks = (id: string, c: RuleContext) => rulesFor(c).includes(rule(id));
  const usual = context({});

  it.each([
    ['an old copy, from three days on', 'old-copy', (h: number) => context({ copyAgeH: h }), 72, 71.9],
    [
      'a large piece of tissue, from 90 mm on',
      'large-tissue',
      (mm: number) => context({}, 'tissue-embed', { patchMm: mm }),
      90,
      89.9,
    ],
  ])('%s', (_, id, at, in_, out) => {
    const known = RULES.some(r => r.id === id) ? id : undefined;
    const found = (c: RuleContext) =>
      rulesFor(c)
        .map(r => r.id)
        .sort();
    if (known) expect([speaks(known, at(in_)), speaks(known, at(out))]).toEqual([true, false]);
    else expect(found(at(in_))).not.toEqual(found(at(out)));
  });

  it('a glossy ground is stopped from 0.6 on, warned of from 0.5 on', () => {
    const glossy = (gloss: number) =>
      rulesFor(withItem(usual, 'substrate', { gloss })).filter(
        r => r.about.includes('substrate') || r.about.includes('preparation'),
      );
    const worst = (gloss: number) => {
      const found = glossy(gloss).map(r => r.severity);
      return found.includes('stop') ? 'stop' : found.includes('warn') ? 'warn' : '';
    };
    expect([0.6, 0.599, 0.5, 0.499].map(worst)).toEqual(['stop', 'warn', 'warn', '']);
  });

  it('a short cure is warned of below three quarters of what it needs', () => {
    const dry = (share: number) => {
      const c = withItem(context({ coatMm: 0.3 }), 'medium', { dryHours: 10 });
      return speaks('too-early', { ...c, settings: { ...c.settings, dryHours: 10 * share } });
    };
    expect([0.749, 0.75, 0.76].map(dry)).toEqual([true, false, false]);
  });

  it('a washed piece has to have cured for two days', () => {
    const washed = (hours: number) =>
      stopsFor({ ...context({ dryHours: hours }), wear: ['wash'] }, []).length;
    const fixed =
      usual.method.steps.reduce((sum, x) => sum + (x.wait.kind === 'fixed' ? x.wait.min : 0), 0) / 60;
    expect(washed(48 - fixed - 0.01)).toBe(washed(48 - fixed + 0.01) + 1);
  });

  it('what has no way round it is only what hurts people or machines', () => {
    for (const r of RULES) expect(canOverride(r), r.id).toBe(r.severity === 'stop' && !r.harms);
    expect(canOverride({ ...RULES[0], severity: 'warn', harms: undefined })).toBe(false);
    expect(canOverride({ ...RULES[0], severity: 'stop', harms: undefined })).toBe(true);
  });
});
