/** Which of its levels (from 0) each observation has of something random: a board, a strip, a load. */
export interface Grouping {
  readonly levels: number;
  readonly of: readonly number[];
}

/** Names as levels, in the order in which they first come. */
export function groupingOf(names: readonly string[]): Grouping {
  const places = new Map<string, number>();
  const of = names.map(name => {
    if (!places.has(name)) places.set(name, places.size);
    return places.get(name)!;
  });
  return { levels: places.size, of };
}
