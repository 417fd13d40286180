import { type PlanRequest, STARTING_REQUEST } from '../src/core/design/index.ts';
import { findMethod } from '../src/core/methods/index.ts';
import { ProblemError } from '../src/core/outcome/index.ts';
import { requestFor } from '../src/core/questions/index.ts';
import { STARTER_SHELF } from '../src/core/shelf/index.ts';
import type { PatchHistory } from '../src/core/simulator/index.ts';
import type { Patch, TrialPlan, WearTest } from '../src/core/trial/index.ts';
import type { AirFrom } from './play.ts';

const HOUR = 3_600_000;
const { usual } = STARTING_REQUEST;

/** A trial of Gannet Slip: what was asked, when it was made, how far it is, and how it was photographed. */
export interface DemoTrial {
  readonly file: string;
  readonly request: Partial<PlanRequest>;
  readonly seed: number;
  /** Hours before now: when it was planned, when work began (none: it is only planned), until when it is played. */
  readonly planned: number;
  readonly begun?: number;
  readonly until?: number;
  readonly airs?: readonly AirFrom[];
  /** Through the card one by one, or whole boards in one photo. */
  readonly photos?: 'card' | 'board';
  /** The first patches also after each round before the last. */
  readonly rounds?: number;
  readonly worn?: readonly WearTest[];
  /** Photographed again after these days. */
  readonly days?: readonly number[];
  /** Judged, not only read. */
  readonly judged?: boolean;
  /** Something that nobody noted: a greasy board, an old jar. */
  readonly fate?: (history: PatchHistory, patch: Patch, plan: TrialPlan) => PatchHistory;
}

/** What a method is usually asked with, from the starter shelf. */
function usually(method: string, fixed: Parameters<typeof requestFor>[2] = {}): PlanRequest {
  const made = requestFor(findMethod(method, [])!, STARTER_SHELF, fixed);
  if (!made.ok) throw new ProblemError(made.problem);
  return made.value;
}

const film = usually('film-pull');
const cloth = usually('thick-coat');
const skin = usually('gel-skin');
const bloom = usually('solvent-bloom', { substrate: 'watercolour-card' });

/** A coat of wax that somebody wiped off and forgot: the medium holds badly on all of it. */
const greasy = (history: PatchHistory): PatchHistory => ({
  ...history,
  settings: {
    ...history.settings,
    substrate: { ...history.settings.substrate, gloss: 0.82 },
    preparation: { ...history.settings.preparation, glossTimes: 1 },
  },
});

