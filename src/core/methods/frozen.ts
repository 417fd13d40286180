/** What a method's steps did, and what kind of method it was, when methods began to say so. */
export interface FrozenMethod {
  readonly id: string;
  readonly traits: readonly string[];
  readonly start?: unknown;
  readonly mirrorNote?: string;
  readonly steps: readonly FrozenStep[];
}
export interface FrozenStep {
  readonly id: string;
  readonly does: string;
  readonly holds?: boolean;
  readonly reverses?: boolean;
  readonly faceUp?: readonly string[];
  readonly dries?: boolean;
}

/** For methods that were kept before: never changed again, whatever becomes of today's methods. */
export const FROZEN: readonly FrozenMethod[] = [
  {
    id: 'wet-rub',
    traits: [],
    start: { mediums: ['matte acrylic medium', 'soft gel', 'white glue'], dryHours: [4, 20] },
    steps: [
      { id: 'mark', does: 'mark' },
      { id: 'prepare', does: 'prepare' },
      { id: 'coat', does: 'coat' },
      { id: 'place', does: 'place', reverses: true },
      { id: 'wet', does: 'wet' },
      { id: 'rub', does: 'rub', dries: true },
      { id: 'look', does: 'look' },
      { id: 'finish', does: 'finish' },
    ],
  },
  {
    id: 'thick-coat',
    traits: [],
    steps: [
      { id: 'mark', does: 'mark' },
      { id: 'prepare', does: 'prepare' },
      { id: 'coat', does: 'coat' },
      { id: 'place', does: 'place', reverses: true },
      { id: 'wet', does: 'wet' },
      { id: 'rub', does: 'rub', dries: true },
      { id: 'look', does: 'look' },
      { id: 'hang', does: 'hang' },
      { id: 'cure', does: 'cure' },
    ],
  },
  {
    id: 'paint-bed',
    traits: ['bed of paint', 'paint is the colour'],
    steps: [
      { id: 'mark', does: 'mark' },
      { id: 'prepare', does: 'prepare' },
      { id: 'base', does: 'base', dries: true },
      { id: 'coat', does: 'coat' },
      { id: 'place', does: 'place', reverses: true },
      { id: 'wet', does: 'wet' },
      { id: 'rub', does: 'rub', dries: true },
      { id: 'look', does: 'look' },
      { id: 'soften', does: 'soften' },
      { id: 'finish', does: 'finish' },
    ],
  },
  {
    id: 'wax-bed',
    traits: [],
    steps: [
      { id: 'mark', does: 'mark' },
      { id: 'coat', does: 'coat' },
      { id: 'place', does: 'place', reverses: true },
      { id: 'burnish', does: 'burnish', holds: true },
      { id: 'wet', does: 'wet' },
      { id: 'rub', does: 'rub', dries: true },
      { id: 'look', does: 'look' },
      { id: 'fuse', does: 'fuse' },
    ],
  },
  {
    id: 'tape-lift',
    traits: ['strips of tape'],
    mirrorNote: 'You look at the picture through the tape that lifted it.',
    steps: [
      { id: 'mark', does: 'mark' },
      { id: 'prepare', does: 'prepare' },
      { id: 'coat', does: 'tape' },
      { id: 'burnish', does: 'burnish' },
      { id: 'soak', does: 'soak' },
      { id: 'wet-again', does: 'wet' },
      { id: 'rub', does: 'rub', dries: true },
      { id: 'look', does: 'look' },
      { id: 'stick', does: 'stick' },
    ],
  },
  {
    id: 'ironed-tape',
    traits: [],
    steps: [
      { id: 'mark', does: 'mark' },
      { id: 'prepare', does: 'prepare' },
      { id: 'coat', does: 'tape', reverses: true },
      { id: 'soak', does: 'soak', dries: true },
      { id: 'place', does: 'place', holds: true, reverses: true },
      { id: 'lift', does: 'lift' },
      { id: 'look', does: 'look' },
      { id: 'finish', does: 'finish' },
    ],
  },
  {
    id: 'backing-print',
    traits: [],
    steps: [
      { id: 'mark', does: 'mark' },
      { id: 'prepare', does: 'prepare' },
      { id: 'place', does: 'place', holds: true, reverses: true },
      { id: 'lift', does: 'lift' },
      { id: 'look', does: 'look' },
      { id: 'finish', does: 'finish' },
    ],
  },
  {
    id: 'film-pull',
    traits: [],
    steps: [
      { id: 'mark', does: 'mark' },
      { id: 'prepare', does: 'prepare' },
      { id: 'mask', does: 'mask' },
      { id: 'coat', does: 'coat' },
      { id: 'place', does: 'place', reverses: true },
      { id: 'pull', does: 'pull', dries: true },
      { id: 'look', does: 'look' },
      { id: 'finish', does: 'finish' },
    ],
  },
  {
    id: 'solvent-bloom',
    traits: [],
    steps: [
      { id: 'mark', does: 'mark' },
      { id: 'prepare', does: 'prepare' },
      { id: 'coat', does: 'coat' },
      { id: 'place', does: 'place', reverses: true },
      { id: 'peel', does: 'peel', dries: true },
      { id: 'look', does: 'look' },
      { id: 'finish', does: 'finish' },
    ],
  },
  {
    id: 'hot-body',
    traits: ['simple pictures only'],
    steps: [
      { id: 'mark', does: 'mark' },
      { id: 'prepare', does: 'prepare' },
      { id: 'heat', does: 'heat' },
      { id: 'place', does: 'place', holds: true, reverses: true, faceUp: ['iron-on sheet, dark goods'] },
      { id: 'peel', does: 'peel' },
      { id: 'look', does: 'look' },
    ],
  },
  {
    id: 'gel-skin',
    traits: [],
    mirrorNote:
      'A stamp reads right on its sheet and through the gel from above. Laid down as it lay it still reads right.',
    steps: [
      { id: 'mark', does: 'mark' },
      { id: 'stamp', does: 'stamp', dries: true },
      { id: 'coat', does: 'coat' },
      { id: 'peel', does: 'peel' },
      { id: 'prepare', does: 'prepare' },
      { id: 'place', does: 'place', dries: true },
      { id: 'look', does: 'look' },
      { id: 'finish', does: 'finish' },
    ],
  },
  {
    id: 'tissue-embed',
    traits: ['sheet of tissue'],
    mirrorNote: 'The tissue stays on, printed side up.',
    steps: [
      { id: 'mark', does: 'mark' },
      { id: 'prepare', does: 'prepare' },
      { id: 'coat', does: 'coat' },
      { id: 'place', does: 'place', dries: true },
      { id: 'first-clear', does: 'clear' },
      { id: 'finish', does: 'finish' },
      { id: 'look', does: 'look' },
    ],
  },
  {
    id: 'quick-release',
    traits: [],
    steps: [
      { id: 'mark', does: 'mark' },
      { id: 'prepare', does: 'prepare' },
      { id: 'coat', does: 'coat' },
      { id: 'place', does: 'place', reverses: true },
      { id: 'wet', does: 'wet' },
      { id: 'peel', does: 'peel', dries: true },
      { id: 'look', does: 'look' },
      { id: 'finish', does: 'finish' },
    ],
  },
  {
    id: 'dissolving-paper',
    traits: [],
    steps: [
      { id: 'mark', does: 'mark' },
      { id: 'prepare', does: 'prepare' },
      { id: 'coat', does: 'coat' },
      { id: 'place', does: 'place', reverses: true },
      { id: 'wet', does: 'wet', dries: true },
      { id: 'look', does: 'look' },
      { id: 'finish', does: 'finish' },
    ],
  },
  {
    id: 'gel-plate',
    traits: ['needs a closed ground', 'paint is the colour', 'paint is the picture'],
    steps: [
      { id: 'mark', does: 'mark' },
      { id: 'prepare', does: 'prepare' },
      { id: 'coat', does: 'coat' },
      { id: 'print-down', does: 'offset', reverses: true },
      { id: 'lift', does: 'lift' },
      { id: 'place', does: 'place', reverses: true, dries: true },
      { id: 'look', does: 'look' },
    ],
  },
  {
    id: 'carbon-trace',
    traits: [],
    mirrorNote: 'It is traced from above.',
    steps: [
      { id: 'mark', does: 'mark' },
      { id: 'prepare', does: 'prepare' },
      { id: 'place', does: 'place' },
      { id: 'trace', does: 'trace' },
      { id: 'look', does: 'look' },
      { id: 'finish', does: 'finish' },
    ],
  },
];
