import { ladder, type PlanRequest, smallestBoard } from '../design/index.ts';
import { FACTORS, type FactorKey, factorName, timeUnit } from '../factors/index.ts';
import { findMethod, METHODS, type Method, waitsForDrying } from '../methods/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { type Rule, rulesFor, stopsFor } from '../rules/index.ts';
import { type Words, within } from '../say/index.ts';
import type { Shelf } from '../shelf/index.ts';
import { lookUp, sizeOf, type TrialPlan, type WearTest } from '../trial/index.ts';
import { DISAGREEMENTS, type Levels, type Wanted } from './disagreements.ts';
import { COST, type Fixed, longEnough, requestFor } from './request.ts';

export { compareMethods } from './compare.ts';
export { DISAGREEMENTS, type Disagreement } from './disagreements.ts';
export { type Fixed, requestFor } from './request.ts';
export { sheetNotes } from './sheet-notes.ts';

/**
 * A ready-made question filled from the shelf; fails with what the shelf lacks for it.
 *
 * @example settle('nothing', shelf, []).ok; // => false
 */
export function settle(id: string, shelf: Shelf, own: readonly Method[] = []): Outcome<PlanRequest> {
  const question = DISAGREEMENTS.find(d => d.id === id);
  const method = question && findMethod(question.method, own);
  if (!question || !method) return bad('question', 'This question is not known here.');
  const plain = requestFor(method, shelf);
  if (!plain.ok) return plain;
  const factors: PlanRequest['factors'] = [];
  for (const { key, levels } of question.factors) {
    const found = levelsFrom(key, levels, shelf, method);
    if (!found.ok) return found;
    factors.push({ key, levels: found.value });
  }
  const request: PlanRequest = {
    ...plain.value,
    name: question.ask,
    question: question.sides.join(' Or: '),
    intent: question.intent ?? 'crisp',
    factors,
    repeats: question.repeats,
    overrides: [...(question.overrides ?? [])],
  };
  return good(fitted(longEnough(request, method, shelf)));
}

interface OnShelf {
  readonly id: string;
  readonly kind?: string;
  readonly gsm?: number;
  readonly twoPart?: boolean;
  readonly coats?: number;
}

/** Whether an item is what a side speaks of. */
const isWanted = (item: OnShelf, { gsmMost, gsmLeast, twoPart, coatsLeast }: Wanted): boolean =>
  (gsmMost === undefined || (item.gsm ?? 0) <= gsmMost) &&
  (gsmLeast === undefined || (item.gsm ?? 0) >= gsmLeast) &&
  (twoPart === undefined || item.twoPart === twoPart) &&
  (coatsLeast === undefined || (item.coats ?? 0) >= coatsLeast);

function levelsFrom(
  key: FactorKey,
  levels: Levels,
  shelf: Shelf,
  method: Method,
): Outcome<(string | number)[]> {
  const factor = FACTORS[key];
  const name = within(factorName(key, method));
  switch (levels.from) {
    case 'numbers':
      return good([...levels.numbers]);
    case 'options':
      return factor.levels === 'options'
        ? good(method.options[factor.option].map(o => o.id))
        : bad('question', `${name} has no choices.`);
    case 'colourants': {
      const ids = levels.colourants.flatMap(c => shelf.printers.find(p => p.colourant === c)?.id ?? []);
      return ids.length > 1
        ? good(ids)
        : bad(
            'shelf',
            `This question needs printers with ${levels.colourants.join(' and ')}.`,
            'Add them to the shelf.',
          );
    }
    case 'kinds': {
      if (factor.levels !== 'items') return bad('question', `${name} is not on the shelf.`);
      const ids: string[] = [];
      for (const group of levels.groups) {
        const wanted = 'kinds' in group ? group : undefined;
        const item = (shelf[factor.shelf] as OnShelf[]).find(
          i =>
            (wanted?.kinds ?? (group as readonly string[])).includes(String(i.kind)) &&
            !ids.includes(i.id) &&
            (!wanted || isWanted(i, wanted)),
        );
        if (item) ids.push(item.id);
        else if (wanted)
          return bad(
            'shelf',
            `This question needs ${wanted.called}, and your shelf has none.`,
            'Add one to the shelf.',
          );
      }
      return ids.length > 1
        ? good(ids)
        : bad(
            'shelf',
            `This question needs at least two of these on your shelf: ${[...new Set(levels.groups.flatMap(g => ('kinds' in g ? g.called : g)))].join(', ')}.`,
            `Add another ${name} to the shelf.`,
          );
    }
  }
}

/** The same request on a board that holds all its patches, if its own does not. */
export function fitted(request: PlanRequest): PlanRequest {
  const count = request.factors.reduce((n, f) => n * f.levels.length, 1) * request.repeats;
  if (request.board.onePiece) return request;
  const needed = smallestBoard(Math.min(count, 40), sizeOf(request), request.gutterMm, request.marginMm);
  return {
    ...request,
    board: {
      ...request.board,
      w: Math.max(request.board.w, needed.w),
      h: Math.max(request.board.h, needed.h),
    },
  };
}

