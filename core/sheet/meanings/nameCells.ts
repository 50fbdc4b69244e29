import type { ColumnProfile } from "../columns/profileColumn";

/** What every column of names has in common, in points: letters, many different values, no dates or marks. */
function anyName({
  nameLike,
  address,
  count,
  yesNo,
  mark,
  gender,
  tie,
  sentence,
  childrenWithClasses,
}: ColumnProfile): number {
  if (count === 0) return 0;
  if (address > 0.2 || nameLike < 0.5) return -8;
  return (
    (nameLike - 0.8) * 4 -
    (yesNo > 0.5 || mark > 0.5 || gender > 0.6 ? 6 : 0) -
    (tie > 0.6 ? 4 : 0) -
    (sentence > 0.2 ? 3 : 0) -
    (childrenWithClasses > 0.5 ? 5 : 0)
  );
}

/** How much it costs that few values stand with many rows each, as classes and teachers do. */
function varied({ distinct, count, values }: ColumnProfile): number {
  const weight = Math.min(1, count / 12);
  // Thirty different names are names, however often each comes again.
  const many = values >= 15 ? 1.5 : 0;
  return (
    weight *
    Math.min(
      0.5,
      many + (distinct < 0.15 ? -4 : distinct < 0.35 ? -2 : distinct < 0.55 ? -0.7 : 0.5),
    )
  );
}

/** How well cells fit surnames, in points. */
export function surnameCells(profile: ColumnProfile): number {
  const { wordsEach, givenFirst, commaName, couple, titled } = profile;
  return (
    anyName(profile) +
    varied(profile) +
    (wordsEach <= 1.35 ? 0.8 : wordsEach <= 2.3 ? 0.2 : -1.5) -
    (givenFirst > 0.5 ? 2.2 : givenFirst * 2) -
    (commaName > 0.3 ? 4 : 0) -
    (couple > 0.3 ? 3 : 0) -
    (titled > 0.3 ? 3 : 0)
  );
}

/** How well cells fit given names, in points. */
export function givenCells(profile: ColumnProfile): number {
  const { wordsEach, givenFirst, givenLast, commaName, couple, titled } = profile;
  return (
    anyName(profile) +
    varied(profile) +
    (wordsEach <= 1.35 ? 0.8 : wordsEach <= 1.8 ? -0.2 : -2.5) +
    (wordsEach <= 1.6 ? Math.max(givenFirst, givenLast) * 3 - 0.5 : 0) -
    (commaName > 0.3 ? 4 : 0) -
    (couple > 0.3 ? 3 : 0) -
    (titled > 0.3 ? 3 : 0)
  );
}

/** How well cells fit whole names, in points. */
export function wholeNameCells(profile: ColumnProfile): number {
  const { wordsEach, commaName, givenFirst, givenLast, count } = profile;
  return (
    anyName(profile) +
    varied(profile) +
    (count === 0
      ? 0
      : wordsEach >= 1.7
        ? 1.5
        : wordsEach >= 1.4
          ? -0.5
          : wordsEach >= 1.15
            ? -2.5
            : -4) +
    (commaName > 0.6 ? 2 : 0) +
    (wordsEach >= 1.7 ? Math.max(givenFirst, givenLast) * 1.5 - 0.3 : 0)
  );
}
