import type { PlanRequest } from '../../core/design/index.ts';
import { findMethod, type Method } from '../../core/methods/index.ts';
import { bad, type Outcome } from '../../core/outcome/index.ts';
import { doesItLast, howLong, plainly, settle, waysTo } from '../../core/questions/index.ts';
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
  return plainly(method, shelf);
}
