/**
 * What is said of letters that no font that ships has.
 *
 * @example boxWords(['燕']); // => '“燕” is in no font that comes with Wet Test: it would print as a box.'
 */
export function boxWords(letters: readonly string[]): string {
  const [last, ...before] = letters
    .slice(0, MOST)
    .map(l => `“${l}”`)
    .reverse();
  const more = letters.length > MOST ? ' (and others)' : '';
  const named = before.length ? `${before.reverse().join(', ')} and ${last}` : last;
  return letters.length === 1
    ? `${named} is in no font that comes with Wet Test: it would print as a box.`
    : `${named}${more} are in no font that comes with Wet Test: they would print as boxes.`;
}
const MOST = 8;
