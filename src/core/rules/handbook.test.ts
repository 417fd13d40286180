import { describe, expect, it } from 'vitest';
import { METHODS } from '../methods/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { requestFor } from '../questions/index.ts';
import { PREPARED, STARTER_SHELF, type SubstrateKind } from '../shelf/index.ts';
import { lookUp, type PatchSettings, type TrialPlan } from '../trial/index.ts';
import { rulesFor, stopsFor } from './index.ts';

/** docs/HANDBOOK.md §3: what each method is printed with, on what, and onto what. */
const TABLE: Record<string, { with: string; on: string; onto: string }> = {
  'wet-rub': {
    with: 'toner',
    on: 'plain paper, smooth heavy paper',
    onto: 'bare wood, whitened wood, card or watercolour paper, raw canvas, primed canvas, cotton cloth, etched tile, glazed tile, glass, unglazed tile, slate, painted metal, painted furniture',
  },
  'thick-coat': { with: 'toner', on: 'plain paper', onto: 'cotton cloth' },
  'paint-bed': { with: 'toner', on: 'plain paper', onto: 'bare wood, whitened wood, painted furniture' },
  'wax-bed': { with: 'toner', on: 'smooth heavy paper', onto: 'bare wood, whitened wood, wax on board' },
  'tape-lift': {
    with: 'toner, magazine print',
    on: 'plain paper, magazine page',
    onto: 'glass, glazed tile',
  },
  'ironed-tape': { with: 'toner', on: 'plain paper', onto: 'card or watercolour paper, whitened wood' },
  'backing-print': { with: 'toner', on: 'waxy backing', onto: 'card or watercolour paper' },
  'film-pull': {
    with: 'pigment ink',
    on: 'clear film',
    onto: 'synthetic sheet, card or watercolour paper, whitened wood, painted metal',
  },
  'solvent-bloom': {
    with: 'pigment ink, dye ink',
    on: 'decal film',
    onto: 'card or watercolour paper',
  },
  'hot-body': {
    with: 'pigment ink, dye ink',
    on: 'iron-on sheet, light goods; iron-on sheet, dark goods',
    onto: 'unglazed tile',
  },
  'gel-skin': { with: 'stamp ink, pigment ink', on: 'release sheet', onto: 'glass, whitened wood' },
  'tissue-embed': {
    with: 'pigment ink, dye ink',
    on: 'tracing or tissue paper',
    onto: 'whitened wood, glass',
  },
  'quick-release': {
    with: 'toner',
    on: 'quick-release paper',
    onto: 'glazed tile, etched tile, glass',
  },
  'dissolving-paper': { with: 'toner', on: 'dissolving paper', onto: 'whitened wood, slate' },
  'gel-plate': { with: 'toner', on: 'plain paper', onto: 'card or watercolour paper, primed canvas' },
  'carbon-trace': { with: 'carbon', on: 'carbon sheet', onto: 'whitened wood' },
};
const words = (text: string) => text.split(text.includes(';') ? '; ' : ', ');

const known = new Map<string, ReturnType<typeof usual>>();
const usual = (id: string) => {
  const method = METHODS.find(m => m.id === id)!;
  const found = requestFor(method, STARTER_SHELF);
  if (!found.ok) throw new ProblemError(found.problem);
  return { method, usual: found.value.usual };
};
/** A method with its usual choices, asked once. */
const usualOf = (id: string) => {
  const found = known.get(id) ?? usual(id);
  known.set(id, found);
  return found;
};
type Choice = Partial<ReturnType<typeof usualOf>['usual']>;
const settled = (id: string, part: Choice) => {
  const { method, usual } = usualOf(id);
  return {
    method,
    settings: lookUp({ ...STARTER_SHELF, method } as TrialPlan['used'], { ...usual, ...part }),
  };
};
const stops = (id: string, part: Choice): string[] => {
  const { method, settings } = settled(id, part);
  return stopsFor({ settings, method, air: { tempC: 21, rh: 45 }, patchMm: 40, wear: [] }, []).map(r => r.id);
};

const FOR_INK_ONLY = [
  'clear film',
  'decal film',
  'iron-on sheet, light goods',
  'iron-on sheet, dark goods',
  'release sheet',
];
const WATERY = /acrylic medium|(soft|heavy|levelling) gel|glue|transfer medium|fabric medium|matt paint/;

/** What docs/HANDBOOK.md §4 stops, said again in other words than the rules. */
function handbookStops(
  { printer, donor, medium, substrate, preparation }: PatchSettings,
  method: (typeof METHODS)[number],
): boolean {
  const ink = / ink$/.test(printer.colourant) && printer.colourant !== 'stamp ink';
  const isTape = /tape$/.test(medium.kind);
  const isGlossy = substrate.gloss * preparation.glossTimes >= 0.6;
  const grips = preparation.kind === 'etch' || preparation.kind === 'white base coat';
  return (
    (ink && donor.kind === 'dissolving paper') ||
    (printer.colourant === 'toner' && FOR_INK_ONLY.includes(donor.kind)) ||
    (ink && method.usesWater && ['rub', 'peel', 'dissolve'].includes(method.removal)) ||
    (ink && isTape) ||
    (printer.colourant === 'dye ink' && donor.kind === 'clear film') ||
    (WATERY.test(medium.kind) && isGlossy && !grips) ||
    (method.usesHeat && !substrate.heatSafe && medium.kind !== 'wax') ||
    // A sheet that does not take the colourant, does not go with the method, or does not go through the printer.
    !donor.accepts.includes(printer.colourant) ||
    !method.takes.donors.includes(donor.kind) ||
    donor.sheet.w > printer.widthMm + 0.5
  );
}

