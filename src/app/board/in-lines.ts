/**
 * Words broken into lines of at most so many letters, as many lines as there is room for; the last ends in "…" where
 * more would follow. A word that is longer than a line is cut.
 *
 * @example inLines('rounds, or judged while wet', 11, 3); // => ['rounds, or', 'judged', 'while wet']
 */
export function inLines(text: string, letters: number, rows: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(' ').filter(Boolean)) {
    const longer = lines.length ? `${lines.at(-1)} ${word}` : '';
    if (longer && longer.length <= letters) lines[lines.length - 1] = longer;
    else lines.push(word.length > letters ? `${word.slice(0, letters - 1)}…` : word);
  }
  if (lines.length <= rows) return lines;
  const last = rows > 0 ? [`${lines[rows - 1].replace(/[,…]$/, '').slice(0, letters - 1)}…`] : [];
  return [...lines.slice(0, Math.max(0, rows - 1)), ...last];
}