/** A ladder round the method's usual wait, in round figures of the unit a maker would say; hours. */
function waits(method: Method, count: number, reach: number): number[] {
  const { hours } = timeUnit(method.usual.dryHours);
  return ladder(method.usual.dryHours / hours, count, reach).map(v => v * hours);
}

/**
 * A ladder of times (or of thickness): five rungs round the method's own starting value, each made twice.
 *
 * @example howLong(methods[0], shelf).ok; // => true
 */
export function howLong(method: Method, shelf: Shelf, fixed: Fixed = {}): Outcome<PlanRequest> {
  if (!method.vary.includes('dryHours'))
    return bad('no-wait', `${method.name} has no wait to try out.`, 'Ask something else of it.');
  const plain = requestFor(method, shelf, fixed);
  if (!plain.ok) return plain;
  return good(
    fitted({
      ...plain.value,
      name: `${method.name}: ${within(method.waitName)}`,
      question: `How long should I wait with ${within(method.name)}?`,
      design: 'ladder',
      factors: [{ key: 'dryHours', levels: waits(method, 5, method.usual.dryHours > 48 ? 2 : 3) }],
      repeats: 2,
    }),
  );
}

/** In the order given, those first about which rules say least. */
function quietFirst<T>(items: readonly T[], rulesOf: (item: T) => readonly Rule[]): T[] {
  const cost = (item: T) => rulesOf(item).reduce((sum, r) => sum + COST[r.severity], 0);
  return items
    .map(item => ({ item, cost: cost(item) }))
    .sort((a, b) => a.cost - b.cost)
    .map(({ item }) => item);
}

/**
 * What could make a difference to how long a transfer lasts, the likeliest first, as far as the method varies it and no
 * rule stops it: ids of the shelf, or hours.
 */
function toCompare(method: Method, shelf: Shelf, plain: PlanRequest): PlanRequest['factors'] {
  const { vary, takes, usual } = method;
  const rulesAt = (key: FactorKey, level: string | number) =>
    rulesFor({
      settings: lookUp({ ...shelf, method } as TrialPlan['used'], { ...plain.usual, [key]: level }),
      ...{ method, air: plain.air, patchMm: plain.patchMm, wear: plain.wear },
    });
  const goes = (key: FactorKey, level: string | number) =>
    rulesAt(key, level).every(r => r.severity !== 'stop');
  const mediums = shelf.mediums.filter(m => takes.mediums.includes(m.kind));
  const ids = (items: readonly { id: string }[]) => items.map(i => i.id);
  const all: PlanRequest['factors'] = [
    { key: 'finish', levels: ids(shelf.finishes) },
    { key: 'medium', levels: ids(quietFirst(mediums, m => rulesAt('medium', m.id))) },
    { key: 'substrate', levels: ids(shelf.substrates.filter(s => takes.substrates.includes(s.kind))) },
    { key: 'donor', levels: ids(shelf.donors.filter(d => takes.donors.includes(d.kind))) },
    { key: 'dryHours', levels: [usual.dryHours, usual.dryHours * 2] },
  ];
  return all.flatMap(f =>
    vary.includes(f.key) ? [{ ...f, levels: f.levels.filter(level => goes(f.key, level)) }] : [],
  );
}

/**
 * Whether it lasts: finishes compared (or, where the method takes none, mediums or the like), then worn.
 *
 * @example doesItLast(methods[0], shelf, ['tape']).ok; // => true
 */
export function doesItLast(
  method: Method,
  shelf: Shelf,
  wear: readonly WearTest[],
  fixed: Fixed = {},
): Outcome<PlanRequest> {
  const plain = requestFor(method, shelf, fixed);
  if (!plain.ok) return plain;
  const compared = toCompare(method, shelf, plain.value);
  const chosen = compared.find(c => c.levels.length > 1);
  if (!chosen) {
    const name = within(factorName(compared[0]?.key ?? 'finish', method));
    return bad(
      'shelf',
      `Your shelf has only one ${name} for this method.`,
      `Add another ${name} to the shelf.`,
    );
  }
  const request: PlanRequest = {
    ...plain.value,
    name: `${method.name}: does it last?`,
    question: 'Which of these survives being used?',
    factors: [{ ...chosen, levels: chosen.levels.slice(0, 3) }],
    repeats: 4,
    wear: [...wear],
    usual: {
      ...plain.value.usual,
      dryHours: Math.max(plain.value.usual.dryHours, wear.includes('wash') ? 72 : 0),
    },
  };
  return good(fitted(longEnough(request, method, shelf)));
}

