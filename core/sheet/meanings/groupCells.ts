import type { ColumnProfile } from "../columns/profileColumn";

/** What classes and teams have in common, in points: a few values, each with several rows. */
export function groupCells({
  distinct,
  address,
  count,
  values,
  phone,
  date,
  yesNo,
  mark,
  gender,
  tie,
  counts,
  sentence,
  titled,
  season,
  childrenWithClasses,
}: ColumnProfile): number {
  if (count === 0) return -1;
  if (address > 0.1 || phone > 0.3 || date > 0.3 || season > 0.5) return -8;
  const weight = Math.min(1, count / 10);
  return (
    -0.3 +
    weight * (distinct <= 0.4 ? 1.2 : distinct <= 0.6 ? 0.2 : -2.5) -
    (values > 15 && distinct > 0.25 ? 1.5 : 0) -
    ((yesNo > 0.8 || mark > 0.8) && values <= 3 ? 5 : 0) -
    (gender > 0.8 ? 4 : 0) -
    (tie > 0.6 ? 4 : 0) -
    (counts > 0.7 ? 4 : 0) -
    (sentence > 0.3 ? 3 : 0) -
    (titled > 0.4 ? 2 : 0) -
    (childrenWithClasses > 0.5 ? 5 : 0) -
    (values === 1 ? 2.2 : 0)
  );
}
