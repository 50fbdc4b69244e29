import { fold } from "../../text/fold";
import { tidyLine } from "../../text/tidy";
import { plainClassName, saysGroup } from "./className";

/** A child as one of several in a cell: the name as it is written, and the class behind it. */
export interface ChildInCell {
  name: string;
  /** The class or level; empty where none is written. */
  group: string;
}

/** What is longer than this lists nobody's children. */
const LONGEST = 300;
const SIGNS = /[;/&+|\n]|\s(?:and|und|et|y|e|og|och|en|i|a|ve|ja|sekä|oraz|u)\s(?=\p{Lu})/u;
/** A class as it is written behind a name: `3B`, `5`, `2.`, `U12`, `CM1`. */
const CODE = /^(?:\d{1,2}[.ºª]?[-/.]?\p{L}{0,2}|\p{Lu}{1,3}-?\d{1,2}\p{Lu}?)$/u;
/** A word for classes in front of it: `Year 3`, `Klasse 4b`, or behind it: `2. klasse`. */
const WORD = /^\p{L}{2,10}\.?$/u;
/** The longest text in brackets that is a class. */
const LONGEST_GROUP = 30;
/** Ages are no classes: `7 years`, `8 J.`, `9 ans`. */
const AGE =
  /^\d{1,2}\s?(?:y|yo|yrs?|years?(?: old)?|j|jahre?|ans?|años?|anni|anos|jaar|år|v|lat|let|yaş)\.?$/iu;
const NAME = /^[\p{L}\p{M}'’`´. -]{2,60}$/u;

/**
 * Takes the children of a family apart who stand in one cell, each with their class where it is written with them:
 * `Ana (3B), Luis (5A)`, `Ana 3B / Luis 5A`, `Ana, Luis & Eva`.
 *
 * @returns the children in the order written; none where the cell holds anything else
 */
export function splitChildren(written: string): ChildInCell[] {
  if (written.length > LONGEST) return [];
  const parts = written
    .split(SIGNS)
    .flatMap(atCommas)
    .map(tidyLine)
    .filter((part) => part !== "");
  const children = parts.map(childIn);
  return children.every(({ name }) => NAME.test(name)) ? children : [];
}

/** Commas stand between children, unless one stands between a child and their class: `Ana, 3B; Luis, 5A`. */
function atCommas(part: string): string[] {
  const pieces = part.split(",").map(tidyLine);
  return pieces.some((piece) => piece !== "" && !/\p{L}{2}/u.test(piece)) ? [part] : pieces;
}

function childIn(part: string): ChildInCell {
  const { name, group } = inBrackets(part) ??
    behindName(part) ??
    behindDash(part) ?? { name: part, group: "" };
  return { name: tidyLine(name), group: isAge(group) ? "" : plainClassName(group) };
}

function isAge(text: string): boolean {
  return AGE.test(text);
}

/** `Ana (3B)`. */
function inBrackets(part: string): ChildInCell | undefined {
  const open = Math.max(part.lastIndexOf("("), part.lastIndexOf("["));
  if (open < 2 || !/[)\]]$/.test(part) || part.length - open > LONGEST_GROUP) return undefined;
  return { name: part.slice(0, open), group: part.slice(open + 1, -1) };
}

/** `Ana 3B`, `Ana - 3B`, `Ana: Year 3`, `Ana 2. klasse`. */
function behindName(part: string): ChildInCell | undefined {
  const words = part.split(/[\s,:]+/).filter((word) => !/^[–-]?$/.test(word));
  const [before = "", last = ""] = words.slice(-2);
  const size = CODE.test(last)
    ? words.length > 2 && isGroupWord(before)
      ? 2
      : 1
    : words.length > 2 && CODE.test(before) && WORD.test(last)
      ? 2
      : 0;
  if (size === 0 || words.length <= size) return undefined;
  return { name: words.slice(0, -size).join(" "), group: words.slice(-size).join(" ") };
}

/** `Ana - Wire Walk`, `Ana – K`: a dash with spaces around it stands between a name and a class. */
function behindDash(part: string): ChildInCell | undefined {
  const [name = "", group = "", ...more] = part.split(/ [-–—] /);
  const isClass = group !== "" && group.length <= LONGEST_GROUP && more.length === 0;
  return isClass ? { name, group } : undefined;
}

/** Whether a word means class, team or level, in any language; a surname doesn't. */
function isGroupWord(word: string): boolean {
  return WORD.test(word) && saysGroup(word);
}

/** How a column's cells list children. Shares run from 0 to 1. */
export interface ChildLists {
  /** Share of the cells in which every child has a class behind the name, where some cells have several children. */
  withClasses: number;
  /** Share of the cells that list children by their first names alone, where some have several children and others have one. */
  plain: number;
}

/** At least this share of the names in a column of children are different. */
const VARIED = 0.6;
/** In a large school, where first names repeat, this many different names are enough. */
const MANY = 40;

/** Says how well the filled cells of a column fit lists of a family's children. */
export function childLists(cells: readonly string[]): ChildLists {
  const lists = cells.map(splitChildren);
  const several = lists.filter(({ length }) => length > 1).length;
  const names = lists.flatMap((list) => list.map(({ name }) => fold(name)));
  // Classes and teams come again and again, children mostly don't.
  const areVaried = new Set(names).size >= Math.min(MANY, names.length * VARIED);
  if (several === 0 || several * 10 < lists.length || !areVaried)
    return { withClasses: 0, plain: 0 };
  const share = (test: (list: readonly ChildInCell[]) => boolean): number =>
    lists.filter((list) => list.length > 0 && test(list)).length / lists.length;
  const isFirstName = ({ name }: ChildInCell): boolean => !name.includes(" ");
  // "Vega, Ana" in every row is a surname and a first name.
  const counts = new Set(lists.map(({ length }) => length));
  return {
    withClasses: share((list) => list.every(({ group }) => group !== "")),
    plain: counts.size > 1 && counts.has(1) ? share((list) => list.every(isFirstName)) : 0,
  };
}
