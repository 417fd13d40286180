import { expect, it } from 'vitest';
import { boxWords } from './box-words.ts';

it('letters that no font has are named, the first few of many', () => {
  expect(boxWords(['燕'])).toBe('“燕” is in no font that comes with Wet Test: it would print as a box.');
  expect(boxWords(['燕', '海', 'ア'])).toMatch(/^“燕”, “海” and “ア” are in no font .* as boxes\.$/);
  const many = boxWords([...'一二三四五六七八九十']);
  expect(many).toMatch(/^“一”, .*“七” and “八” \(and others\) are in no font/);
  expect(many).not.toContain('九');
});
