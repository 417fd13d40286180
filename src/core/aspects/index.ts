/** Something of a finished patch that is graded by itself, in five steps from worst to best. */
export interface Aspect {
  readonly id: string;
  readonly name: string;
  readonly ask: string;
  /** What each step looks or feels like, worst first. */
  readonly steps: readonly [string, string, string, string, string];
  /** Whether it is seen, on the piece or on its photo, or felt, with the piece in hand. */
  readonly by: 'eye' | 'hand';
}

/** What people look at and feel for when they judge a patch (docs/HANDBOOK.md §9). Adding one is a line here. */
export const ASPECTS = [
  {
    ...{ id: 'coverage', name: 'Coverage', by: 'eye', ask: 'How much of the picture is there?' },
    steps: ['hardly any', 'about half', 'most, with holes', 'all but specks', 'all of it'],
  },
  {
    ...{ id: 'clean', name: 'Clean of paper', by: 'eye', ask: 'How clean of paper is it?' },
    steps: ['white all over', 'a thick haze', 'haze in places', 'a breath of haze', 'quite clean'],
  },
  {
    ...{ id: 'edges', name: 'Edges', by: 'eye', ask: 'How are its edges?' },
    steps: ['gone or lifting', 'ragged all round', 'one side ragged', 'small nicks', 'whole and sharp'],
  },
  {
    ...{ id: 'tones', name: 'Tone and detail', by: 'eye', ask: 'How are its tones and fine lines?' },
    steps: ['cannot be read', 'dull and blurred', 'fair', 'a little pale or soft', 'as printed'],
  },
  {
    ...{ id: 'tack', name: 'Tack', by: 'hand', ask: 'Press a fingertip on it: is it tacky?' },
    steps: ['comes off on it', 'sticks', 'tacky', 'a trace', 'dry and hard'],
  },
  {
    ...{ id: 'hold', name: 'Hold', by: 'hand', ask: 'Draw a fingernail over an edge: does it hold?' },
    steps: ['peels off', 'flakes', 'scratches', 'marks a little', 'holds'],
  },
  {
    ...{ id: 'smooth', name: 'Smoothness', by: 'hand', ask: 'Stroke across its border: how smooth is it?' },
    steps: ['rough or wrinkled', 'a thick ridge', 'a ridge', 'just felt', 'not felt'],
  },
] as const satisfies readonly Aspect[];

export type AspectId = (typeof ASPECTS)[number]['id'];

export const ASPECT_IDS = ASPECTS.map(a => a.id) as unknown as readonly [AspectId, ...AspectId[]];

/**
 * Those that are seen, or those that are felt.
 *
 * @example aspectsBy('hand').map(a => a.id); // => ['tack', 'hold', 'smooth']
 */
export const aspectsBy = (by: Aspect['by']): readonly (typeof ASPECTS)[number][] =>
  ASPECTS.filter(a => a.by === by);
