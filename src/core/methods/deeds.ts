/** What the hand reaches for at a step, as the settings of a patch name it. */
export type Taken = 'preparation' | 'medium' | 'donor' | 'rubTool' | 'pressing' | 'finish';

/** What is known of a kind of action wherever it stands in a method. */
interface Deed {
  /** What a maker would call it, for choosing. */
  readonly name: string;
  readonly takes?: Taken;
  /** Lays the medium on in a thickness, with a brush that has to be washed between mediums. */
  readonly brushes?: true;
  /** A medium of two parts is mixed for it. */
  readonly mixes?: true;
  /** Presses with a tool that may be hot. */
  readonly presses?: true;
  /**
   * It is done to a piece with all patches on it, when the last of them is ready: once for all, or over the area of each.
   */
  readonly whole?: 'once' | 'area';
  /** Where the piece is until the next step. */
  readonly puts?: 'oven' | 'tray';
}

/**
 * What a step can do. Engines ask this table and never a step's id or words, so that a maker's own coat step has the
 * cautions, the brush and the scales of any other coat.
 */
export const DEEDS = {
  mark: { name: 'mark the piece' },
  prepare: { name: 'prepare the ground', takes: 'preparation' },
  base: { name: 'lay on a base coat', takes: 'medium', brushes: true },
  mask: { name: 'mask the border' },
  coat: { name: 'coat with the medium', takes: 'medium', brushes: true, mixes: true },
  tape: { name: 'lay tape on', takes: 'medium' },
  stamp: { name: 'stamp' },
  place: { name: 'place the print', takes: 'donor', presses: true },
  offset: { name: 'lay the print on the plate', takes: 'donor' },
  trace: { name: 'trace' },
  burnish: { name: 'burnish', takes: 'pressing', presses: true },
  heat: { name: 'heat the piece', puts: 'oven' },
  soak: { name: 'put it in water', puts: 'tray' },
  wet: { name: 'wet the paper' },
  rub: { name: 'rub the paper off', takes: 'rubTool' },
  peel: { name: 'peel' },
  pull: { name: 'pull the film' },
  lift: { name: 'lift the carrier' },
  stick: { name: 'stick it down' },
  soften: { name: 'soften the edges' },
  clear: { name: 'lay on a first clear coat', takes: 'finish' },
  fuse: { name: 'fuse the wax', whole: 'area' },
  finish: { name: 'put the finish on', takes: 'finish', whole: 'area' },
  hang: { name: 'hang it up', whole: 'once' },
  cure: { name: 'see that it has cured', whole: 'once' },
  look: { name: 'look at it' },
  wear: { name: 'wear it on purpose' },
  other: { name: 'something else' },
} as const satisfies Record<string, Deed>;

export type Does = keyof typeof DEEDS;
export const DOES = Object.keys(DEEDS) as [Does, ...Does[]];

/**
 * What is known of an action.
 *
 * @example deedOf('coat').takes; // => 'medium'
 */
export const deedOf = (does: Does): Deed => DEEDS[does];
