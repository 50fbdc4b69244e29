import { counted } from "../../text/sentence";
import { fold } from "../../text/fold";
import { tidyLine } from "../../text/tidy";
import type { MeaningId } from "../meanings/meaning";
import type { ColumnAnswer, ColumnQuestion } from "./askColumns";
import type { KnownWords } from "./knownWords";

/** An answer with what somebody needs to choose it: some of the column's cells, and what follows. */
export interface ShownAnswer extends ColumnAnswer {
  /** `5 values: Acro, Silks, …`; empty where it is about no column. */
  values: string;
  effect: string;
}

/** A question as a page shows it. */
export interface ShownQuestion {
  about: string;
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
      const chosen = answer.sets.find((own) => own.column === column)?.meaning ?? "unread";
      return {
        ...answer,
        values: column === undefined ? "" : valuesOf(cells),
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
function exampleOf(names: readonly string[], addresses: readonly string[]): string {
  const row = names.findIndex(
    (name, at) => name.trim() !== "" && (addresses[at] ?? "").includes("@"),
  );
  return row < 0
    ? "Their mail goes to these addresses."
    : `For example, mail for ${tidyLine(names[row] ?? "")} goes to ${tidyLine(addresses[row] ?? "")}.`;
}

const NO_GROUP = "Children are imported without a class.";

function valuesOf(cells: readonly string[]): string {
  const values = [...new Set(cells)];
  const text = values.slice(0, SHOWN).join(", ");
  return `${counted(values.length, "value")}: ${text.length > LONGEST ? `${text.slice(0, LONGEST)} …` : text}${values.length > SHOWN ? ", …" : ""}`;
}

const EFFECTS: Partial<Record<MeaningId, string>> = {
  "student.number": "Tells children of one name apart.",
  "student.surname": "The children's surname.",
  "student.prefix": "Stands in front of the children's surname.",
  "student.given": "The children's first name.",
  "student.name": "The children's whole name.",
  "student.level": "The children's level, which rules can ask for.",
  "student.address": "The children's own addresses; no guardian is reached by them.",
  site: "The site where the children are.",
  coach: "Who leads the class.",
  "coach.address": "The address of who leads the class; no guardian is reached by it.",
  season: "Only rows of the current season are imported.",
  answered: "Of two answers the later one counts.",
  "guardian.name": "The name of a guardian.",
  "guardian.given": "The first name of a guardian.",
  "guardian.surname": "The surname of a guardian.",
  "guardian.address": "Mail for guardians goes to these addresses.",
  "guardian.relationship": "What the guardian is to the child.",
  "classes.mark": "Children with a mark are in the class of that title.",
  "teams.mark": "Children with a mark are in the team of that title.",
  detail: "Kept with each child under its title. Rules can ask for it.",
  private: "Never stored.",
  unread: "Kept with the import, but not used.",
};

function effectOf(
  meaning: MeaningId,
  cells: readonly string[],
  known: KnownWords | undefined,
): string {
  if (meaning !== "classes" && meaning !== "teams") return EFFECTS[meaning] ?? "";
  const counts = new Map<string, number>();
  for (const cell of cells) counts.set(fold(cell), (counts.get(fold(cell)) ?? 0) + 1);
  const sizes = [...counts.values()];
  const [least, most] = [Math.min(...sizes), Math.max(...sizes)];
  const what = meaning === "classes" ? ["class", "classes"] : ["team", "teams"];
  const own = new Set((known?.[meaning] ?? []).map(fold));
  const here = [...counts.keys()].filter((name) => own.has(name)).length;
  return `Makes ${counted(counts.size, what[0] ?? "", what[1])} with ${least === most ? `${counted(most, "child", "children")}${counts.size > 1 ? " each" : ""}` : `${least} to ${most} children`}.${here > 0 ? ` ${here} of these names ${here === 1 ? "is" : "are"} here already.` : ""}`;
}
