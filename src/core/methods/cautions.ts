import type { CautionId } from './schema.ts';

/** What can hurt at a step, and what is usually done about it. Never dismissed for good. */
export interface Caution {
  readonly title: string;
  /** Whole: with whom to follow. */
  readonly text: string;
  /** Without that, for where several stand together and it is said once. */
  readonly short: string;
}

/** What every caution defers to. */
export const FOLLOW_LABEL = 'Follow the product’s own label and safety sheet, and your local rules.';

const caution = (title: string, short: string): Caution => ({
  title,
  short,
  text: `${short} ${FOLLOW_LABEL}`,
});

/** docs/HANDBOOK.md §11, shown at the step. */
export const CAUTIONS: Record<CautionId, Caution> = {
  'wet-coats': caution(
    'Air and gloves',
    'Open a window and wear gloves while mediums and glues are wet; keep them off skin and eyes. If it gets in an eye, rinse with plenty of water and ask a doctor.',
  ),
  'long-rubbing': caution(
    'Spare your fingers',
    'Rub with a sponge or gloves and rest between patches; wet paper wears skin through before you feel it.',
  ),
  sanding: caution(
    'Dust',
    'Wear a dust mask and sand outdoors or with suction. Old paint may hold lead: have it tested by someone qualified before you sand it.',
  ),
  cutting: caution('Knife', 'Cut away from your hand, along a metal ruler, on a mat.'),
  products: caution(
    'Not for plates, toys or children’s clothes',
    'Do not use a transfer where it touches food, mouths or children unless every product’s label allows it.',
  ),
  solvent: caution(
    'Flammable vapour',
    'Alcohol, solvent, spray adhesive and spray clear catch fire: ventilate, wear gloves, no flame, heat gun or hot oven in the room.',
  ),
  'after-solvent': caution(
    'Let vapours clear first',
    'Do not bring heat to anything that is still wet with solvent or alcohol. Air the room until no smell is left.',
  ),
  'two-part': caution(
    'Two-part clear',
    'It may contain isocyanates. Without a proper respirator and training, do not use it. Follow the maker’s safety sheet and ask a qualified person.',
  ),
  etching: caution(
    'Etching cream burns without pain at first',
    'It holds fluoride-based acid: gloves, goggles, ventilation, plenty of water. After any contact get medical help at once, even if it does not hurt. Never with children. Etched surfaces are not food-safe.',
  ),
  oven: caution(
    'Oven and hot bodies',
    'Oven mitts. Never heat craft work in an oven used for food. Sudden heat or cold cracks tile and glass. Ventilate: inks and plastics fume.',
  ),
  'hot-tools': caution(
    'Heat gun, iron, torch',
    'They burn skin and start fires. Keep them off wet solvent and away from plastics, and set them down on a stand.',
  ),
  wax: caution(
    'Hot wax',
    'Lowest heat, ventilate, never leave it alone. Smother burning wax with a lid; never water.',
  ),
};
