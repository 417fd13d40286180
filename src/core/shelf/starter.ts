import type { Shelf } from './schema.ts';

const A4 = { w: 210, h: 297 };

/** The small shelf everybody starts from; items are described by what they are, prices are invented. */
export const STARTER_SHELF: Shelf = {
  printers: [
    { id: 'office-laser', name: 'The office laser (black toner)', colourant: 'toner', pricePerPage: 0.04 },
    { id: 'cabin-inkjet', name: 'The cabin inkjet (dye)', colourant: 'dye ink', pricePerPage: 0.09 },
    { id: 'chart-printer', name: 'The chart printer (pigment)', colourant: 'pigment ink', pricePerPage: 0.12 },
  ],
  donors: [
    { id: 'copy-80', name: '80 g copy paper', gsm: 80, coated: false, sheet: A4, packSize: 500, packPrice: 5.5 },
    { id: 'copy-70', name: '70 g cheap copy paper', gsm: 70, coated: false, sheet: A4, packSize: 500, packPrice: 4.2 },
    { id: 'smooth-120', name: '120 g smooth paper', gsm: 120, coated: false, sheet: A4, packSize: 250, packPrice: 8.9 },
    { id: 'gloss-130', name: '130 g gloss-coated paper', gsm: 130, coated: true, sheet: A4, packSize: 100, packPrice: 9.5 },
  ],
  mediums: [
    {
      id: 'matte-acrylic', name: 'Matte acrylic medium', openMin: 5, dryHours: 8, rewets: 0.08, grip: 0.96,
      densityGPerMl: 1.05, jarMl: 250, jarPrice: 11.5,
    },
    {
      id: 'soft-gel', name: 'Soft gel medium', openMin: 7, dryHours: 12, rewets: 0.05, grip: 0.98,
      densityGPerMl: 1.06, jarMl: 237, jarPrice: 14,
    },
    {
      id: 'decoupage-glue', name: 'Decoupage glue', openMin: 4, dryHours: 6, rewets: 0.35, grip: 0.88,
      densityGPerMl: 1.04, jarMl: 250, jarPrice: 7.2,
    },
    {
      id: 'white-pva', name: 'White PVA glue', openMin: 4, dryHours: 9, rewets: 0.7, grip: 0.8,
      densityGPerMl: 1.08, jarMl: 500, jarPrice: 5,
    },
    {
      id: 'transfer-medium', name: 'Medium sold for photo transfer', openMin: 6, dryHours: 14, rewets: 0.04, grip: 0.97,
      densityGPerMl: 1.1, jarMl: 236, jarPrice: 16.8,
    },
  ],
  substrates: [
    { id: 'birch-ply', name: 'Birch plywood', thirst: 0.55, gloss: 0.05, texture: 'grain', colour: [0.6, 0.42, 0.25], pricePerDm2: 0.35 },
    { id: 'white-tile', name: 'White tile, etched dull', thirst: 0.08, gloss: 0.3, texture: 'smooth', colour: [0.84, 0.84, 0.81], pricePerDm2: 0.6 },
    { id: 'slate', name: 'Grey slate', thirst: 0.25, gloss: 0.1, texture: 'slate', colour: [0.13, 0.14, 0.16], pricePerDm2: 0.9 },
    { id: 'cotton', name: 'Heavy cotton, washed', thirst: 0.7, gloss: 0, texture: 'weave', colour: [0.78, 0.74, 0.64], pricePerDm2: 0.22 },
    { id: 'painted-tin', name: 'White-painted metal', thirst: 0.02, gloss: 0.55, texture: 'smooth', colour: [0.86, 0.86, 0.85], pricePerDm2: 0.75 },
  ],
  preparations: [
    { id: 'none', name: 'Nothing done', thirstTimes: 1, glossTimes: 1, whitens: 0, minutes: 0, waitHours: 0, dust: false },
    { id: 'sanded', name: 'Sanded smooth, wiped', thirstTimes: 1.1, glossTimes: 0.3, whitens: 0, minutes: 3, waitHours: 0, dust: true },
    { id: 'white-coat', name: 'White base coat', thirstTimes: 0.4, glossTimes: 0.8, whitens: 0.85, minutes: 2, waitHours: 2, dust: false },
    { id: 'gel-primer', name: 'Clear gel primer', thirstTimes: 0.25, glossTimes: 0.9, whitens: 0, minutes: 2, waitHours: 3, dust: false },
  ],
};
