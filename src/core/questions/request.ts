import type { PlanRequest } from '../design/index.ts';
import { STARTING_REQUEST } from '../design/index.ts';
import { OPTION_KEYS } from '../factors/index.ts';
import { type Method, waitsForDrying } from '../methods/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { hoursToDry, type RuleContext, rulesFor } from '../rules/index.ts';
import { PREPARED, type Shelf, type ShelfItem } from '../shelf/index.ts';
import { lookUp, type TrialPlan } from '../trial/index.ts';

/** What is already decided, by shelf id. */
export interface Fixed {
  readonly substrate?: string;
  readonly printer?: string;
}

/**
 * A request for one method filled from the shelf: what the method is made for, unless `fixed` says otherwise.
 * What is usual is taken unless a rule warns of it; of what else would do, the one about which the fewest rules speak
 * up. A coat that dries in the room gets the time it needs there. Fails with what the shelf lacks.
 *
 * @example requestFor(methods[0], shelf).ok; // => true
 */
export function requestFor(method: Method, shelf: Shelf, fixed: Fixed = {}): Outcome<PlanRequest> {
  const { usual, takes } = method;
  const first = <T extends { kind: string }>(
    items: readonly T[],
    kind: string,
    kinds: readonly string[],
  ): T[] => [
    ...items.filter(i => i.kind === kind),
    ...items.filter(i => i.kind !== kind && kinds.includes(i.kind)),
  ];
  const printers = fixed.printer
    ? shelf.printers.filter(p => p.id === fixed.printer)
    : [
        ...shelf.printers.filter(p => p.colourant === usual.colourant),
        ...shelf.printers.filter(
          p => p.colourant !== usual.colourant && takes.colourants.includes(p.colourant),
        ),
      ];
  const donors = first(shelf.donors, usual.donor, takes.donors);
  const mediums = first(shelf.mediums, usual.medium, takes.mediums);
  const substrates = fixed.substrate
    ? shelf.substrates.filter(s => s.id === fixed.substrate)
    : first(shelf.substrates, usual.substrate, takes.substrates);
  const { preparations } = shelf;
  const lacking = [
    [printers, `a printer with ${takes.colourants.join(' or ')}`],
    [donors, `a donor sheet for it (${takes.donors.join(', ')})`],
    [mediums, `a medium for it (${takes.mediums.join(', ')})`],
    [substrates, `a substrate for it (${takes.substrates.slice(0, 4).join(', ')})`],
    [preparations, 'any preparation, not even “nothing done”'],
  ].find(([items]) => !items.length);
  if (lacking)
    return bad(
      'shelf',
      `Your shelf has no ${String(lacking[1]).replace(/^a(ny)? /, '')}.`,
      'Add one to the shelf first.',
    );
  const plain = {
    ...STARTING_REQUEST.usual,
    coatMm: usual.coatMm,
    dryHours: usual.dryHours,
    rounds: usual.rounds,
    pressing: toolId(shelf, usual.pressing),
    rubTool: toolId(shelf, usual.rubTool),
    finish: method.vary.includes('finish') ? (shelf.finishes.find(f => f.kind === 'none')?.id ?? '') : '',
    ...Object.fromEntries(OPTION_KEYS.map(key => [key, method.options[key][0]?.id ?? ''])),
  };
  const best = quietest(method, shelf, plain, { printers, donors, mediums, substrates, preparations });
  const substrate = shelf.substrates.find(s => s.id === best.substrate)!;
  return good({
    ...STARTING_REQUEST,
    name: '',
    method: method.id,
    factors: [],
    usual: best,
    board: boardFor(substrate),
  });
}

const toolId = (shelf: Shelf, id: string) => (shelf.tools.some(t => t.id === id) ? id : '');

/** A board that suits the substrate: its own piece, or one for a dozen patches. */
const boardFor = (substrate: Shelf['substrates'][number]): PlanRequest['board'] =>
  substrate.onePiece ? { ...substrate.piece, outline: 'rectangle', onePiece: true } : STARTING_REQUEST.board;

type Lists = Record<'printers' | 'donors' | 'mediums' | 'substrates' | 'preparations', readonly ShelfItem[]>;