/**
 * From nothing: the method's usual way, with two or three mediums and two waits to begin with where it has them. What
 * dries is tried as long as its slowest coat needs, and half of that.
 *
 * @example plainly(methods[0], shelf).ok; // => true
 */
export function plainly(method: Method, shelf: Shelf): Outcome<PlanRequest> {
  const plain = requestFor(method, shelf);
  if (!plain.ok) return plain;
  const mediums = toCompare(method, shelf, plain.value).find(f => f.key === 'medium')?.levels ?? [];
  const start = (method.start?.mediums ?? []).flatMap(
    kind => shelf.mediums.find(m => m.kind === kind && mediums.includes(m.id))?.id ?? [],
  );
  const levels = start.length > 1 ? start : mediums.slice(0, 3);
  const factors: PlanRequest['factors'] = [];
  if (levels.length > 1) factors.push({ key: 'medium', levels });
  if (method.vary.includes('dryHours')) {
    const { usual } = longEnough({ ...plain.value, factors }, method, shelf);
    // Half of what it needs, in whole hours or days, as a maker would say it.
    const { hours: unit } = timeUnit(usual.dryHours);
    const half = unit * Math.ceil(usual.dryHours / 2 / unit);
    const { dryHours } = method.usual;
    const levels = waitsForDrying(method) ? [half, 2 * half] : [dryHours / 2, dryHours * 2];
    factors.push({ key: 'dryHours', levels: method.start?.dryHours ?? levels });
  }
  if (!factors.length) {
    const finishes = shelf.finishes.slice(0, 2).map(f => f.id);
    if (finishes.length < 2)
      return bad(
        'shelf',
        'Your shelf has nothing this method could vary.',
        'Add a second finish to the shelf.',
      );
    factors.push({ key: 'finish', levels: finishes });
  }
  return good({ ...plain.value, factors, repeats: 2 });
}

/** A method that could put this printer's pictures on that substrate, or why not. */
export interface Way {
  readonly method: Method;
  readonly request?: PlanRequest;
  readonly why?: Words;
}

/**
 * "What is the best way to put this on that?": every method with a request for it, possible ones first, and for the
 * others the reason why not. The request compares the mediums (and preparations) the method can be tried with.
 *
 * @example waysTo({ printer: 'office-laser', substrate: 'slate' }, shelf, []).length; // => 16
 */
export function waysTo(fixed: Required<Fixed>, shelf: Shelf, own: readonly Method[] = []): Way[] {
  const ways = [...METHODS, ...own].map((method): Way => {
    const plain = requestFor(method, shelf, fixed);
    if (!plain.ok) return { method, why: plain.problem.say };
    const { usual } = plain.value;
    const at = (part: Partial<PlanRequest['usual']>) => ({
      settings: lookUp({ ...shelf, method } as TrialPlan['used'], { ...usual, ...part }),
      ...{ method, air: plain.value.air, patchMm: plain.value.patchMm, wear: [] },
    });
    const stops = (part: Partial<PlanRequest['usual']>) => stopsFor(at(part), []);
    const [stop] = stops({});
    if (stop) return { method, why: stop.why };
    const printer = shelf.printers.find(p => p.id === usual.printer)!;
    const substrate = shelf.substrates.find(s => s.id === usual.substrate)!;
    if (!method.takes.colourants.includes(printer.colourant))
      return { method, why: `It is not known to work with ${printer.colourant}.` };
    if (!method.takes.substrates.includes(substrate.kind))
      return { method, why: `It is not known to work on ${substrate.kind}.` };
    const mediums = quietFirst(
      shelf.mediums.filter(m => method.takes.mediums.includes(m.kind) && !stops({ medium: m.id }).length),
      m => rulesFor(at({ medium: m.id })),
    ).slice(0, 3);
    const preparations = shelf.preparations
      .filter(
        p =>
          !stops({ preparation: p.id }).length &&
          ['none', 'primer', 'white base coat', 'etch'].includes(p.kind),
      )
      .slice(0, 2);
    const factors: PlanRequest['factors'] = [];
    if (method.vary.includes('medium') && mediums.length > 1)
      factors.push({ key: 'medium', levels: mediums.map(m => m.id) });
    if (method.vary.includes('preparation') && preparations.length > 1)
      factors.push({ key: 'preparation', levels: preparations.map(p => p.id) });
    if (!factors.length) factors.push({ key: 'dryHours', levels: waits(method, 3, 2) });
    const name = `${method.name} on ${within(substrate.name)}`.slice(0, 80);
    const request: PlanRequest = {
      ...plain.value,
      name,
      question: `What is the best way to put ${printer.colourant} on ${within(substrate.name)}?`,
      factors,
    };
    return { method, request: fitted(longEnough(request, method, shelf)) };
  });
  return ways.sort((a, b) => Number(Boolean(b.request)) - Number(Boolean(a.request)));
}