describe.each(METHODS.map(m => m.id))('%s', id => {
  const row = TABLE[id];

  it('is never stopped where the handbook has it, with a preparation that is usual there', () => {
    const { substrates, printers, donors, preparations } = STARTER_SHELF;
    for (const kind of words(row.onto)) {
      const ground = substrates.find(s => s.kind === kind)!;
      const ways = PREPARED[kind as SubstrateKind].flatMap(p => preparations.filter(i => i.kind === p));
      const open = ways.filter(p => !stops(id, { substrate: ground.id, preparation: p.id }).length);
      expect(open.length, kind).toBeGreaterThan(0);
    }
    for (const colourant of words(row.with))
      for (const kind of words(row.on)) {
        const pairs = printers
          .filter(p => p.colourant === colourant)
          .flatMap(p =>
            donors.filter(d => d.kind === kind).map(d => stops(id, { printer: p.id, donor: d.id })),
          );
        const isPair = (colourant === 'magazine print') === (kind === 'magazine page');
        if (isPair)
          expect(
            pairs.some(p => !p.length),
            `${colourant} on ${kind}`,
          ).toBe(true);
      }
  });

  it('is stopped where the handbook stops it, and nowhere else', () => {
    const { substrates, printers, donors, preparations } = STARTER_SHELF;
    const cases: Choice[] = [
      ...printers.flatMap(p => donors.map(d => ({ printer: p.id, donor: d.id }))),
      ...substrates.flatMap(s => preparations.map(p => ({ substrate: s.id, preparation: p.id }))),
    ];
    for (const choice of cases) {
      const { method, settings } = settled(id, choice);
      expect(stops(id, choice).length > 0, `${JSON.stringify(choice)} ${stops(id, choice)}`).toBe(
        handbookStops(settings, method),
      );
    }
  });

  it('is offered as nothing that is stopped, on any ground it takes', () => {
    const method = METHODS.find(m => m.id === id)!;
    for (const s of STARTER_SHELF.substrates.filter(s => method.takes.substrates.includes(s.kind))) {
      const found = requestFor(method, STARTER_SHELF, { substrate: s.id });
      if (!found.ok) throw new ProblemError(found.problem);
      expect(stops(id, found.value.usual), s.name).toEqual([]);
      const preparation = STARTER_SHELF.preparations.find(p => p.id === found.value.usual.preparation)!;
      expect(PREPARED[s.kind], s.name).toContain(preparation.kind);
    }
  });
});

describe('what a plan from nothing begins with', () => {
  it.each([
    ['cotton cloth', 'wet-rub', 'wash and iron'],
    ['cotton cloth', 'thick-coat', 'wash and iron'],
    ['card or watercolour paper', 'wet-rub', 'none'],
    ['card or watercolour paper', 'gel-plate', 'primer'],
    ['glazed tile', 'quick-release', 'etch'],
    ['glass', 'gel-skin', 'etch'],
    ['bare wood', 'wet-rub', 'none'],
  ])('on %s for %s: %s', (kind, id, preparation) => {
    const method = METHODS.find(m => m.id === id)!;
    const found = requestFor(method, STARTER_SHELF, {
      substrate: STARTER_SHELF.substrates.find(s => s.kind === kind)!.id,
    });
    if (!found.ok) throw new ProblemError(found.problem);
    const { settings } = settled(id, found.value.usual);
    expect(settings.preparation.kind).toBe(preparation);
  });

  it('is what the method is usually made with: wax-bed on smooth heavy paper, backing print by toner, film on plastic', () => {
    const of = (id: string) => settled(id, {}).settings;
    expect(of('wax-bed').donor.kind).toBe('smooth heavy paper');
    expect(of('backing-print').printer.colourant).toBe('toner');
    expect(of('film-pull').substrate.kind).toBe('synthetic sheet');
    expect(of('thick-coat').medium.kind).toBe('photo-transfer medium');
  });

  it('gives a skin and a thick coat the time their own drying takes', () => {
    const skin = settled('gel-skin', {}).settings;
    expect(skin.medium.kind).toBe('self-levelling gel');
    expect(skin.dryHours).toBeGreaterThan(skin.medium.dryHours * 2);
    expect(settled('wet-rub', {}).settings.dryHours).toBe(12);
    // And says when it is given less.
    const { method } = settled('gel-skin', {});
    const short = { ...skin, dryHours: skin.dryHours / 2 };
    const rules = rulesFor({ settings: short, method, air: { tempC: 21, rh: 45 }, patchMm: 40, wear: [] });
    expect(rules.map(r => r.id)).toContain('too-early');
  });
});
