/** Material kinds, and the groups of them that engines ask for: what a kind is stands here and nowhere else. */

export const COLOURANTS = [
  'toner',
  'pigment ink',
  'dye ink',
  'stamp ink',
  'carbon',
  'magazine print',
] as const;

/**
 * Colourants that no file is printed with, and what helps the hand instead: a frame of size and place for a stamp or a
 * page that is printed already, the drawing itself where it is traced.
 */
export const BY_HAND: Readonly<Partial<Record<(typeof COLOURANTS)[number], 'frame' | 'drawing'>>> = {
  'stamp ink': 'frame',
  carbon: 'drawing',
  'magazine print': 'frame',
};

export const DONOR_KINDS = [
  'plain paper',
  'smooth heavy paper',
  'gloss-coated paper',
  'quick-release paper',
  'dissolving paper',
  'tracing or tissue paper',
  'clear film',
  'decal film',
  'iron-on sheet, light goods',
  'iron-on sheet, dark goods',
  'waxy backing',
  'release sheet',
  'magazine page',
  'carbon sheet',
] as const;

export const RELEASES = ['rub', 'peel', 'dissolve', 'pull', 'none'] as const;

export const SIDES = ['either side', 'the coated side', 'the waxy side', 'the matt side'] as const;

export const MEDIUM_KINDS = [
  'none',
  'matte acrylic medium',
  'soft gel',
  'heavy gel',
  'self-levelling gel',
  'decoupage glue',
  'white glue',
  'photo-transfer medium',
  'fabric medium',
  'matt paint',
  'film gel',
  'rubbing alcohol',
  'spray adhesive',
  'clear enamel',
  'two-part clear',
  'wax',
  'packing tape',
  'application tape',
] as const;

export const SUBSTRATE_KINDS = [
  'bare wood',
  'whitened wood',
  'card or watercolour paper',
  'raw canvas',
  'primed canvas',
  'cotton cloth',
  'glazed tile',
  'etched tile',
  'unglazed tile',
  'slate',
  'glass',
  'painted metal',
  'synthetic sheet',
  'wax on board',
  'painted furniture',
] as const;

export const PREPARATION_KINDS = [
  'none',
  'wash and iron',
  'sand',
  'degrease',
  'etch',
  'white base coat',
  'primer',
  'wax coats',
  'matching base coat',
] as const;

export const TOOL_KINDS = [
  'foam brush',
  'bristle brush',
  'roller',
  'straight edge',
  'spoon',
  'burnisher',
  'sponge',
  'fingers',
  'cloth',
  'stiff brush',
  'spray bottle',
  'iron',
  'heat gun',
  'oven',
  'torch',
] as const;

export const FINISH_KINDS = [
  'none',
  'clear wax',
  'dark wax',
  'varnish',
  'spray clear',
  'poured clear',
] as const;

export type MediumKind = (typeof MEDIUM_KINDS)[number];
export type PreparationKind = (typeof PREPARATION_KINDS)[number];
export type ToolKind = (typeof TOOL_KINDS)[number];
export type FinishKind = (typeof FINISH_KINDS)[number];
export type DonorKind = (typeof DONOR_KINDS)[number];
export type SubstrateKind = (typeof SUBSTRATE_KINDS)[number];

/**
 * How a ground is prepared, what makers do first on it first; “none” where it is usually taken as it is. Anything else
 * is not for that ground: cloth and glass are not sanded, only glaze and glass are etched.
 */
