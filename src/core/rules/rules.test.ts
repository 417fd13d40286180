import { describe, expect, it } from 'vitest';
import { STARTING_REQUEST } from '../design/index.ts';
import { METHODS } from '../methods/index.ts';
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

describe('hard stops', () => {
  it.each([
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
  ])('%s is stopped', (_, c, id) => {
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
  it.each([
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
    ['a margin left on', context({ trim: 'margin' }), 'margin-left'],
    ['sanding old paint', context({ substrate: 'painted-chest', preparation: 'sanded' }), 'old-paint-sanded'],
  ])('speak up about %s', (_, c, id) => {
    expect(ids(c)).toContain(id);
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
