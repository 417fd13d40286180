import { expect, it } from 'vitest';
import { groupsBy } from './groups.ts';

it('what has the same key is together, in the order in which keys come', () => {
  expect(groupsBy(['pull', 'coat', 'press', 'cure'], word => word[0])).toEqual([
    ['pull', 'press'],
    ['coat', 'cure'],
  ]);
  expect(groupsBy([], () => '')).toEqual([]);
});
