import * as v from 'valibot';
import { findMethod, type Method } from '../methods/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { largestPrint } from '../print/donor-room.ts';
import { listed, mm, named, say, sized, within } from '../say/index.ts';
import type { Donor, Shelf } from '../shelf/index.ts';
import {
  FACTOR_KEYS,
  FACTORS,
  type FactorKey,
  factorName,
  hasRoomForStrip,
  isVariedIn,
  levelName,
  missingPicture,
  nameIn,
  ofAnyMethod,
  sizeOf,
  type TrialPlan,
} from '../trial/index.ts';
import { PlanRequest } from './request.ts';
import { missingItem, usedItems } from './used-items.ts';

/** A request that holds, with what it uses. */
export interface Checked {
  readonly ask: PlanRequest;
  readonly used: TrialPlan['used'];
}

/** Looks a request through before any work is done: what is missing, doubled, out of range or too large is said, with the way out. */
export function checkRequest(request: PlanRequest, shelf: Shelf, own: readonly Method[]): Outcome<Checked> {
  const parsed = v.safeParse(PlanRequest, request);
  if (!parsed.success) return notFilledIn(request, own, parsed.issues[0]);
  const ask = parsed.output;
  const method = findMethod(ask.method, own);
  if (!method) return bad('method', 'This method is not known here.', 'Choose another.');
  const others = otherMethods(ask, own);
  if (!others.ok) return others;
  const methods = [method, ...others.value];
  const wrong = wrongFactor(ask, methods, shelf) ?? wrongDesign(ask, methods);
  if (wrong) return wrong;
  const used = {
    ...usedItems(ask, shelf),
    method,
    ...(others.value.length ? { otherMethods: [...others.value] } : {}),
  };
  const missing = missingItem({ ...ask, used });
  if (missing) {
    const isChoice = ask.factors.some(f => FACTORS[f.key].levels === 'options' && f.levels.includes(missing));
    return isChoice
      ? bad('not-in-method', say`“${missing}” is not a choice of ${within(method.name)}.`, 'Choose another.')
      : bad('not-on-shelf', `“${missing}” is not on your shelf.`, 'Choose another.');
  }
  return (
    wrongOutlines(ask) ?? wrongPictures(ask) ?? tooLargeForSheet(ask, used.donors) ?? good({ ask, used })
  );
}

/** The other methods that are compared; each needs what is usual in it. */
function otherMethods(ask: PlanRequest, own: readonly Method[]): Outcome<readonly Method[]> {
  const levels = ask.factors.find(f => f.key === 'method')?.levels ?? [];
  if (levels.length && !levels.includes(ask.method))
    return bad('method', 'The trial’s own method is not among those compared.', 'Add it to them.');
  const found: Method[] = [];
  for (const id of levels.filter(l => l !== ask.method)) {
    const method = findMethod(String(id), own);
    if (!method) return bad('method', 'A method that is compared is not known here.', 'Choose another.');
    if (!ask.compared?.some(c => c.method === id))
      return bad(
        'method',
        say`What is usual in ${within(method.name)} is not filled in.`,
        'Choose it again.',
      );
    found.push(method);
  }
  return good(found);
}

/** Fields whose limits are lengths: their messages are only what they are called. */
const SIZES: ReadonlySet<unknown> = new Set(['patchMm', 'patchTallMm', 'gutterMm', 'marginMm', 'w', 'h']);

type Issue = v.InferIssue<typeof PlanRequest>;

/** What things are called in the method that is asked for; their usual names where that is not known. */
const nameFor = (request: PlanRequest, own: readonly Method[]) => (key: FactorKey) =>
  factorName(key, findMethod(request.method, own) ?? { waitName: FACTORS[key].name });

function notFilledIn(request: PlanRequest, own: readonly Method[], issue: Issue): Outcome<never> {
  const path = issue.path?.map(p => p.key) ?? [];
  const factor = path[0] === 'factors' && path.length > 1 ? request.factors[Number(path[1])] : undefined;
  if (factor)
    return bad('levels', `${nameFor(request, own)(factor.key)} needs two to eight levels, each filled in.`);
  if (path[0] === 'usual' && FACTOR_KEYS.includes(path[1] as FactorKey))
    return bad(
      'request',
      `${nameFor(request, own)(path[1] as FactorKey)} is not filled in, or far too large or small.`,
    );
  const { requirement, message, type } = issue;
  if (SIZES.has(path.at(-1)) && typeof requirement === 'number')
    return bad(
      'request',
      say`Make ${message} ${type === 'min_value' ? 'at least' : 'at most'} ${mm(requirement)}.`,
    );
  return bad('request', message);
}

