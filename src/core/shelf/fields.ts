import { celsius, humidity, mm, say, thick, type Words } from '../say/index.ts';
import {
  COLOURANTS,
  DONOR_KINDS,
  FINISH_KINDS,
  MEDIUM_KINDS,
  PREPARATION_KINDS,
  RELEASES,
  SIDES,
  SUBSTRATE_KINDS,
  TOOL_KINDS,
} from './kinds.ts';
import type { ShelfKind } from './schema.ts';

/** One property of a kind of item: how it is asked for, shown, and written as a CSV column. */
export interface ShelfField {
  readonly key: string;
  readonly label: string;
  readonly type:
    | 'text'
    | 'number'
    | 'length'
    | 'volume'
    | 'yes-no'
    | 'choice'
    | 'many'
    | 'colour'
    | 'size'
    | 'day';
  readonly unit?: string;
  readonly step?: number;
  readonly choices?: readonly string[];
  /** One line that says what it means, where the label alone would not. */
  readonly help?: Words;
}

const text = (key: string, label: string, help?: Words): ShelfField => ({ key, label, type: 'text', help });
const number = (key: string, label: string, unit = '', step = 0.1, help?: Words): ShelfField => ({
  key,
  label,
  type: 'number',
  unit,
  step,
  help,
});
const yes = (key: string, label: string, help?: Words): ShelfField => ({ key, label, type: 'yes-no', help });
const choice = (key: string, label: string, choices: readonly string[]): ShelfField => ({
  key,
  label,
  type: 'choice',
  choices,
});
const share = (key: string, label: string, help: string) => number(key, label, '0 to 1', 0.05, help);
const COUNTED = 'Goes down by what trials use. Write 0 if you do not count it.';
const NOTE = text('note', 'Note');
const NAME = text('name', 'Name');

