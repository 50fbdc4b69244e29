import { message, type Message } from "@amigo/language/message";
import { meaningOf } from "../meanings/allMeanings";
import { GROUP_MEANINGS } from "../meanings/groupMeanings";
import { meaningName } from "../meanings/meaningName";
import type { MeaningId } from "../meanings/meaning";
import { columnTitle } from "./columnTitle";

/** A column as it stands before it is asked about. */
export interface AskableColumn {
  index: number;
  title: string;
  meaning: MeaningId;
  slot: number;
  confidence: number;
  others?: readonly { meaning: MeaningId; confidence: number }[];
  /** Whether only its place says which guardian's address it is. */
  guessed?: boolean;
}

/** One answer to a question about columns: what it makes of them. */
export interface ColumnAnswer {
  /** The column by its title, or what it holds, or "None of them". */
  label: Message;
  /** The column that it is about; undefined for "None of them". */
  column: number | undefined;
  /** The column with the names to which an address column would belong, where that is asked. */
  belongsTo?: number;
  /** The meanings that it gives, by column. */
  sets: { column: number; meaning: MeaningId; slot: number }[];
}

/** One question about what columns hold. */
export interface ColumnQuestion {
  about: Message;
  answers: ColumnAnswer[];
}

/** Surer than this, nobody is asked. */
export const SURE_ENOUGH = 0.8;
/** What is less likely than this isn't offered. */
const LEAST = 0.15;
/** Whatever is wrong about these puts people on wrong lists, or on none. */
const WEIGHTY: ReadonlySet<MeaningId> = new Set<MeaningId>([
  "student.surname",
  "student.given",
  "student.name",
  "children",
  "student.address",
  ...GROUP_MEANINGS,
  "guardian.address",
  "guardian.name",
  "guardian.surname",
  "guardian.given",
  "coach.address",
]);

/**
 * The questions that a person has to answer about columns, the weightiest first. What is sure is not asked.
 *
 * @param layout `isWhole` where level and section name the class together, so that neither is asked about
 */
export function askColumns(
  columns: readonly AskableColumn[],
  { isWhole = false } = {},
): ColumnQuestion[] {
  const asked = new Set<number>();
  const questions: ColumnQuestion[] = [];
  const group = isWhole ? undefined : askGroup(columns);
  if (group !== undefined) {
    questions.push(group);
    for (const { column } of group.answers) if (column !== undefined) asked.add(column);
  }
  const guessed = columns.find((column) => column.guessed === true);
  if (guessed !== undefined) {
    asked.add(guessed.index);
    questions.push(askWhose(guessed, columns));
  }
  const isOnlyGroup =
    columns.filter(({ meaning }) => isGroup(meaning) || meaning === "student.level").length === 1;
  for (const column of columns) {
    if (asked.has(column.index) || (isWhole && isPartOfClass(column.meaning))) continue;
    const others = (column.others ?? []).filter(
      ({ meaning, confidence }) =>
        confidence >= LEAST && !isSister(meaning, column.meaning, isOnlyGroup),
    );
    const isWeighty =
      WEIGHTY.has(column.meaning) || others.some(({ meaning }) => WEIGHTY.has(meaning));
    const [next] = others;
    if (next === undefined || next.confidence <= 1 - SURE_ENOUGH || !isWeighty) continue;
    asked.add(column.index);
    questions.push({
      about: message("sheet.whatDoesItHold", { column: columnTitle(column) }),
      answers: [
        answer(column, column.meaning, column.slot),
        ...others.slice(0, 3).map(({ meaning }) => answer(column, meaning, 0)),
        ...(column.meaning === "unread" ||
        others.slice(0, 3).some(({ meaning }) => meaning === "unread")
          ? []
          : [answer(column, "unread", 0)]),
      ],
    });
  }
  return questions;
}

/** Which guardian's an address is, where neither titles nor names tell. The other address changes places with it. */
function askWhose(column: AskableColumn, columns: readonly AskableColumn[]): ColumnQuestion {
  const addresses = columns.filter(({ meaning }) => meaning === "guardian.address");
  const named = columns.filter(
    ({ meaning }) => meaning === "guardian.name" || meaning === "guardian.given",
  );
  return {
    about: message("sheet.whoseAddress", { column: columnTitle(column) }),
    answers: [...named]
      .sort((a, b) => Number(b.slot === column.slot) - Number(a.slot === column.slot))
      .slice(0, 4)
      .map((name) => ({
        label: columnTitle(name),
        column: column.index,
        belongsTo: name.index,
        sets: addresses.map(({ index, meaning, slot }) => ({
          column: index,
          meaning,
          slot: index === column.index ? name.slot : slot === name.slot ? column.slot : slot,
        })),
      })),
  };
}

/**
 * Class or team: either makes a list of those children, and the person sees which; nobody is asked about that alone. A level is
 * one more of these where the sheet has no other group.
 */
function isSister(one: MeaningId, other: MeaningId, isOnlyGroup: boolean): boolean {
  const isOne = (meaning: MeaningId): boolean =>
    isGroup(meaning) || (isOnlyGroup && meaning === "student.level");
  return isOne(one) && isOne(other);
}

function isPartOfClass(meaning: MeaningId): boolean {
  return meaning === "classes" || meaning === "student.level";
}

function isGroup(meaning: MeaningId): boolean {
  return GROUP_MEANINGS.has(meaning);
}

/** Which of several columns is the class; undefined where that is plain. */
function askGroup(columns: readonly AskableColumn[]): ColumnQuestion | undefined {
  const chance = ({ meaning, others = [] }: AskableColumn): number =>
    meaning === "classes"
      ? 1 - (others.find((other) => !isGroup(other.meaning))?.confidence ?? 0)
      : (others.find((other) => other.meaning === "classes")?.confidence ?? 0);
  const candidates = columns
    .filter((column) => chance(column) >= LEAST && column.meaning !== "teams")
    .sort((a, b) => chance(b) - chance(a));
  const [best] = candidates;
  if (best === undefined || chance(best) >= SURE_ENOUGH) return undefined;
  const isNamed = columns.some(({ meaning }) => isGroup(meaning));
  if (candidates.length < 2 && (isNamed || best.meaning === "classes")) return undefined;
  // A column that isn't the class after all is what it would be otherwise.
  const otherwise = ({ others = [] }: AskableColumn): MeaningId =>
    others.find(({ meaning }) => !isGroup(meaning))?.meaning ?? "unread";
  const giving = (chosen: AskableColumn | undefined): ColumnAnswer["sets"] =>
    candidates.map((column) => {
      const meaning =
        column === chosen
          ? "classes"
          : column.meaning === "classes"
            ? otherwise(column)
            : column.meaning;
      const slot = column.meaning === meaning ? column.slot : 0;
      return {
        column: column.index,
        meaning,
        slot: meaningOf(meaning).slotted ? Math.max(1, slot) : slot,
      };
    });
  return {
    about: message("sheet.whichIsTheClass"),
    answers: [
      ...candidates.slice(0, 4).map((column) => ({
        label: columnTitle(column),
        column: column.index,
        sets: giving(column),
      })),
      { label: message("sheet.noneOfThem"), column: undefined, sets: giving(undefined) },
    ],
  };
}

function answer(column: AskableColumn, meaning: MeaningId, slot: number): ColumnAnswer {
  const found = meaningOf(meaning).slotted ? Math.max(1, slot) : slot;
  return {
    label: meaningName({ meaning, slot: found }),
    column: column.index,
    sets: [{ column: column.index, meaning, slot: found }],
  };
}
