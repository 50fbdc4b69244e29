/** A season as a cell writes it, in the house's way: `2026/2027` is `2026-27`. Anything else stays as it is. */
export function seasonWritten(cell: string): string {
  const years = /^(\d{4}) ?[-/–] ?(?:\d\d)?(\d\d)$/.exec(cell);
  return years === null ? cell : `${years[1]}-${years[2]}`;
}
