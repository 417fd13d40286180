import { describe, expect, it } from 'vitest';
import { Calendar } from './hands.ts';
import { ALWAYS } from './spans.ts';
import type { Batch, Busy, Op } from './workload.ts';

const WASH = 5;
const coat = (brush: string, hands = 10): Op => ({ id: 'coat', hands, brush });
const press: Op = { id: 'press', hands: 4 };
const none = new Map();
const empty = (brush?: string) => new Calendar(ALWAYS, [], WASH, brush);
const put = (calendar: Calendar, op: Op, start: number, job: string) =>
  calendar.put(op, start, { job, op: 0 });
const plain = (calendar: Calendar, op: Op, now = 0) => calendar.free(op, now, none).plain;
const what = (items: readonly Busy[]) =>
  items.map(i => `${i.what}${i.brush ? ` ${i.brush}` : ''} ${i.from}–${i.to}`);

describe('one pair of hands', () => {
  it('is free from now on, up to the next thing and after it', () => {
    const busy = put(empty(), press, 20, 'a');
    expect(plain(busy, press)).toEqual([
      [0, 16],
      [24, Number.POSITIVE_INFINITY],
    ]);
    expect(plain(busy, press, 18)).toEqual([[24, Number.POSITIVE_INFINITY]]);
  });

  it('is not free where an action would run past the end of a sitting', () => {
    const evening = new Calendar([[100, 130]], [], WASH, undefined);
    expect(plain(evening, coat('gel'))).toEqual([[100, 120]]);
    expect(plain(evening, coat('gel', 31))).toEqual([]);
  });

  it('washes between two mediums, whichever comes first, and never between two of the same', () => {
    const gel = put(empty(), coat('gel'), 0, 'a');
    expect(plain(gel, coat('gel'))[0][0]).toBe(10);
    expect(plain(gel, coat('glue'))[0][0]).toBe(15);
    expect(what(put(gel, coat('glue'), 15, 'b').items)).toEqual([
      'op gel 0–10',
      'wash 10–15',
      'op glue 15–25',
    ]);
    // Before something in another medium the wash comes after.
    const later = put(empty(), coat('gel'), 50, 'a');
    expect(plain(later, coat('glue'))[0]).toEqual([0, 35]);
    expect(what(put(later, coat('glue'), 35, 'b').items)).toEqual([
      'op glue 35–45',
      'wash 45–50',
      'op gel 50–60',
    ]);
  });

  it('needs the old wash no more when something in the same medium comes after it', () => {
    const two = put(put(empty(), coat('gel'), 0, 'a'), coat('glue'), 40, 'b');
    expect(what(two.items)).toContain('wash 35–40');
    const three = put(two, coat('glue'), 20, 'c');
    expect(what(three.items)).toEqual(['op gel 0–10', 'wash 15–20', 'op glue 20–30', 'op glue 40–50']);
  });

  it('washes what the brush was in before', () => {
    expect(plain(empty('gel'), coat('glue'))[0][0]).toBe(5);
    expect(plain(empty('gel'), coat('gel'))[0][0]).toBe(0);
    expect(plain(empty('gel'), press)[0][0]).toBe(0);
  });

  it('keeps a wash between what is left when something is taken out', () => {
    const three = put(put(put(empty(), coat('gel'), 0, 'a'), coat('wax'), 15, 'b'), coat('glue'), 30, 'c');
    const left = three.drop(new Set(['b']), new Set());
    expect(what(left.items)).toEqual(['op gel 0–10', 'wash 25–30', 'op glue 30–40']);
    expect(what(three.drop(new Set(['a', 'b']), new Set()).items)).toEqual(['op glue 30–40']);
  });
});

describe('a batch', () => {
  const batch: Batch = { key: 'two-part', make: 6, lasts: 30, serves: 2 };
  const op: Op = { id: 'coat', hands: 5, batch };

  it('is made right before its first use', () => {
    const { plain: ready, making } = empty().free(op, 0, none);
    expect(ready).toEqual([]);
    expect(making[0][0]).toBe(6);
    const calendar = empty().put(op, 6, { job: 'a', op: 0, batch: 0, making: true });
    expect(what(calendar.items)).toEqual(['make 0–6', 'op 6–11']);
  });

  it('can be used while it lasts and while there is some left', () => {
    const made = (used: number) => new Map([[0, { batch, ready: 6, until: 36, used }]]);
    expect(empty().free(op, 0, made(1)).plain).toEqual([[6, 36]]);
    expect(empty().free(op, 0, made(2)).plain).toEqual([]);
  });

  it('goes when nothing uses it any more, and stays while something does', () => {
    const calendar = empty()
      .put(op, 6, { job: 'a', op: 0, batch: 0, making: true })
      .put(op, 12, { job: 'b', op: 0, batch: 0 });
    expect(what(calendar.drop(new Set(['a']), new Set([0])).items)).toEqual(['make 0–6', 'op 12–17']);
    expect(what(calendar.drop(new Set(['a', 'b']), new Set()).items)).toEqual([]);
  });
});
