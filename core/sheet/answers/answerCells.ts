import { each, message, sentences, type Message, type Value } from "@amigo/language/message";
import { columnLetters } from "../sheet";

/** What there is to say of one row of a sheet. */
export interface RowNews {
  /** Whether the house knows its student already. */
  known: boolean;
  /** The lists on which the row's addresses are, each with the day since when. */
  lists: readonly { title: string; since: string }[];
  /** Causes about it that wait in the open round. */
  waiting: readonly { sentence: Value; round: number; held: boolean }[];
  questions: readonly string[];
  faults: readonly {
    column: number;
    written: string;
    sentence: Value;
    proposal: string | undefined;
    /** What it is read as by a correction; undefined for none. */
    mended: string | undefined;
  }[];
  /** Addresses to which mail fails, with what was said. */
  failing: readonly { column: number; address: string; why: Value }[];
  /** Whether no guardian's address of it works. */
  unreachable: boolean;
}

/** Returns what the cells say that Amigo adds to a row: how it stands, on which lists since when, and what is to be done about it, with the fix where there is one. */
export function answerCells({
  known,
  lists,
  waiting,
  questions,
  faults,
  failing,
  unreachable,
}: RowNews): [Message, Message, Message] {
  const toDo = [
    ...questions.map((about) => message("sheet.toDoQuestion", { about })),
    ...faults.map(({ column, written, sentence, proposal, mended }) =>
      message(
        mended !== undefined
          ? "sheet.toDoCorrected"
          : proposal === undefined
            ? "sheet.toDoAnother"
            : "sheet.toDoProposal",
        { column: columnLetters(column), written, sentence, proposal, mended },
      ),
    ),
    ...failing.map(({ column, address, why }) =>
      message("sheet.toDoFailing", { column: columnLetters(column), address, why }),
    ),
    ...(unreachable ? [message("sheet.toDoUnreachable")] : []),
  ];
  const bySince = new Map<string, string[]>();
  for (const { title, since } of lists) bySince.set(since, [...(bySince.get(since) ?? []), title]);
  return [
    statusOf({ known, lists, waiting, questions, faults, failing }),
    each(
      [...bySince].map(([since, titles]) =>
        message("sheet.listsSince", { titles: each(titles), since }),
      ),
      "semicolon",
    ),
    sentences(...toDo),
  ];
}

/** Returns how a row stands, in a few words. */
function statusOf({
  known,
  lists,
  waiting,
  questions,
  faults,
  failing,
}: Omit<RowNews, "unreachable">): Message {
  const [first] = waiting;
  const open = waiting.filter(({ held }) => !held);
  const say = (what: readonly RowNews["waiting"][number][]): Message =>
    each(
      what.map(({ sentence }) => sentence),
      "semicolon",
    );
  if (questions.length > 0) return message("sheet.statusQuestion");
  if (!known)
    return first === undefined
      ? message("sheet.statusUnknown")
      : message("sheet.statusNew", { round: first.round });
  if (open[0] !== undefined)
    return message("sheet.statusChanged", { round: open[0].round, changes: say(open) });
  if (first !== undefined)
    return message("sheet.statusHeld", { round: first.round, changes: say(waiting) });
  if (failing.length > 0 || faults.some(({ mended }) => mended === undefined))
    return message("sheet.statusFault");
  return message(lists.length === 0 ? "sheet.statusOnNoList" : "sheet.statusInStep");
}
