import { describe, expect, it } from 'vitest';
import { CAUSES } from '../diagnosis/index.ts';
import { chanceFrom } from '../random/index.ts';
import { failedPiece, MISHAP_CAUSES } from '../simulator/index.ts';
import { SYMPTOM_IDS } from '../symptoms/index.ts';
import { answersFor, FRESH_EYE, type Learning, learnt, nextCause } from './index.ts';

const first = { pick: <T>(all: readonly T[]) => all[0] };
const shown = (cause: string) => ({ cause, symptom: 'veil' });
const known = { cause: true, symptom: true };
const missed = { cause: false, symptom: true };

describe('an eye in training', () => {
  it('is shown what was missed after two rounds, what was known after four, then eight', () => {
    const one = learnt(FRESH_EYE, shown('a'), missed);
    expect(one.causes.a).toEqual({ box: 0, due: 1 + 2 });
    const two = learnt(one, shown('a'), known);
    expect(two.causes.a).toEqual({ box: 1, due: 2 + 4 });
    const three = learnt(two, shown('a'), known);
    expect(three.causes.a).toEqual({ box: 2, due: 3 + 8 });
    // Missed once, it begins anew.
    expect(learnt(three, shown('a'), missed).causes.a.box).toBe(0);
  });

  it('sees what is due and sits least first, then what it never saw, then what is due soonest', () => {
    const eye: Learning = {
      ...FRESH_EYE,
      rounds: 10,
      causes: { a: { box: 3, due: 9 }, b: { box: 1, due: 10 }, c: { box: 0, due: 11 } },
    };
    expect(nextCause(eye, ['a', 'b', 'c', 'd'], undefined, first)).toBe('b');
    expect(nextCause(eye, ['a', 'b', 'c', 'd'], 'b', first)).toBe('a');
    expect(nextCause({ ...eye, rounds: 8 }, ['a', 'b', 'c', 'd'], undefined, first)).toBe('d');
    expect(nextCause({ ...eye, rounds: 8 }, ['b', 'c', 'a'], undefined, first)).toBe('a');
    expect(nextCause(eye, ['a'], 'a', first)).toBe('a');
  });

  it('is counted by symptom, and only where both were named', () => {
    const eye = learnt(learnt(FRESH_EYE, shown('a'), known), shown('b'), missed);
    expect(eye.tally.veil).toEqual({ right: 1, of: 2 });
    expect(learnt(eye, shown('c'), { cause: true, symptom: false }).tally.veil).toEqual({ right: 1, of: 3 });
  });

  it('chooses among four answers, one of them right, each once', () => {
    const chance = chanceFrom(3);
    const all = ['a', 'b', 'c', 'd', 'e', 'f'];
    for (let i = 0; i < 20; i++) {
      const answers = answersFor('c', all, chance);
      expect(answers).toHaveLength(4);
      expect(new Set(answers).size).toBe(4);
      expect(answers).toContain('c');
    }
    expect(
      new Set(Array.from({ length: 20 }, () => answersFor('c', all, chance).indexOf('c'))).size,
    ).toBeGreaterThan(1);
  });
});

describe('pieces that fail on purpose', () => {
  it('fail by causes and show symptoms that are known, and by the one that was asked for', () => {
    for (const cause of MISHAP_CAUSES) {
      expect(
        CAUSES.some(c => c.id === cause),
        cause,
      ).toBe(true);
      let made: ReturnType<typeof failedPiece>;
      for (let seed = 0; seed < 160 && !made; seed++) made = failedPiece(seed, { wrong: 1, cause, mm: 20 });
      if (!made) throw new Error(`nothing fails by ${cause}`);
      expect(made.causes).toEqual([cause]);
      for (const s of made.symptoms) expect(SYMPTOM_IDS).toContain(s);
    }
  });

  it('are sound where nothing goes wrong, and have two different things wrong where two do', () => {
    const sound = failedPiece(3, { wrong: 0, mm: 20 })!;
    expect([sound.causes, sound.symptoms, sound.backwards]).toEqual([[], [], false]);
    const two = Array.from({ length: 24 }, (_, seed) => failedPiece(seed, { wrong: 2, mm: 20 })).filter(
      Boolean,
    );
    expect(two.length).toBeGreaterThan(3);
    for (const piece of two) expect(new Set(piece!.causes).size).toBe(2);
  });
});
