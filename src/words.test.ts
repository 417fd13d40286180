import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { wordsOf } from '../scripts/words.mjs';

describe('what is said', () => {
  const { said, lost, byHand, files } = wordsOf();
  it('is looked for in every source, also in those that are fetched late', () => {
    const all = readdirSync('src', { recursive: true })
      .map(name => join('src', String(name)))
      .filter(name => /\.tsx?$/.test(name) && !/\.(test|d)\.tsx?$/.test(name));
    expect([...files].sort()).toEqual(all.sort());
  });
  it('loses no number on its way: no text with one in it is put into a plain string', () => {
    expect(lost).toEqual([]);
  });
  it('is all listed, with where it is said', () => {
    expect(said.length).toBeGreaterThan(150);
    expect(said.every(({ where }) => /^src\/.*\.tsx?:\d+$/.test(where))).toBe(true);
  });
  it('measures nothing by hand: a length in a text is a number that knows it', () => {
    expect(byHand).toEqual([]);
  });
});
