export type CautionId = 'wet-coats' | 'long-rubbing' | 'sanding' | 'cutting' | 'products';

/** What can hurt at a step, and what is usually done about it. Never dismissed for good. */
export interface Caution {
  readonly title: string;
  readonly text: string;
}

const LABEL = 'Follow the product’s own label and safety sheet, and your local rules.';

/** HANDBOOK §11, for the steps that are in the methods so far. */
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
};
