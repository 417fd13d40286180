import type { CautionId } from './schema.ts';

/** What can hurt at a step, and what is usually done about it. Never dismissed for good. */
export interface Caution {
  readonly title: string;
  readonly text: string;
}

const LABEL = 'Follow the product’s own label and safety sheet, and your local rules.';

/** HANDBOOK §11, shown at the step. */
export const CAUTIONS: Record<CautionId, Caution> = {
  'wet-coats': {
    title: 'Air and gloves',
    text: `Open a window and wear gloves while mediums and glues are wet; keep them off skin and eyes. ${LABEL} If it gets in an eye, rinse with plenty of water and ask a doctor.`,
  },
  'long-rubbing': {
    title: 'Spare your fingers',
    text: `Rub with a sponge or gloves and rest between patches; wet paper wears skin through before you feel it. ${LABEL}`,
  },
  sanding: {
    title: 'Dust',
    text: `Wear a dust mask and sand outdoors or with suction. Old paint may hold lead: have it tested by someone qualified before you sand it. ${LABEL}`,
  },
  cutting: {
    title: 'Knife',
    text: `Cut away from your hand, along a metal ruler, on a mat. ${LABEL}`,
  },
  products: {
    title: 'Not for plates, toys or children’s clothes',
    text: `Do not use a transfer where it touches food, mouths or children unless every product’s label allows it. ${LABEL}`,
  },
  solvent: {
    title: 'Flammable vapour',
    text: `Alcohol, solvent, spray adhesive and spray clear catch fire: ventilate, wear gloves, no flame, heat gun or hot oven in the room. ${LABEL}`,
  },
  'after-solvent': {
    title: 'Let vapours clear first',
    text: `Do not bring heat to anything that is still wet with solvent or alcohol. Air the room until no smell is left. ${LABEL}`,
  },
  'two-part': {
    title: 'Two-part clear',
    text: `It may contain isocyanates. Without a proper respirator and training, do not use it. Follow the maker’s safety sheet and ask a qualified person. ${LABEL}`,
  },
  etching: {
    title: 'Etching cream burns without pain at first',
    text: `It holds fluoride-based acid: gloves, goggles, ventilation, plenty of water. After any contact get medical help at once, even if it does not hurt. Never with children. Etched surfaces are not food-safe. ${LABEL}`,
  },
  oven: {
    title: 'Oven and hot bodies',
    text: `Oven mitts. Never heat craft work in an oven used for food. Sudden heat or cold cracks tile and glass. Ventilate: inks and plastics fume. ${LABEL}`,
  },
  'hot-tools': {
    title: 'Heat gun, iron, torch',
    text: `They burn skin and start fires. Keep them off wet solvent and away from plastics, and set them down on a stand. ${LABEL}`,
  },
  wax: {
    title: 'Hot wax',
    text: `Lowest heat, ventilate, never leave it alone. Smother burning wax with a lid; never water. ${LABEL}`,
  },
};
