import type { PlanRequest } from '../../core/design/index.ts';
import { findMethod, type Method } from '../../core/methods/index.ts';
import { bad, type Outcome } from '../../core/outcome/index.ts';
import { doesItLast, howLong, requestFor, settle, waysTo } from '../../core/questions/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { WEAR_TESTS, type WearTest } from '../../core/trial/index.ts';

/** The request a new trial starts from, as the address names it: `settle:ID`, `way:METHOD:PRINTER:SUBSTRATE`, `wait:METHOD`, `last:METHOD:TESTS`, `plain:METHOD`. */
export function requestFrom(from: string, shelf: Shelf, own: readonly Method[]): Outcome<PlanRequest> {
  const [kind, id = '', ...rest] = from.split(':');
  if (kind === 'settle') return settle(id, shelf, own);
  const method = findMethod(id, own);
  if (!method) return bad('method', 'This method is not known here.', 'Choose another question.');
  if (kind === 'wait') return howLong(method, shelf);
  if (kind === 'last') {
    const tests = (rest[0] ?? '')
      .split(/[+ ]/)
      .filter((t): t is WearTest => WEAR_TESTS.includes(t as WearTest));
    return doesItLast(method, shelf, tests);
  }
  if (kind === 'way') {
    const way = waysTo({ printer: rest[0] ?? '', substrate: rest[1] ?? '' }, shelf, own).find(
      w => w.method.id === id,
    );
    return way?.request
      ? { ok: true, value: way.request }
      : bad('way', way?.why ?? 'This method cannot do it.', 'Choose another.');
  }
  return plainRequest(method, shelf);
}

/** From nothing: the method's usual way, with two or three mediums and two waits to begin with where it has them. */
function plainRequest(method: Method, shelf: Shelf): Outcome<PlanRequest> {
  const plain = requestFor(method, shelf);
  if (!plain.ok) return plain;
  const mediums = shelf.mediums.filter(m => method.takes.mediums.includes(m.kind)).map(m => m.id);
  const start = (method.start?.mediums ?? []).flatMap(
    kind => shelf.mediums.find(m => m.kind === kind && mediums.includes(m.id))?.id ?? [],
  );
  const levels = start.length > 1 ? start : mediums.slice(0, 3);
  const factors: PlanRequest['factors'] = [];
  if (method.vary.includes('medium') && levels.length > 1) factors.push({ key: 'medium', levels });
  if (method.vary.includes('dryHours')) {
    const hours = method.usual.dryHours;
    factors.push({ key: 'dryHours', levels: method.start?.dryHours ?? [hours / 2, hours * 2] });
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
  return { ok: true, value: { ...plain.value, factors, repeats: 2 } };
}
