import { fold } from "../../text/fold";
import type { MeaningId } from "../meanings/meaning";
import type { PersonName } from "../splitName";
import type { ColumnEvidence } from "./columnEvidence";

/** What a house knows before it looks at a sheet: what people decided about titles, its own names, and its people. */
export interface KnownWords {
  /** Titles that were read before, in any source, with what they held. */
  titles: readonly { title: string; meaning: MeaningId }[];
  classes: readonly string[];
  teams: readonly string[];
  sites: readonly string[];
  /** The names of teachers and coaches. */
  staff: readonly string[];
  /** People who are here already, and students' numbers. */
  people?: {
    students: readonly PersonName[];
    guardians: readonly PersonName[];
    numbers: readonly string[];
  };
}

const DECIDED = 4;
const KNOWN = 3;
/** A first name or surname alone is many people's. */
const PART = 1.2;
const LEAST_SHARE = 0.4;

/**
 * How much what the house knows speaks for a meaning of a column, in points: somebody has decided so under the same title, or
 * its cells are the house's classes, teams, sites, teachers, students or guardians.
 */
export function knownPoints(
  meaning: MeaningId,
  title: string,
  { cells }: ColumnEvidence,
  known: FoldedWords,
): number {
  const decided = known.titles.get(fold(title));
  const values = known.values.get(meaning);
  return (
    (decided === undefined ? 0 : decided === meaning ? DECIDED : -1) +
    (values === undefined ? 0 : (PARTS.has(meaning) ? PART : KNOWN) * shareIn(values, cells))
  );
}

const PARTS: ReadonlySet<MeaningId> = new Set<MeaningId>([
  "student.given",
  "student.surname",
  "guardian.given",
  "guardian.surname",
]);

/** The same, ready to be looked up. */
export interface FoldedWords {
  titles: ReadonlyMap<string, MeaningId>;
  values: ReadonlyMap<MeaningId, ReadonlySet<string>>;
}

/** Makes what a house knows ready to be looked up, once for all sheets of a file. */
export function foldWords(known: KnownWords): FoldedWords {
  const before = FOLDED.get(known);
  if (before !== undefined) return before;
  const words = foldAll(known);
  FOLDED.set(known, words);
  return words;
}

const FOLDED = new WeakMap<KnownWords, FoldedWords>();

/** Of titles that were decided differently the last one counts. */
function foldAll({ titles, classes, teams, sites, staff, people }: KnownWords): FoldedWords {
  const folded = (of: readonly string[]): ReadonlySet<string> => new Set(of.map(fold));
  const named = (
    whose: "student" | "guardian",
    of: readonly PersonName[],
  ): [MeaningId, ReadonlySet<string>][] => {
    const parts = of.map((personName) => ({
      given: fold(personName.given),
      family: fold(personName.family),
    }));
    // Either part may stand first.
    const wholes = parts.flatMap(({ given, family }) =>
      given === "" || family === "" ? [] : [`${given} ${family}`, `${family} ${given}`],
    );
    return [
      [`${whose}.name`, new Set(wholes)],
      [`${whose}.given`, new Set(parts.map(({ given }) => given))],
      [`${whose}.surname`, new Set(parts.map(({ family }) => family))],
    ];
  };
  return {
    titles: new Map(
      titles.flatMap(({ title, meaning }) =>
        fold(title) === "" ? [] : [[fold(title), meaning] as const],
      ),
    ),
    values: new Map<MeaningId, ReadonlySet<string>>([
      ["classes", folded(classes)],
      ["teams", folded(teams)],
      ["site", folded(sites)],
      ["coach", folded(staff)],
      ...(people === undefined
        ? []
        : [
            ["student.number", folded(people.numbers)] as const,
            ...named("student", people.students),
            ...named("guardian", people.guardians),
          ]),
    ]),
  };
}

function shareIn(values: ReadonlySet<string>, cells: readonly string[]): number {
  const filled = cells.filter((cell) => cell !== "");
  const share = filled.filter((cell) => values.has(cell)).length / Math.max(1, filled.length);
  return share < LEAST_SHARE ? 0 : share;
}
