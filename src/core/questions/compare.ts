import type { PlanRequest } from '../design/index.ts';
import { findMethod, type Method } from '../methods/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { say } from '../say/index.ts';
import type { Shelf } from '../shelf/index.ts';
import { type Factor, isVariedIn, type LevelValue } from '../trial/index.ts';
import { requestFor } from './request.ts';

/**
 * A request whose factor “method” has the methods `ids`, each with what is usual in it: on the same ground, through the
 * same printer where it takes that, else as the method is made for. What was already said of a method stays. The first
 * is the trial's own. Other factors are kept to the methods they fit. Fails with what the shelf lacks for one of them.
 *
 * @example compareMethods({ ...plan, factors: [{ key: 'method', levels: ['wet-rub', 'no-such'] }] }, shelf).ok; // => false
 */
export function compareMethods(
  request: PlanRequest,
  shelf: Shelf,
  own: readonly Method[] = [],
): Outcome<PlanRequest> {
  const levels = request.factors.find(f => f.key === 'method')?.levels;
  if (!levels) {
    const { compared: _, ...alone } = request;
    return good(alone);
  }
  const known = [{ method: request.method, usual: request.usual }, ...(request.compared ?? [])];
  const ways: { method: string; usual: PlanRequest['usual'] }[] = [];
  for (const id of levels) {
    const way = known.find(w => w.method === id) ?? usualIn(id, request, shelf, own);
    if ('ok' in way) {
      if (!way.ok) return way;
      ways.push(way.value);
    } else ways.push(way);
  }
  const main = ways.find(w => w.method === request.method) ?? ways[0];
  const methods = ways.flatMap(w => findMethod(w.method, own) ?? []);
  return good({
    ...request,
    ...main,
    compared: ways.filter(w => w !== main),
    factors: request.factors.map(f => keptWhereItFits(f, methods, shelf)),
  });
}

/** A wait is of a method's order when its usual one lies no further from the levels than this many times. */
const SAME_ORDER = 4;

/**
 * A factor is varied in the methods that can take one of its levels at least: a wait of hours is none of a film that is
 * pulled after seconds. Where the maker has said in which, that stays.
 */
function keptWhereItFits(factor: Factor, methods: readonly Method[], shelf: Shelf): Factor {
  const { of, ...free } = factor;
  const said = of?.filter(id => methods.some(m => m.id === id));
  if (said?.length) return { ...factor, of: said };
  const can = methods.filter(m => isVariedIn(free, m));
  const fit = can.filter(m => takesOne(m, factor, shelf));
  return fit.length && fit.length < can.length ? { ...free, of: fit.map(m => m.id) } : free;
}

const TAKEN = { medium: 'mediums', donor: 'donors', substrate: 'substrates' } as const;

function takesOne(method: Method, { key, levels }: Factor, shelf: Shelf): boolean {
  if (key === 'dryHours') {
    const hours = levels.map(Number);
    const { dryHours } = method.usual;
    return dryHours * SAME_ORDER >= Math.min(...hours) && dryHours <= SAME_ORDER * Math.max(...hours);
  }
  if (key === 'printer')
    return shelf.printers.some(p => levels.includes(p.id) && method.takes.colourants.includes(p.colourant));
  if (!(key in TAKEN)) return true;
  const list = TAKEN[key as keyof typeof TAKEN];
  const kinds: readonly string[] = method.takes[list];
  return shelf[list].some(item => levels.includes(item.id) && kinds.includes(item.kind));
}

function usualIn(
  id: LevelValue,
  { usual }: PlanRequest,
  shelf: Shelf,
  own: readonly Method[],
): Outcome<{ method: string; usual: PlanRequest['usual'] }> {
  const method = findMethod(String(id), own);
  if (!method) return bad('method', 'A method that is compared is not known here.', 'Choose another.');
  const printer = shelf.printers.find(p => p.id === usual.printer);
  const isFit = printer !== undefined && method.takes.colourants.includes(printer.colourant);
  const plain = requestFor(method, shelf, {
    substrate: usual.substrate,
    ...(isFit ? { printer: usual.printer } : {}),
  });
  return plain.ok
    ? good({ method: method.id, usual: plain.value.usual })
    : bad(plain.problem.code, say`${method.name}: ${plain.problem.say}`, plain.problem.wayOut);
}
