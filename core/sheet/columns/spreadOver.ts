/** The golden section, whose multiples come near to no rhythm that rows can have. */
const GOLDEN = 0.618_034;

/**
 * Returns which of many rows are looked at: spread over all of them, one from each stretch at a place that changes. At even
 * distances, a column in which every sixth row is alike would look as if it held one value.
 *
 * @param most about how many; up to twice as many rows are all looked at
 */
export function spreadOver(rows: number, most: number): number[] {
  if (rows < 2 * most) return Array.from({ length: rows }, (_, row) => row);
  return Array.from({ length: most }, (_, at) =>
    Math.floor(((at + ((at * GOLDEN) % 1)) * rows) / most),
  );
}