/** What a rule that speaks up counts. */
export const COST = { stop: 100, warn: 3, advise: 1 } as const;
/** By the jar’s word a coat is only just dry: so many times as long is left to it. */
const RESERVE = 1.2;

/** The wait that leaves a coat the time it needs, hours. */
const waitFor = (hours: number) => Math.ceil(RESERVE * hours);

/**
 * The same request with a wait in which the slowest coat that is compared in it dries, where a coat has to and the wait
 * itself is not compared.
 */
export function longEnough(request: PlanRequest, method: Method, shelf: Shelf): PlanRequest {
  if (!waitsForDrying(method) || request.factors.some(f => f.key === 'dryHours')) return request;
  const levelsOf = (key: 'medium' | 'coatMm') =>
    request.factors.find(f => f.key === key)?.levels ?? [request.usual[key]];
  const used = { ...shelf, method } as TrialPlan['used'];
  const dry = levelsOf('medium').flatMap(medium =>
    levelsOf('coatMm').map(coatMm => {
      const settings = lookUp(used, { ...request.usual, medium: String(medium), coatMm: Number(coatMm) });
      return hoursToDry({ settings, air: request.air });
    }),
  );
  const dryHours = Math.max(request.usual.dryHours, waitFor(Math.max(...dry)));
  return { ...request, usual: { ...request.usual, dryHours } };
}

/** What is not the usual is taken only where a rule warns of the usual; an advice is no reason to. */
const OTHER = 1.2;
/** Another colourant than the method's own, or a preparation that is not for the ground, only where a rule stops. */
const FOREIGN = 5;

/** The first of each, then one list after another is looked through for what the rules like best. */
function quietest(
  method: Method,
  shelf: Shelf,
  plain: PlanRequest['usual'],
  lists: Lists,
): PlanRequest['usual'] {
  const used = { ...shelf, method } as TrialPlan['used'];
  const keys = {
    printers: 'printer',
    donors: 'donor',
    mediums: 'medium',
    substrates: 'substrate',
    preparations: 'preparation',
  } as const;
  let usual = { ...plain };
  for (const kind of Object.keys(keys) as (keyof Lists)[])
    usual = { ...usual, [keys[kind]]: lists[kind][0].id };
  const withTime = (candidate: PlanRequest['usual']) => {
    if (!waitsForDrying(method)) return candidate;
    const dry = hoursToDry({ settings: lookUp(used, candidate), air: STARTING_REQUEST.air });
    return { ...candidate, dryHours: Math.max(method.usual.dryHours, waitFor(dry)) };
  };
  const cost = (candidate: PlanRequest['usual']) => {
    const context: RuleContext = {
      settings: lookUp(used, candidate),
      method,
      air: STARTING_REQUEST.air,
      patchMm: STARTING_REQUEST.patchMm,
      wear: [],
    };
    return rulesFor(context).reduce((sum, rule) => sum + COST[rule.severity], 0);
  };
  const unusual = (kind: keyof Lists, item: ShelfItem, candidate: PlanRequest['usual']): number => {
    const wanted = method.usual;
    if (kind === 'printers')
      return lookUp(used, candidate).printer.colourant === wanted.colourant ? 0 : FOREIGN;
    if (kind === 'preparations') {
      const { substrate, preparation } = lookUp(used, candidate);
      const at = PREPARED[substrate.kind].indexOf(preparation.kind);
      return at < 0 ? FOREIGN : at && OTHER + at * 0.2;
    }
    const usual = { donors: wanted.donor, mediums: wanted.medium, substrates: wanted.substrate }[kind];
    return 'kind' in item && item.kind === usual ? 0 : OTHER;
  };
  for (const kind of [
    'donors',
    'printers',
    'preparations',
    'substrates',
    'mediums',
    'donors',
    'preparations',
  ] as const) {
    const ranked = lists[kind].map((item, i) => {
      const candidate = withTime({ ...usual, [keys[kind]]: item.id });
      return { candidate, score: cost(candidate) + unusual(kind, item, candidate) + i * 0.01 };
    });
    usual = ranked.sort((a, b) => a.score - b.score)[0].candidate;
  }
  return usual;
}
