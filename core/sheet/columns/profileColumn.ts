import { spreadOver } from "./spreadOver";
import { fold } from "../../text/fold";
import { tidyLine } from "../../text/tidy";
import { isParticles } from "../splitName";
import { lexicon, lookUp, type Lexicon } from "../lexicon/lexicon";
import { kindShares } from "../shapes/kindOfPerson";
import { childLists } from "../shapes/splitChildren";
import { isJob } from "./job";
import { isTie } from "./tie";
import { isTitledName } from "./titledName";

/** What the cells of one column look like, taken over a sample of its data rows. Shares run from 0 to 1. */
export interface ColumnProfile {
  /** Share of the rows whose cell is filled; the shares below are of the filled ones. */
  filled: number;
  /** How many filled cells were looked at. */
  count: number;
  address: number;
  /** Several addresses in one cell. */
  addresses: number;
  phone: number;
  date: number;
  /** A date with a time of day. */
  moment: number;
  /** Over how many years the dates go. */
  years: number;
  number: number;
  smallNumber: number;
  /** A code with digits: `3A`, `U12`, `S-1042`. */
  code: number;
  /** A digit with one or two letters, or the other way round, as classes are often called: `3A`, `B2`. */
  classCode: number;
  ageGroup: number;
  /** Each number one more than the one above. */
  counts: number;
  season: number;
  /** A mark such as `x` or `✓`, where the other cells are empty. */
  mark: number;
  /** Yes or no, in any language. */
  yesNo: number;
  /** Names a family tie: mother, father, aunt. */
  tie: number;
  /** Says what somebody's job is: `Head coach`, `Office manager`. */
  jobs: number;
  /** Says of whom a row is, a child or an adult, where there are both. */
  kinds: number;
  /** Speaks of parents, where others are called children. */
  parents: number;
  gender: number;
  /** Letters, blanks and what names hold besides; no digit. */
  nameLike: number;
  commaName: number;
  /** Two people in one cell: `Ana & Luis Vega`. */
  couple: number;
  /** Lists of a family's children, each with their class: `Ana (3B), Luis (5A)`. */
  childrenWithClasses: number;
  /** Lists of a family's children by their first names: `Ana, Luis`. */
  childrenPlain: number;
  /** Nothing but small words of surnames: `van der`. */
  particle: number;
  /** A title of address in front, as teachers are written: `Ms Hale`. */
  titled: number;
  /** A text of six words and more. */
  sentence: number;
  street: number;
  /** The first word, or the last one, is a common given name. */
  givenFirst: number;
  givenLast: number;
  /** Mean number of words in a filled cell. */
  wordsEach: number;
  /** Distinct values as a share of the filled cells. */
  distinct: number;
  /** How many distinct values there are. */
  values: number;
  /** Whether the same few values stand with many rows each, as a teacher's address does and a family's does not. */
  repeated: boolean;
}

/** How many filled cells are looked at; more would tell nothing new. */
const SAMPLE = 300;
/** A value stands with many rows from this many on, taken over all values of a column. */
const MANY = 6;
/** Fewer cells than this say nothing about how varied a column is. */
const FEW = 6;
const LONGEST = 300;
/** No sheet has more words for children and adults. */
const MOST_KINDS = 12;

const YES_NO = new Set(
  fold(
    `yes no y n ja nein oui non si sì sí sim nao nej nei kylla ei tak nie ano ne evet hayir true false wahr falsch vrai faux verdadero falso 1 0 ok opt-in opt-out agreed declined`,
  ).split(" "),
);
const MARKS = new Set([
  "x",
  "✓",
  "✔",
  "☑",
  "✗",
  "•",
  "*",
  "+",
  "1",
  "yes",
  "ja",
  "oui",
  "sí",
  "si",
  "sim",
  "true",
  "●",
  "×",
  "tak",
  "ano",
  "kyllä",
  "evet",
]);
const GENDERS = new Set(
  fold(
    `m f w male female boy girl man woman männlich weiblich divers junge mädchen masculin féminin garçon fille homme femme masculino femenino feminino niño niña hombre mujer maschio femmina jongen meisje v pojke flicka kvinna dreng pige gutt jente poika tyttö chłopiec dziewczynka muž žena chlapec dívka erkek kız kadın mann frau herr non-binary nb`,
  ).split(" "),
);
const COUPLE =
  /\p{L}{2}\.?\s*(?:&|\+|\/|\b(?:and|und|et|y|e|og|och|en|i|a|ve|ja|sekä|oraz|u)\b)\s*\p{L}{2}/iu;
const DATE =
  /^(?:\d{4}-\d{1,2}-\d{1,2}|\d{1,2}[./-]\s?\d{1,2}[./-]\s?\d{2,4}|\d{1,2}\.? \p{L}{3,9}\.?,? \d{4}|\p{L}{3,9} \d{1,2},? \d{4})/u;