export const PREPARED: Readonly<Record<SubstrateKind, readonly PreparationKind[]>> = {
  'bare wood': ['none', 'sand', 'white base coat', 'primer', 'matching base coat', 'wax coats'],
  'whitened wood': ['none', 'sand', 'white base coat', 'primer', 'matching base coat', 'wax coats'],
  'card or watercolour paper': ['none', 'primer', 'white base coat', 'matching base coat'],
  'raw canvas': ['none', 'primer', 'white base coat', 'wash and iron', 'matching base coat'],
  'primed canvas': ['none', 'primer', 'white base coat', 'sand', 'matching base coat'],
  'cotton cloth': ['wash and iron', 'none', 'primer', 'white base coat'],
  'glazed tile': ['none', 'etch', 'white base coat', 'degrease', 'primer'],
  'etched tile': ['none', 'degrease', 'etch', 'white base coat', 'primer'],
  'unglazed tile': ['none', 'primer', 'white base coat', 'sand', 'degrease', 'matching base coat'],
  slate: ['none', 'white base coat', 'primer', 'degrease', 'sand', 'matching base coat'],
  glass: ['none', 'etch', 'white base coat', 'degrease', 'primer'],
  'painted metal': ['none', 'white base coat', 'sand', 'primer', 'degrease', 'matching base coat'],
  'synthetic sheet': ['none', 'degrease', 'sand', 'primer', 'white base coat'],
  'wax on board': ['none', 'wax coats'],
  'painted furniture': [
    'none',
    'sand',
    'white base coat',
    'primer',
    'degrease',
    'matching base coat',
    'wax coats',
  ],
};

const TAPES: readonly MediumKind[] = ['packing tape', 'application tape'];
const SOLVENTS: readonly MediumKind[] = ['rubbing alcohol', 'spray adhesive'];
const NOTHING = ['none'] as const;

export const MEDIUMS = {
  nothing: NOTHING,
  tapes: TAPES,
  solvents: SOLVENTS,
  waxes: ['wax'],
  twoPart: ['two-part clear'],
  /** No brush is dipped into these. */
  unbrushed: ['none', 'wax', ...TAPES, ...SOLVENTS],
  waterBased: [
    'matte acrylic medium',
    'soft gel',
    'heavy gel',
    'decoupage glue',
    'white glue',
    'photo-transfer medium',
    'fabric medium',
    'matt paint',
    'self-levelling gel',
  ],
  /** White while wet, clear when dry. */
  milky: [
    'self-levelling gel',
    'soft gel',
    'heavy gel',
    'matte acrylic medium',
    'film gel',
    'photo-transfer medium',
  ],
  /** Cool and tacky while they are wet. */
  glues: ['white glue', 'decoupage glue', 'fabric medium', 'matt paint'],
} as const satisfies Record<string, readonly MediumKind[]>;

export const DONORS = {
  /** What any printer is used to. */
  everyday: ['plain paper', 'smooth heavy paper'],
  /** Hides the ground: whites stay white. */
  opaque: ['iron-on sheet, dark goods'],
} as const satisfies Record<string, readonly DonorKind[]>;

export const SUBSTRATES = { cloth: ['cotton cloth'] } as const satisfies Record<
  string,
  readonly SubstrateKind[]
>;

export const PREPARATIONS = {
  nothing: NOTHING,
  brushedOn: ['white base coat', 'primer', 'matching base coat'],
  washes: ['wash and iron'],
} as const satisfies Record<string, readonly PreparationKind[]>;

export const FINISHES = {
  nothing: NOTHING,
  brushedOn: ['varnish'],
  clear: ['varnish', 'spray clear', 'poured clear'],
} as const satisfies Record<string, readonly FinishKind[]>;

export const TOOLS = {
  brushes: ['foam brush', 'bristle brush'],
  ovens: ['oven'],
  hot: ['iron', 'heat gun', 'oven', 'torch'],
  /** Hot tools that press or blow on the piece itself. */
  heaters: ['iron', 'heat gun'],
} as const satisfies Record<string, readonly ToolKind[]>;

/**
 * Whether a kind belongs to a group; nothing belongs to none.
 *
 * @example isOne(MEDIUMS.waxes, 'wax'); // => true
 */
export const isOne = (group: readonly string[], kind: string | undefined): boolean =>
  kind !== undefined && group.includes(kind);
