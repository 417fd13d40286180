/** A text, or a piece of one, and where in the sources it stands. */
interface Found {
  readonly where: string;
  readonly text: string;
}

export function wordsOf(): {
  readonly said: readonly Found[];
  readonly lost: readonly Found[];
  readonly byHand: readonly Found[];
  /** The sources that were looked at. */
  readonly files: readonly string[];
};