/** Something varied twice, not in the method, doubled or out of its range. */
function wrongFactor(ask: PlanRequest, methods: readonly Method[], shelf: Shelf): Outcome<never> | undefined {
  if (new Set(ask.factors.map(f => f.key)).size !== ask.factors.length)
    return bad('same-factor', 'The same thing is varied twice.', 'Choose another for one of them.');
  for (const factor of ask.factors) {
    const name = nameIn(methods, factor.key, ask.factors);
    // Which of several methods has a choice is seen when it is looked for in them.
    const varied = methods.some(m => ofAnyMethod(factor.key) || m.vary.includes(factor.key));
    if (!varied || (methods.length > 1 && !methods.some(m => isVariedIn(factor, m))))
      return bad(
        'not-in-method',
        say`${name} cannot be varied with ${listed(
          methods.map(m => named(within(m.name), 'method')),
          'or',
        )}.`,
        'Leave it out.',
      );
    if (
      methods.length > 1 &&
      [ask.stripKey, ask.groupKey].includes(factor.key) &&
      !methods.every(m => isVariedIn(factor, m))
    )
      return bad(
        'nested',
        `${name} is not varied in every method, so it cannot be kept together.`,
        'Keep the method together instead, or nothing.',
      );
    if (factor.levels.length !== new Set(factor.levels).size)
      return bad('same-level', `${name} has the same level twice.`, 'Change one of them.');
    const kind = FACTORS[factor.key];
    if (
      kind.levels === 'numbers' &&
      factor.levels.some(l => !(Number(l) >= kind.least && Number(l) <= kind.most))
    )
      return bad(
        'level-range',
        say`${name} goes from ${levelName(shelf, factor.key, kind.least)} to ${levelName(shelf, factor.key, kind.most)}.`,
      );
  }
  return undefined;
}

/** A design that its factors do not make. */
function wrongDesign(ask: PlanRequest, methods: readonly Method[]): Outcome<never> | undefined {
  if (
    ask.design === 'ladder' &&
    (ask.factors.length !== 1 || FACTORS[ask.factors[0].key].levels !== 'numbers')
  )
    return bad(
      'ladder',
      'A ladder has one thing that is varied, and it is a number.',
      'Leave the others out.',
    );
  if (ask.interactions.some(([a, b]) => a === b || a >= ask.factors.length || b >= ask.factors.length))
    return bad('interaction', 'An interaction names a factor that is not varied.', 'Choose it again.');
  if (ask.groupKey && !ask.factors.some(f => f.key === ask.groupKey))
    return bad(
      'group',
      `${nameIn(methods, ask.groupKey, ask.factors)} is to be made together but is not varied.`,
    );
  return undefined;
}

/** A board or piece that is drawn by corners which are not there, and pieces where every patch is one. */
function wrongOutlines(ask: PlanRequest): Outcome<never> | undefined {
  const pieces = ask.pieces ?? [];
  const bare = [{ name: 'The board', ...ask.board }, ...pieces].find(
    p => p.outline === 'corners' && !p.corners,
  );
  if (bare) return bad('corners', `${bare.name} has no corners yet.`, 'Set at least three.');
  if (pieces.length && ask.board.onePiece)
    return bad(
      'pieces',
      'Where every patch is a piece by itself there are no other pieces.',
      'Take boards with many patches, or take the pieces of their own out.',
    );
  const names = pieces.map(p => p.name);
  const twice = names.find((n, i) => names.indexOf(n) !== i);
  return twice === undefined
    ? undefined
    : bad('pieces', `Two pieces are called “${twice}”.`, 'Call one of them something else.');
}

/** A picture that is not among those of the trial, or that has no room. */
function wrongPictures(ask: PlanRequest): Outcome<never> | undefined {
  if (missingPicture(ask) !== undefined)
    return bad(
      'picture',
      'A picture that is to be printed is not among those of the trial.',
      'Choose it again.',
    );
  const narrow = ask.pictures?.find(p => p.strip && !hasRoomForStrip(ask));
  if (narrow)
    return bad(
      'strip-room',
      say`Patches of ${sized(sizeOf(ask))} have no room for tone steps below “${narrow.name}”.`,
      'Make them larger, or leave the steps out.',
    );
  return undefined;
}

/** A print that runs over the edge of a sheet it is to be printed on. */
function tooLargeForSheet(ask: PlanRequest, donors: readonly Donor[]): Outcome<never> | undefined {
  const varied = ask.factors.find(f => f.key === 'donor');
  const usual = [ask.usual, ...(ask.compared ?? []).map(c => c.usual)].map(u => u.donor);
  const needed = new Set(
    varied ? [...varied.levels, ...(ask.control || ask.compared?.length ? usual : [])] : usual,
  );
  for (const donor of donors.filter(d => needed.has(d.id))) {
    const most = donor.leftOf ? donor.sheet : largestPrint(donor.sheet);
    const { w, h } = sizeOf(ask);
    if (w <= most.w && h <= most.h) continue;
    const largest = Math.floor(Math.min(most.w, most.h));
    const size = mm(donor.sheet.w, { by: donor.sheet.h });
    return bad(
      'sheet-too-small',
      say`A print of ${sized({ w, h })} with its tab does not fit on “${donor.name}”, which is ${size}.`,
      largest >= 20
        ? say`Take patches of ${mm(largest)} at most, or a larger sheet.`
        : 'Take a larger sheet.',
    );
  }
  return undefined;
}
