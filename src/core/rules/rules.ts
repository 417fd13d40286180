import type { FactorKey } from '../factors/index.ts';
import { MEDIUMS } from '../shelf/index.ts';
import type { FactName } from './facts.ts';

/** A condition over facts, as data. */
export type Test =
  | { readonly fact: FactName; readonly is: readonly (string | boolean)[] }
  | { readonly fact: FactName; readonly atLeast: number }
  | { readonly fact: FactName; readonly below: number }
  | { readonly all: readonly Test[] }
  | { readonly any: readonly Test[] }
  | { readonly not: Test };

/** One thing makers know (docs/HANDBOOK.md §4): when it holds, how grave it is, and why. */
export interface Rule {
  readonly id: string;
  readonly severity: 'stop' | 'warn' | 'advise';
  /** Who is hurt. Such a rule cannot be overridden. */
  readonly harms?: 'person' | 'machine';
  /** The choices it is about; it is shown at those. */
  readonly about: readonly FactorKey[];
  readonly when: Test;
  /** The reason, in a sentence a maker understands. */
  readonly why: string;
  /** The way out. */
  readonly instead: string;
}

const is = (fact: FactName, ...values: (string | boolean)[]): Test => ({ fact, is: values });
const all = (...tests: Test[]): Test => ({ all: tests });
const any = (...tests: Test[]): Test => ({ any: tests });
const not = (test: Test): Test => ({ not: test });
const atLeast = (fact: FactName, value: number): Test => ({ fact, atLeast: value });
const below = (fact: FactName, value: number): Test => ({ fact, below: value });

const INKS = ['pigment ink', 'dye ink'];

