import { type Method, waitsForDrying } from '../methods/index.ts';
import { DONORS, isOne, labOf, PREPARED, TOOLS } from '../shelf/index.ts';
import type { PatchSettings, WearTest } from '../trial/index.ts';
import { type Air, coatFactor, dryingFactor } from '../units/index.ts';

/** What a rule looks at: one patch's settings with its method, the air and what will be done to it later. */
export interface RuleContext {
  readonly settings: PatchSettings;
  readonly method: Method;
  readonly air: Air;
  readonly patchMm: number;
  readonly wear: readonly WearTest[];
}

const WITH_WATER = new Set<WearTest>(['wet-rub', 'water', 'wash']);

/**
 * How many of the hours it needs the coat gets: 1 is just dry (docs/HANDBOOK.md §5; thicker coats take longer).
 *
 * @example dryShare({ settings: { ...settings, coatMm: 0.3, dryHours: settings.medium.dryHours }, air: { tempC: 21, rh: 45 } }).toFixed(2); // => '1.00'
 */
export const dryShare = (context: Pick<RuleContext, 'settings' | 'air'>): number =>
  context.settings.dryHours / hoursToDry(context);

/**
 * Hours until a coat is just dry, by the jar, in this air and thickness.
 *
 * @example hoursToDry({ settings: { ...settings, coatMm: 0.3 }, air: { tempC: 21, rh: 45 } }) === settings.medium.dryHours; // => true
 */
export const hoursToDry = ({ settings: s, air }: Pick<RuleContext, 'settings' | 'air'>): number =>
  s.medium.dryHours * dryingFactor(air) * coatFactor(s.coatMm);

const fixedHours = (method: Method) =>
  method.steps.reduce((sum, step) => sum + (step.wait.kind === 'fixed' ? step.wait.min : 0), 0) / 60;

/** How far what a medium dries to lies from its ground (CIE 1976 ΔE*ab); none for one that dries clear, all where the shelf does not say. */
function contrastOn(
  { driesClear, paint }: PatchSettings['medium'],
  ground: [number, number, number],
): number {
  if (driesClear) return 0;
  if (!paint) return 100;
  const [a, b] = [labOf(paint), labOf(ground)];
  return Math.hypot(a.l - b.l, a.a - b.a, a.b - b.b);
}

/**
 * Named facts of a context, for rules to test: words, numbers, yes or no.
 *
 * @example factsOf({ settings, method: methods[0], air, patchMm: 40, wear: [] }).usesWater; // => true
 */
export function factsOf(context: RuleContext) {
  const { settings: s, method, air, patchMm, wear } = context;
  const white = s.preparation.whitens;
  const ground = s.substrate.colour.map(c => c * (1 - white) + 0.88 * white) as [number, number, number];
  return {
    bedOfPaint: method.traits.includes('bed of paint'),
    needsClosedGround: method.traits.includes('needs a closed ground'),
    paintIsColour: method.traits.includes('paint is the colour'),
    paintIsPicture: method.traits.includes('paint is the picture'),
    paintKnown: s.medium.driesClear || s.medium.paint !== null,
    paintContrast: contrastOn(s.medium, ground),
    sheetOfTissue: method.traits.includes('sheet of tissue'),
    removal: method.removal,
    usesHeat: method.usesHeat,
    usesWater: method.usesWater,
    waitsForDrying: waitsForDrying(method),
    colourant: s.printer.colourant,
    fuses: s.printer.fusesWithHeat && s.printer.colourant === 'toner',
    donorKind: s.donor.kind,
    donorTakes: s.donor.accepts.includes(s.printer.colourant),
    donorFits: s.donor.sheet.w <= s.printer.widthMm + 0.5,
    donorGsm: s.donor.gsm,
    donorOdd: !isOne(DONORS.everyday, s.donor.kind),
    donorAbsorbency: s.donor.absorbency,
    donorReleases: s.donor.releases,
    donorSeeThrough: s.donor.clear,
    takesSingleSheets: s.printer.singleSheet,
    donorCoated: s.donor.coated,
    mediumKind: s.medium.kind,
    mediumFlammable: s.medium.flammable,
    mediumSealer: s.medium.sealer,
    mediumClear: s.medium.driesClear,
    mediumWaterproof: s.medium.waterproof,
    mediumFilm: s.medium.film,
    substrateKind: s.substrate.kind,
    heatSafe: s.substrate.heatSafe,
    needsPreparation: s.substrate.needsPreparation,
    gloss: s.substrate.gloss * s.preparation.glossTimes,
    thirst: s.substrate.thirst * s.preparation.thirstTimes,
    groundLightness: labOf(ground).l,
    preparationKind: s.preparation.kind,
    preparationFits: PREPARED[s.substrate.kind].includes(s.preparation.kind),
    finishKind: s.finish?.kind ?? 'none',
    finishTwoPart: s.finish?.twoPart ?? false,
    finishFlammable: s.finish?.flammable ?? false,
    coatMm: s.coatMm,
    rounds: s.rounds,
    dryShare: dryShare(context),
    dryingFactor: dryingFactor(air),
    copyAgeH: s.copyAgeH,
    trim: s.trim,
    hotTool: isOne(TOOLS.hot, s.pressing?.kind) || isOne(TOOLS.hot, s.rubTool?.kind),
    patchMm,
    washed: wear.includes('wash'),
    meetsWater: wear.some(test => WITH_WATER.has(test)),
    isWorn: wear.length > 0,
    curedHours: s.dryHours + fixedHours(method),
    methodTakesColourant: method.takes.colourants.includes(s.printer.colourant),
    methodTakesDonor: method.takes.donors.includes(s.donor.kind),
    methodTakesMedium: method.takes.mediums.includes(s.medium.kind),
    methodTakesSubstrate: method.takes.substrates.includes(s.substrate.kind),
  };
}

export type Facts = ReturnType<typeof factsOf>;
export type FactName = keyof Facts;