/** Describes what the cells of a column look like. `cells` are its data cells, blanks included. */
export function profileColumn(cells: readonly string[], of: Lexicon = lexicon()): ColumnProfile {
  const filled = cells.filter((cell) => cell.trim() !== "");
  const written = spreadOver(filled.length, SAMPLE).map((row) =>
    (filled[row] ?? "").slice(0, LONGEST),
  );
  const sample = written.map(tidyLine);
  const count = sample.length;
  const share = (test: (cell: string) => boolean): number =>
    count === 0 ? 0 : sample.filter(test).length / count;
  const lower = sample.map((cell) => cell.toLowerCase());
  const distinct = new Set(lower.map(fold)).size;
  const words = sample.map((cell) => cell.split(/[\s,]+/).filter((word) => word !== ""));
  const word = (test: (word: string) => boolean, last: boolean): number =>
    count === 0
      ? 0
      : words.filter((candidate) =>
          test((last ? candidate[candidate.length - 1] : candidate[0]) ?? ""),
        ).length / count;
  const isGiven = (one: string): boolean => of.given.has(fold(one.split("-")[0] ?? one));
  const years = sample.flatMap((cell) => [...(/\b(?:19|20)\d\d\b/.exec(cell) ?? [])].map(Number));
  const marks = lower.filter((cell) => MARKS.has(cell)).length;
  const children = childLists(written);
  return {
    filled: cells.length === 0 ? 0 : filled.length / cells.length,
    count,
    address: share((cell) => /\S@|@\S/.test(cell)),
    addresses: share((cell) => (cell.match(/@/g) ?? []).length > 1),
    phone: share(isPhone),
    date: share((cell) => DATE.test(cell)),
    moment: share((cell) => DATE.test(cell) && /\d{1,2}[:.h]\d\d/.test(cell.slice(8))),
    years: years.length === 0 ? 0 : Math.max(...years) - Math.min(...years) + 1,
    number: share((cell) => /^\d+([.,]\d+)?$/.test(cell)),
    smallNumber: share((cell) => /^\d{1,2}\.?$/.test(cell)),
    code: share((cell) => /^[\p{L}]{0,6}[-/. ]?\d+[\p{L}\d/.-]*$/u.test(cell)),
    classCode: share((cell) =>
      /^(?:\d{1,2}[.\s/-]?º?ª?\s?\p{L}{1,2}|\p{Lu}{1,2}[-.\s]?\d{1,2})$/u.test(cell),
    ),
    ageGroup: share((cell) =>
      /^(?:u|m|f|j|g)[-\s]?\d{1,2}(?:\D|$)|\b(?:u|under)[-\s]?\d{1,2}\b/iu.test(cell),
    ),
    counts: countingShare(filled),
    season: share((cell) => /^(19|20)\d\d ?[-/–] ?((19|20)\d\d|\d\d)$/.test(cell)),
    mark: count === 0 ? 0 : marks / count,
    yesNo: share((cell) => YES_NO.has(fold(cell.split(/[,;(]/)[0] ?? cell))),
    tie: count === 0 ? 0 : tieShare(sample, of),
    jobs: share((cell) => isJob(cell, of)),
    ...(distinct > MOST_KINDS ? { kinds: 0, parents: 0 } : kindShares(sample, of)),
    gender: distinct < 2 ? 0 : share((cell) => GENDERS.has(fold(cell))),
    nameLike: share(
      (cell) =>
        /^[\p{L}\p{M}'’`´.?,&+/ -]+$/u.test(cell.replace(/(?<=\p{L}{3})\d{1,2}(?= |$)/gu, "")) &&
        /\p{L}{2}/u.test(cell) &&
        cell.length <= 70,
    ),
    commaName: share((cell) => /^[\p{L}\p{M}'’ .-]+, ?[\p{L}\p{M}'’ .?-]+$/u.test(cell)),
    couple: share((cell) => cell.length < 90 && COUPLE.test(cell)),
    childrenWithClasses: children.withClasses,
    childrenPlain: children.plain,
    particle: share(isParticles),
    titled: share(isTitledName),
    sentence: share((cell) => cell.split(" ").length >= 6 && !cell.includes("@")),
    street: share(isStreet),
    givenFirst: word(isGiven, false),
    givenLast: word(isGiven, true),
    wordsEach: count === 0 ? 0 : words.reduce((sum, part) => sum + part.length, 0) / count,
    distinct: count < FEW ? 0.5 : distinct / count,
    values: distinct,
    repeated: count >= MANY && distinct * MANY <= count,
  };
}

/** Whether a text has a word and a house number. */
function isStreet(cell: string): boolean {
  return (
    cell.length > 8 &&
    cell.includes(" ") &&
    !cell.includes("@") &&
    /\p{L}{4}/u.test(cell) &&
    /\b\d{1,4}\s?[a-z]?\b/i.test(cell)
  );
}

function isPhone(cell: string): boolean {
  const digits = cell.replace(/\D/g, "").length;
  return (
    digits >= 7 &&
    digits <= 16 &&
    (/^\+?[\d\s()/.-]+$/.test(cell) ||
      /^\+?[\d\s()/.-]+\s?\(?(?:ext|x|home|work|mob)/i.test(cell)) &&
    !DATE.test(cell)
  );
}

function countingShare(cells: readonly string[]): number {
  let steps = 0;
  let ones = 0;
  for (let at = 1; at < Math.min(cells.length, 500); at++) {
    const [before, now] = [cells[at - 1] ?? "", cells[at] ?? ""].map((cell) =>
      /^\d{1,4}\.?$/.test(cell) ? Number.parseInt(cell, 10) : Number.NaN,
    );
    steps++;
    if (now === (before ?? Number.NaN) + 1) ones++;
  }
  return steps === 0 ? 0 : ones / steps;
}

function tieShare(sample: readonly string[], of: Lexicon): number {
  return (
    sample.filter((cell) => {
      const text = cell.toLowerCase();
      if (text.length > 24 || text.includes("@")) return false;
      if (isTie(text)) return true;
      const found = lookUp(fold(text).split(" "), 0, { of });
      return (
        found !== undefined &&
        found.sureness === 1 &&
        found.senses.some(
          ({ concept }) => concept === "mother" || concept === "father" || concept === "guardian",
        )
      );
    }).length / sample.length
  );
}
