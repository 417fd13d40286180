import { describe, expect, it } from 'vitest';
import { write } from '../../core/say/index.ts';
import { StorageError } from '../../store/index.ts';
import { asNotice, didNotWork, notSaved, staysMs } from './notices.tsx';

const full = new StorageError({ code: 'storage-full', say: 'No room.', wayOut: 'Make some.' });

describe('what is said of work that failed', () => {
  it('is that it was not saved, where it writes', () => {
    expect(notSaved(full)).toEqual({
      say: 'That was not saved. No room.',
      wayOut: 'Make some.',
      wrong: true,
    });
    expect(write(notSaved(new Error('gone')).say)).toBe('That was not saved: gone.');
    expect(write(notSaved('?').say)).toBe('That was not saved: the browser refused.');
  });

  it('is nothing about saving, where nothing was to be saved', () => {
    for (const error of [full, new Error('The fonts could not be read.'), new Error(''), undefined])
      expect(`${write(didNotWork(error).say)} ${write(didNotWork(error).wayOut ?? '')}`).not.toMatch(/saved/);
    expect(didNotWork(full)).toEqual({ say: 'No room.', wayOut: 'Make some.', wrong: true });
    expect(write(didNotWork(new Error('The fonts could not be read.')).say)).toBe(
      'That did not work: The fonts could not be read.',
    );
    expect(write(didNotWork(new Error('')).say)).toBe('That did not work.');
  });
});

describe('a notice', () => {
  it('goes by itself where it is good news, and stays where something went wrong or can be taken back', () => {
    expect(staysMs({ say: 'Kept.' })).toBe(8000);
    expect(staysMs(notSaved(full))).toBeUndefined();
    expect(staysMs(asNotice({ code: 'failed', say: 'No.' }))).toBeUndefined();
    expect(staysMs({ say: 'Removed.', undo: () => {} })).toBeUndefined();
  });
});