export const TRIALS: readonly DemoTrial[] = [
  {
    file: 'berth-plates.zip',
    ...{ seed: 4711, planned: 74, begun: 74, until: 0, photos: 'card', rounds: 1, judged: true },
    request: {
      name: 'Berth plates: medium and cure time',
      question:
        'Which medium holds on bare birch plywood, and is one evening long enough before the paper comes off?',
      factors: [
        { key: 'medium', levels: ['matte-acrylic', 'soft-gel', 'white-pva'] },
        { key: 'dryHours', levels: [5, 22] },
      ],
    },
  },
  {
    file: 'hook-plates.zip',
    ...{ seed: 2209, planned: 11, begun: 10, until: 0.4 },
    request: {
      name: 'Hook plates: a primer under the print',
      question:
        'Does a clear gel primer on birch give fewer bare patches than nothing, with thin or thick coats?',
      factors: [
        { key: 'preparation', levels: ['none', 'gel-primer'] },
        { key: 'coatMm', levels: [0.3, 0.6] },
      ],
      board: { w: 180, h: 130, outline: 'rectangle', onePiece: false },
      usual: { ...usual, dryHours: 20 },
      repeats: 1,
    },
  },
  {
    file: 'bulkhead-tiles.zip',
    ...{ seed: 815, planned: 2 },
    request: {
      name: 'Bulkhead tiles: which paper rubs off best',
      question: 'Thin cheap paper, ordinary copy paper or heavy smooth paper on etched tile?',
      intent: 'worn',
      factors: [
        { key: 'donor', levels: ['copy-70', 'copy-80', 'smooth-120'] },
        { key: 'rounds', levels: [1, 2, 3] },
      ],
      board: { w: 240, h: 240, outline: 'rectangle', onePiece: false },
      usual: { ...usual, substrate: 'white-tile', medium: 'soft-gel' },
    },
  },
  {
    file: 'tide-gauge-film.zip',
    ...{ seed: 90210, planned: 30 * 24, begun: 29.9 * 24, until: 0, photos: 'board' },
    airs: [{ afterHours: 0.35, air: { tempC: 13, rh: 78 } }],
    request: {
      ...film,
      name: 'Tide gauge: how long before the film is pulled',
      question:
        'Twenty seconds or ninety before the film comes off the plate, on a warm noon and a damp evening?',
      factors: [{ key: 'dryHours', levels: [20, 35, 50, 75, 110].map(s => s / 3600) }],
      air: { tempC: 22, rh: 48 },
      repeats: 2,
    },
  },
  {
    file: 'name-boards.zip',
    ...{ seed: 3307, planned: 22 * 24, begun: 21 * 24, until: 0, photos: 'board', judged: true },
    request: {
      name: 'Name boards: primers in strips, two coats',
      question: 'What under the print on watercolour-white wood: nothing, clear gel, or white paint?',
      factors: [
        { key: 'preparation', levels: ['none', 'gel-primer', 'gesso'] },
        { key: 'coatMm', levels: [0.25, 0.5] },
      ],
      design: 'strips',
      stripKey: 'preparation',
      usual: { ...usual, dryHours: 22, medium: 'matte-acrylic' },
      board: { w: 330, h: 130, outline: 'rectangle', onePiece: false },
    },
  },
  {
    file: 'kit-bags.zip',
    ...{ seed: 6104, planned: 40 * 24, begun: 39 * 24, until: 0, photos: 'card', rounds: 2, worn: ['wash'] },
    request: {
      ...cloth,
      name: 'Kit bags: what the wash leaves',
      question: 'Does a thicker coat on cotton last longer in the wash?',
      factors: [
        { key: 'coatMm', levels: [0.8, 1.5] },
        { key: 'medium', levels: ['fabric-medium', 'transfer-medium'] },
      ],
      repeats: 2,
      usual: { ...cloth.usual, dryHours: 30, rounds: 3 },
      wear: ['wash'],
    },
  },
  {
    file: 'port-lights.zip',
    ...{ seed: 1212, planned: 72, begun: 70, until: 8, photos: 'card', days: [1, 2] },
    request: {
      ...skin,
      name: 'Port lights: when is the gel skin clear',
      question:
        'One or two millimetres of clear gel over a stamped picture: how many days until it is clear?',
      factors: [{ key: 'coatMm', levels: [1, 2] }],
      repeats: 2,
      usual: { ...skin.usual, dryHours: 96 },
      board: { w: 130, h: 130, outline: 'rectangle', onePiece: false },
    },
  },
  {
    file: 'locker-doors.zip',
    ...{ seed: 5150, planned: 16 * 24, begun: 15 * 24, until: 0, photos: 'board', judged: true },
    fate: (history, patch) => (patch.board === 1 ? greasy(history) : history),
    request: {
      name: 'Locker doors: two papers on two boards',
      question: 'Is the thin paper worth it? Two boards, each with all of it.',
      factors: [
        { key: 'donor', levels: ['copy-70', 'smooth-120'] },
        { key: 'rounds', levels: [1, 2] },
      ],
      repeats: 3,
      usual: { ...usual, dryHours: 22, medium: 'matte-acrylic' },
      board: { w: 180, h: 130, outline: 'rectangle', onePiece: false },
    },
  },
  {
    file: 'log-covers.zip',
    ...{ seed: 7788, planned: 9 * 24, begun: 8.5 * 24, until: 0, photos: 'card', judged: true },
    request: {
      ...bloom,
      name: 'Log covers: how much alcohol for the bloom',
      question: 'A thin or a generous mist of alcohol under the print on card: when does it start to run?',
      intent: 'painterly',
      factors: [{ key: 'coatMm', levels: [0.06, 0.1, 0.2] }],
      repeats: 2,
    },
  },
  {
    file: 'hull-lines.zip',
    ...{ seed: 2040, planned: 12 * 24, begun: 11.5 * 24, until: 0, photos: 'card', judged: true },
    request: {
      name: 'Hull lines: our own drawing in two colours',
      question: 'Does the drawing of Tern hold its fine lines with one more hour of patience?',
      factors: [
        { key: 'dryHours', levels: [8, 24] },
        { key: 'donor', levels: ['copy-70', 'copy-80'] },
      ],
      repeats: 2,
      patchMm: 60,
      patchTallMm: 40,
      pictures: [
        { id: 'tern', name: 'Tern, hull and tide', how: 'whole', at: { x: 0.5, y: 0.5 }, strip: false },
      ],
      picture: 'tern',
      usual: { ...usual, medium: 'matte-acrylic' },
      board: { w: 230, h: 180, outline: 'rectangle', onePiece: false },
    },
  },
];

export { HOUR };