/** What is known of each kind of thing on the shelf, in the order it is asked for. */
export const SHELF_FIELDS: Record<ShelfKind, readonly ShelfField[]> = {
  printers: [
    NAME,
    choice('colourant', 'Colourant', COLOURANTS),
    yes('oneColour', 'Prints in one colour only'),
    yes(
      'fusesWithHeat',
      'Fuses the colourant with heat',
      'Laser printers and copiers do; waxy sheets can melt in them.',
    ),
    { key: 'widthMm', label: 'Widest sheet', type: 'length' },
    number('dpi', 'Resolution', 'dpi', 50),
    number('pricePerPage', 'Cost of a page', '', 0.01),
    yes(
      'mirrorSetting',
      'Has a mirror setting of its own',
      'Leave it off: sheets are mirrored already where they must be.',
    ),
    yes('singleSheet', 'Takes a single odd sheet'),
    number(
      'barAcross',
      'Its long bar across measured',
      'mm',
      0.1,
      say`On a sheet it printed: the bar that should be ${mm(100)}.`,
    ),
    number(
      'barDown',
      'Its long bar down measured',
      'mm',
      0.1,
      say`On a sheet it printed: the bar that should be ${mm(100)}.`,
    ),
    NOTE,
  ],
  donors: [
    NAME,
    choice('kind', 'Kind', DONOR_KINDS),
    number('gsm', 'Weight', 'g/m²', 5),
    yes('coated', 'Has a gloss coat'),
    choice('printSide', 'Print on', SIDES),
    { key: 'accepts', label: 'Takes', type: 'many', choices: COLOURANTS },
    share('absorbency', 'Absorbency', '0 is film, 1 is blotting paper.'),
    choice('releases', 'Comes off by', RELEASES),
    yes('clear', 'Can be seen through'),
    { key: 'sheet', label: 'Sheet', type: 'size' },
    number('packSize', 'Sheets in a pack', '', 1),
    number('packPrice', 'Price of a pack', '', 0.1),
    number('onHand', 'Sheets on hand', '', 1, COUNTED),
    NOTE,
  ],
  mediums: [
    NAME,
    choice('kind', 'Kind', MEDIUM_KINDS),
    number(
      'openMin',
      'Stays open',
      'min',
      0.5,
      say`Minutes until a ${thick(0.3)} coat turns tacky on a closed ground.`,
    ),
    number(
      'dryHours',
      'Dry under paper',
      'h',
      0.5,
      say`Hours for a ${thick(0.3)} coat at ${celsius(21)} and ${humidity(45)} humidity.`,
    ),
    share('rewets', 'Softens again in water', '0 not at all, 1 fully.'),
    share('grip', 'Grip', 'Share of the picture that holds when all goes well.'),
    choice('film', 'Dry film', ['closed', 'porous']),
    yes('driesClear', 'Dries clear'),
    yes('waterproof', 'Resists water when dry'),
    yes('flammable', 'Flammable'),
    {
      key: 'paint',
      label: 'Dries to a colour',
      type: 'colour',
      help: 'For paints; nothing for what dries clear.',
    },
    yes('sealer', 'Contains a sealer', 'A sealed paint does not take a print.'),
    number('densityGPerMl', 'Density', 'g/mL', 0.01),
    { key: 'jarMl', label: 'Jar', type: 'volume' },
    number('jarPrice', 'Price of a jar or roll', '', 0.1),
    number('rollDm2', 'Roll of tape', 'dm²', 1, 'For tapes: the area of a roll. 0 for what comes in jars.'),
    { key: 'onHandMl', label: 'On hand', type: 'volume', help: COUNTED },
    text('batch', 'Batch'),
    { key: 'opened', label: 'Opened on', type: 'day' },
    NOTE,
  ],
  substrates: [
    NAME,
    choice('kind', 'Kind', SUBSTRATE_KINDS),
    share('thirst', 'Thirst', 'How fast it drinks water: 0 glazed, 1 raw end grain.'),
    share('gloss', 'Gloss', '0 dull, 1 mirror.'),
    choice('texture', 'Texture', ['grain', 'weave', 'slate', 'smooth']),
    { key: 'colour', label: 'Colour', type: 'colour' },
    yes('needsPreparation', 'Needs preparing first'),
    yes('heatSafe', 'Stands heat', 'No for wax, plastic, foam.'),
    yes('onePiece', 'Each is a piece of its own', 'A tile or a plate, instead of a board that is cut.'),
    { key: 'piece', label: 'Size of a piece', type: 'size' },
    number('pricePerDm2', 'Price', 'per dm²', 0.01),
    NOTE,
  ],
  preparations: [
    NAME,
    choice('kind', 'Kind', PREPARATION_KINDS),
    number('thirstTimes', 'Thirst becomes', 'times', 0.05, '1 leaves it as it is, 0.3 drinks a third.'),
    number('glossTimes', 'Gloss becomes', 'times', 0.05),
    share('whitens', 'Whitens', '0 not at all, 1 paper white.'),
    number('minutes', 'Work for a patch', 'min', 0.5),
    number('waitHours', 'Then wait', 'h', 0.5),
    yes('dust', 'Makes dust'),
    number('pricePerDm2', 'Price', 'per dm²', 0.01),
    NOTE,
  ],
  tools: [
    NAME,
    choice('kind', 'Kind', TOOL_KINDS),
    number('washMin', 'Washing between mediums', 'min', 1),
    number('holds', 'Pieces it takes at once', '', 1),
    NOTE,
  ],
  finishes: [
    NAME,
    choice('kind', 'Kind', FINISH_KINDS),
    number('coats', 'Coats', '', 1),
    number('minutes', 'Work for a coat', 'min', 0.5),
    number('waitHours', 'Wait after a coat', 'h', 0.5),
    number('recoatHours', 'Next coat no later than (0: any time)', 'h', 0.5, 'As its label says.'),
    yes('twoPart', 'Two parts that are mixed'),
    yes('flammable', 'Flammable'),
    number('pricePerDm2', 'Price', 'per dm²', 0.01),
    NOTE,
  ],
};

/** What each kind is called: many, one, and a word on what belongs there. */
export const SHELF_NAMES: Record<ShelfKind, { readonly many: string; readonly one: string }> = {
  printers: { many: 'Printers', one: 'printer' },
  donors: { many: 'Donor sheets', one: 'donor sheet' },
  mediums: { many: 'Mediums', one: 'medium' },
  substrates: { many: 'Substrates', one: 'substrate' },
  preparations: { many: 'Preparations', one: 'preparation' },
  tools: { many: 'Tools', one: 'tool' },
  finishes: { many: 'Finishes', one: 'finish' },
};
