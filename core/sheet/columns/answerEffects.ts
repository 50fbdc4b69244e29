import { message, sentences, type Message } from "@amigo/language/message";
import { fold } from "../../text/fold";
import { tidyLine } from "../../text/tidy";
import type { MeaningId } from "../meanings/meaning";
import type { ColumnAnswer, ColumnQuestion } from "./askColumns";
import type { KnownWords } from "./knownWords";

/** An answer with what somebody needs to choose it: some of the column's cells, and what follows. */
export interface ShownAnswer extends ColumnAnswer {
  /** `5 values: Acro, Silks, …`; undefined where it is about no column. */
  values: Message | undefined;
  effect: Message;
}

/** A question as a page shows it. */
export interface ShownQuestion {
  about: Message;
  answers: ShownAnswer[];
}

const SHOWN = 5;
const LONGEST = 90;

/** Adds to a question's answers what the cells of their columns are, and what each would do. */
export function showQuestion(
  { about, answers }: ColumnQuestion,
  cellsOf: (column: number) => readonly string[],
  known: KnownWords | undefined,
): ShownQuestion {
  return {
    about,
    answers: answers.map((answer) => {
      const column = answer.column;
      const cells =
        column === undefined
          ? []
          : cellsOf(column)
              .map(tidyLine)
              .filter((cell) => cell !== "");
      const chosen =
        answer.sets.find((candidate) => candidate.column === column)?.meaning ?? "unread";
      return {
        ...answer,
        values: column === undefined ? undefined : valuesOf(cells),
        effect:
          column === undefined
            ? NO_GROUP
            : answer.belongsTo === undefined
              ? effectOf(chosen, cells, known)
              : exampleOf(cellsOf(answer.belongsTo), cellsOf(column)),
      };
    }),
  };
}

/** Whose mail would go where, in the first row that says both. */
function exampleOf(names: readonly string[], addresses: readonly string[]): Message {
  const row = names.findIndex(
    (name, at) => name.trim() !== "" && (addresses[at] ?? "").includes("@"),
  );
  return row < 0
    ? message("sheet.effectTheirMail")
    : message("sheet.effectExample", {
        name: tidyLine(names[row] ?? ""),
        address: tidyLine(addresses[row] ?? ""),
      });
}

const NO_GROUP = message("sheet.effectNoGroup");

function valuesOf(cells: readonly string[]): Message {
  const values = [...new Set(cells)];
  const text = values.slice(0, SHOWN).join(", ");
  return message("sheet.someValues", {
    count: values.length,
    values: text.length > LONGEST ? `${text.slice(0, LONGEST)} …` : text,
    isMore: String(values.length > SHOWN),
  });
}

const EFFECTS: Partial<Record<MeaningId, Message>> = {
  "student.number": message("sheet.effectStudentNumber"),
  "student.surname": message("sheet.effectStudentSurname"),
  "student.prefix": message("sheet.effectStudentPrefix"),
  "student.given": message("sheet.effectStudentGiven"),
  "student.name": message("sheet.effectStudentName"),
  children: message("sheet.effectChildren"),
  "person.kind": message("sheet.effectPersonKind"),
  family: message("sheet.effectFamily"),
  "student.level": message("sheet.effectStudentLevel"),
  "student.address": message("sheet.effectStudentAddress"),
  site: message("sheet.effectSite"),
  coach: message("sheet.effectCoach"),
  "coach.address": message("sheet.effectCoachAddress"),
  season: message("sheet.effectSeason"),
  answered: message("sheet.effectAnswered"),
  "guardian.name": message("sheet.effectGuardianName"),
  "guardian.given": message("sheet.effectGuardianGiven"),
  "guardian.surname": message("sheet.effectGuardianSurname"),
  "guardian.address": message("sheet.effectGuardianAddress"),
  "guardian.relationship": message("sheet.effectGuardianRelationship"),
  "classes.mark": message("sheet.effectClassesMark"),
  "teams.mark": message("sheet.effectTeamsMark"),
  detail: message("sheet.effectDetail"),
  private: message("sheet.effectPrivate"),
  unread: message("sheet.effectUnread"),
};

function effectOf(
  meaning: MeaningId,
  cells: readonly string[],
  known: KnownWords | undefined,
): Message {
  if (meaning !== "classes" && meaning !== "teams") return EFFECTS[meaning] ?? sentences();
  const counts = new Map<string, number>();
  for (const cell of cells) counts.set(fold(cell), (counts.get(fold(cell)) ?? 0) + 1);
  const sizes = [...counts.values()];
  const [least, most] = [Math.min(...sizes), Math.max(...sizes)];
  const words = new Set((known?.[meaning] ?? []).map(fold));
  const here = [...counts.keys()].filter((name) => words.has(name)).length;
  return sentences(
    message(meaning === "classes" ? "sheet.effectMakesClasses" : "sheet.effectMakesTeams", {
      groups: counts.size,
      least,
      most,
      isSame: String(least === most),
    }),
    here > 0 ? message("sheet.effectHereAlready", { here }) : undefined,
  );
}
