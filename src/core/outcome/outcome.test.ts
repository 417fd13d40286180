import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { mm, say, write } from '../say/index.ts';
import { bad, good, PROBLEM_CODES, ProblemError, problemWords } from './index.ts';

const sources = readdirSync('src', { recursive: true })
  .map(name => join('src', String(name)))
  .filter(name => /\.tsx?$/.test(name) && !/\.test\.tsx?$/.test(name) && !name.endsWith('outcome/codes.ts'))
  .map(name => readFileSync(name, 'utf8'))
  .join('\n');

describe('what is wrong', () => {
  it('has a code that something says, and each code once', () => {
    expect(PROBLEM_CODES.filter(code => !sources.includes(`'${code}'`))).toEqual([]);
    expect(new Set(PROBLEM_CODES).size).toBe(PROBLEM_CODES.length);
  });
  it('carries its words with their numbers, the way out, and what it is about', () => {
    const found = bad('tape', say`Larger than ${mm(254)}.`, 'Take a smaller one.', {
      rule: 'r',
      job: 'j',
    });
    expect(found).toEqual({
      ok: false,
      problem: {
        code: 'tape',
        say: ['Larger than ', mm(254), '.'],
        wayOut: 'Take a smaller one.',
        ...{ rule: 'r', job: 'j' },
      },
    });
    if (found.ok) return;
    expect(write(problemWords(found.problem), { system: 'imperial' })).toBe(
      'Larger than 10.00 in. Take a smaller one.',
    );
    expect(new ProblemError(found.problem).message).toBe('Larger than 254 mm.');
  });
  it('has no way out where none is known', () => {
    const found = bad('failed', 'It failed.');
    expect(found).toEqual({ ok: false, problem: { code: 'failed', say: 'It failed.' } });
    expect(!found.ok && problemWords(found.problem)).toBe('It failed.');
    expect(good(3)).toEqual({ ok: true, value: 3 });
  });
});