/** docs/HANDBOOK.md §4: hard stops first, then warnings, then advice. */
export const RULES: readonly Rule[] = [
  {
    id: 'dissolving-in-inkjet',
    severity: 'stop',
    harms: 'machine',
    about: ['donor', 'printer'],
    when: all(is('donorKind', 'dissolving paper'), is('colourant', ...INKS)),
    why: 'A sheet that dissolves in water goes to slime in an inkjet and gums it up.',
    instead: 'Print it with toner.',
  },
  {
    id: 'film-in-laser',
    severity: 'stop',
    harms: 'machine',
    about: ['donor', 'printer'],
    when: all(
      is(
        'donorKind',
        'clear film',
        'decal film',
        'iron-on sheet, light goods',
        'iron-on sheet, dark goods',
        'release sheet',
      ),
      is('fuses', true),
    ),
    why: 'The heat of a laser printer melts this sheet round its drum.',
    instead: 'Print it with an inkjet.',
  },
  {
    id: 'solvent-near-heat',
    severity: 'stop',
    harms: 'person',
    about: ['medium', 'pressing', 'rubTool'],
    when: all(is('mediumFlammable', true), any(is('usesHeat', true), is('hotTool', true))),
    why: 'Solvent vapour and a hot tool make a fire.',
    instead: 'Take a medium that does not burn, or a cold tool.',
  },
  {
    id: 'heat-on-plastic-or-wax',
    severity: 'stop',
    harms: 'person',
    about: ['substrate', 'pressing'],
    when: all(
      is('heatSafe', false),
      not(is('mediumKind', 'wax')),
      any(is('usesHeat', true), is('hotTool', true)),
    ),
    why: 'Wax, plastic and foam melt, fume or catch fire under heat.',
    instead: 'Choose a ground that stands heat, or a cold method.',
  },
  {
    id: 'sheet-too-wide',
    severity: 'stop',
    harms: 'machine',
    about: ['donor', 'printer'],
    when: is('donorFits', false),
    why: 'This sheet is wider than the printer takes.',
    instead: 'Cut it down, or take the wider printer.',
  },
  {
    id: 'inkjet-rubbed-wet',
    severity: 'stop',
    about: ['printer', 'donor'],
    when: all(
      is('usesWater', true),
      is('removal', 'rub', 'dissolve', 'peel'),
      is('colourant', ...INKS),
      not(is('methodTakesColourant', true)),
    ),
    why: 'Inkjet ink on plain paper runs with the water or does not let go of the sheet.',
    instead: 'Print with toner.',
  },
  {
    id: 'inkjet-under-tape',
    severity: 'stop',
    about: ['printer', 'medium'],
    when: all(is('mediumKind', ...MEDIUMS.tapes), is('colourant', ...INKS, 'stamp ink')),
    why: 'Tape lifts toner because toner lies on top of the paper; ink has soaked in and stays there.',
    instead: 'Print with toner.',
  },
  {
    id: 'dye-on-film',
    severity: 'stop',
    about: ['printer', 'donor'],
    when: all(is('donorKind', 'clear film'), is('colourant', 'dye ink')),
    why: 'Dye sinks into the film’s coating and stays in it when the film is pulled.',
    instead: 'Print with pigment ink.',
  },
  {
    id: 'sealed-paint-bed',
    severity: 'stop',
    about: ['medium'],
    when: all(is('bedOfPaint', true), is('mediumSealer', true)),
    why: 'A paint that seals itself closes before the toner has sunk in.',
    instead: 'Take an unsealed matt paint.',
  },
  {
    id: 'glossy-untreated',
    severity: 'stop',
    about: ['substrate', 'preparation', 'medium'],
    when: all(
      atLeast('gloss', 0.6),
      is('mediumKind', ...MEDIUMS.waterBased),
      not(is('preparationKind', 'etch', 'white base coat')),
    ),
    why: 'On glaze or glass that is neither etched nor coated the medium comes away as a clean film.',
    instead: 'Etch it or give it a white base coat, and check in raking light.',
  },
  {
    id: 'washed-too-soon',
    severity: 'stop',
    about: ['dryHours'],
    when: all(is('washed', true), below('curedHours', 48)),
    why: 'Washed before it has fully cured, the picture comes off.',
    instead: 'Wait two to four days before the wash.',
  },
  {
    id: 'donor-refuses-colourant',
    severity: 'stop',
    about: ['donor', 'printer'],
    when: is('donorTakes', false),
    why: 'This sheet does not take this colourant: it smears, beads or never dries.',
    instead: 'Choose another sheet or another printer.',
  },
  {
    id: 'wrong-medium',
    severity: 'stop',
    about: ['medium'],
    when: is('methodTakesMedium', false),
    why: 'This method does not work with this kind of medium.',
    instead: 'Choose a medium the method is made for.',
  },
  {
    id: 'wrong-donor',
    severity: 'stop',
    about: ['donor'],
    when: is('methodTakesDonor', false),
    why: 'This method needs another kind of sheet: this one does not let go the way it should.',
    instead: 'Choose a sheet the method is made for.',
  },
  {
    id: 'wrong-colourant',
    severity: 'warn',
    about: ['printer'],
    when: all(is('methodTakesColourant', false), is('donorTakes', true)),
    why: 'This method is known to work with another colourant.',
    instead: 'Keep it if that is what you want to find out.',
  },
  {
    id: 'unusual-ground',
    severity: 'warn',
    about: ['substrate'],
    when: is('methodTakesSubstrate', false),
    why: 'This method is seldom used on such a ground.',
    instead: 'Keep it if that is what you want to find out.',
  },
  {
    id: 'needs-preparation',
    severity: 'warn',
    about: ['substrate', 'preparation'],
    when: all(is('needsPreparation', true), is('preparationKind', 'none'), below('gloss', 0.6)),
    why: 'This ground needs preparing before anything holds on it.',
    instead: 'Prepare it.',
  },
  {
    id: 'unfit-preparation',
    severity: 'warn',
    about: ['substrate', 'preparation'],
    when: is('preparationFits', false),
    why: 'This ground is not prepared that way: it does nothing for it, or spoils it.',
    instead: 'Choose another preparation, or keep it if that is what you want to find out.',
  },
  {
    id: 'half-glossy',
    severity: 'warn',
    about: ['substrate', 'preparation'],
    when: all(
      atLeast('gloss', 0.5),
      below('gloss', 0.6),
      is('mediumKind', ...MEDIUMS.waterBased),
      not(is('preparationKind', 'etch', 'white base coat')),
    ),
    why: 'This ground is glossy. With nothing done to it, medium comes away as a clean film.',
    instead: 'Sand it dull or coat it.',
  },
  {
    id: 'raw-canvas-offset',
    severity: 'warn',
    about: ['substrate', 'preparation'],
    when: all(
      is('needsClosedGround', true),
      any(is('substrateKind', 'raw canvas'), atLeast('thirst', 0.65)),
      is('preparationKind', 'none'),
    ),
    why: 'An open ground drinks the paint before the picture is off the plate.',
    instead: 'Colour or prime it first.',
  },
  {
    id: 'paint-does-not-show',
    severity: 'warn',
    about: ['medium', 'substrate', 'preparation'],
    when: all(is('paintIsPicture', true), below('paintContrast', 20)),
    why: 'Here the paint is the picture: a clear medium, or paint like its ground, shows none.',
    instead: 'Take a paint much lighter or darker than the ground, or colour the ground.',
  },
  {
    id: 'gloss-paper-rubbed',
    severity: 'warn',
    about: ['donor'],
    when: all(
      is('removal', 'rub'),
      is('donorCoated', true),
      is('donorKind', 'gloss-coated paper', 'magazine page'),
    ),
    why: 'A gloss coat may let go as a whole, picture and all.',
    instead: 'Take plain paper, or test it on one board first.',
  },
  {
    id: 'waxy-in-laser',
    severity: 'warn',
    about: ['donor', 'printer'],
    when: all(is('donorKind', 'waxy backing'), is('fuses', true)),
    why: 'A waxy side melts in some laser printers and smears in others.',
    instead: 'Feed one sheet, look at it before the next, and stop if it smells.',
  },
  {
    id: 'odd-sheet-in-tray',
    severity: 'warn',
    about: ['donor', 'printer'],
    when: all(is('donorOdd', true), is('takesSingleSheets', false)),
    why: 'This printer takes no single sheets, and odd ones stick together in a tray.',
    instead: 'Lay one sheet at a time on top of plain paper, or take a printer with a single feed.',
  },
  {
    id: 'water-stays-out',
    severity: 'warn',
    about: ['donor'],
    when: all(is('removal', 'rub', 'soak', 'dissolve'), below('donorAbsorbency', 0.15)),
    why: 'Water does not get through this sheet, so it cannot be softened and taken off from behind.',
    instead: 'Take a sheet that drinks, or a method that peels or pulls.',
  },
  {
    id: 'other-release',
    severity: 'warn',
    about: ['donor'],
    when: all(
      is('methodTakesDonor', true),
      any(
        all(
          is('removal', 'peel', 'pull'),
          is('donorKind', 'quick-release paper', 'clear film', 'decal film', 'waxy backing'),
          is('donorReleases', 'rub', 'dissolve', 'none'),
        ),
        all(is('removal', 'dissolve'), is('donorReleases', 'rub', 'peel', 'pull', 'none')),
      ),
    ),
    why: 'By what your shelf says of it, this sheet does not come off the way this method takes it off.',
    instead: 'Take one that does, or correct the shelf.',
  },
  {
    id: 'softens-in-water',
    severity: 'warn',
    about: ['medium', 'finish'],
    when: all(is('meetsWater', true), is('mediumWaterproof', false), is('finishKind', 'none')),
    why: 'This medium softens in water when it is dry, and nothing covers it when it is tested wet.',
    instead: 'Put a finish on, or keep it if that is what you want to see.',
  },
  {
    id: 'old-copies',
    severity: 'warn',
    about: ['copyAgeH'],
    when: all(is('colourant', 'toner'), atLeast('copyAgeH', 72)),
    why: 'Some makers find that only copies a few hours old let go of their toner.',
    instead: 'Print again just before, or keep it if that is your question.',
  },
  {
    id: 'dark-ground',
    severity: 'warn',
    about: ['substrate', 'preparation'],
    when: below('groundLightness', 62),
    why: 'No printer has white: every white part takes the colour of this ground, and pale tones go missing.',
    instead: 'Whiten the ground or choose a picture with strong darks.',
  },
  {
    id: 'too-early',
    severity: 'warn',
    about: ['dryHours', 'medium', 'coatMm'],
    when: all(is('waitsForDrying', true), below('dryShare', 0.75)),
    why: 'In this air this coat is probably not dry by then: the picture drags and rolls off with the paper.',
    instead: 'Wait longer, or keep it if that is what you want to find out.',
  },
  {
    id: 'thick-coat-hurried',
    severity: 'warn',
    about: ['coatMm', 'dryHours'],
    when: all(is('waitsForDrying', true), atLeast('coatMm', 0.8), below('dryShare', 0.35)),
    why: 'A thick coat that is hurried with heat skins over and stays wet below.',
    instead: 'Give it a day, or coat thinner.',
  },
  {
    id: 'large-tissue',
    severity: 'warn',
    about: ['donor'],
    when: all(is('sheetOfTissue', true), atLeast('patchMm', 90)),
    why: 'The edge of the tissue shows on large pieces, and bubbles come.',
    instead: 'Test it small first.',
  },
  {
    id: 'two-part-clear',
    severity: 'warn',
    about: ['finish', 'medium'],
    when: any(is('finishTwoPart', true), is('mediumKind', 'two-part clear')),
    why: 'Two-part clear may hold isocyanates.',
    instead: 'Only with a proper respirator and training; otherwise choose another finish.',
  },
  {
    id: 'old-paint-sanded',
    severity: 'warn',
    about: ['preparation', 'substrate'],
    when: all(is('preparationKind', 'sand'), is('substrateKind', 'painted furniture', 'painted metal')),
    why: 'Old paint may hold lead, and sanding sets it free.',
    instead: 'Have it tested by someone qualified first; dust mask.',
  },
  {
    id: 'spray-after-heat',
    severity: 'warn',
    about: ['finish'],
    when: all(is('finishFlammable', true), is('usesHeat', true)),
    why: 'Spray clear burns, and this method uses heat.',
    instead: 'Let everything cool and put the hot tools away before you spray.',
  },
  {
    id: 'margin-left',
    severity: 'advise',
    about: ['trim'],
    when: is('trim', 'margin'),
    why: 'The medium reaches out to the paper’s edge and leaves a halo round the picture.',
    instead: 'Trim to the image if you mind it.',
  },
  {
    id: 'heavy-paper',
    severity: 'advise',
    about: ['donor'],
    when: all(is('removal', 'rub'), atLeast('donorGsm', 110), not(is('donorKind', 'gloss-coated paper'))),
    why: 'Heavy paper prints well and leaves more veil: it takes more rounds.',
    instead: 'Reckon with one round more.',
  },
  {
    id: 'thirsty-ground',
    severity: 'advise',
    about: ['substrate', 'preparation'],
    when: all(
      atLeast('thirst', 0.65),
      is('mediumKind', ...MEDIUMS.waterBased),
      is('preparationKind', 'none'),
      is('needsClosedGround', false),
    ),
    why: 'A thirsty ground drinks the coat before the print is on it.',
    instead: 'Prime it, or coat the print as well.',
  },
  {
    id: 'open-film-worn',
    severity: 'advise',
    about: ['medium', 'finish'],
    when: all(is('isWorn', true), is('mediumFilm', 'porous'), is('finishKind', 'none')),
    why: 'The dry film of this medium is open: it takes up dirt and water.',
    instead: 'Seal it with a finish before it is used.',
  },
  {
    id: 'medium-not-clear',
    severity: 'advise',
    about: ['medium'],
    when: all(is('mediumClear', false), is('paintIsColour', false)),
    why: 'This medium does not dry clear: what shows between the lines is the medium, not the ground.',
    instead: 'Take a clear one where the ground is to be seen.',
  },
  {
    id: 'paint-colour-unknown',
    severity: 'advise',
    about: ['medium'],
    when: all(is('paintIsPicture', true), is('paintKnown', false)),
    why: 'Your shelf does not say what colour this paint dries to, and only one unlike its ground shows a picture.',
    instead: 'Write its colour on the shelf.',
  },
  {
    id: 'white-sheet-stays',
    severity: 'advise',
    about: ['donor'],
    when: all(is('sheetOfTissue', true), is('donorSeeThrough', false)),
    why: 'This sheet stays in the piece, and you cannot see through it: its white hides the ground.',
    instead: 'Take a sheet that turns clear, or a white ground.',
  },
  {
    id: 'slow-air',
    severity: 'advise',
    about: ['dryHours'],
    when: atLeast('dryingFactor', 2),
    why: 'This air is damp or cold: everything dries at least twice as slowly as the jar says.',
    instead: 'Reckon with longer waits.',
  },
];
