import { joined } from "../../text/sentence";
import { columnLetters } from "../sheet";

/** What there is to say of one row of a sheet. */
export interface RowNews {
  /** Whether the house knows its student already. */
  known: boolean;
  /** The lists on which the row's addresses are, each with the day since when. */
  lists: readonly { title: string; since: string }[];
  /** Causes about it that wait in the open round. */
  waiting: readonly { sentence: string; round: number; held: boolean }[];
  questions: readonly string[];
  faults: readonly {
    column: number;
    written: string;
    sentence: string;
    proposal: string | undefined;
    /** What it is read as by a correction; undefined for none. */ mended: string | undefined;
  }[];
  /** Addresses to which mail fails, with what was said. */
  failing: readonly { column: number; address: string; why: string }[];
  /** Whether no guardian's address of it works. */
  unreachable: boolean;
}

/** The cells that Amigo adds to a row: how it stands, on which lists since when, and what is to be done about it, with the fix where there is one. */
export function answerCells({
  known,
  lists,
  waiting,
  questions,
  faults,
  failing,
  unreachable,
}: RowNews): [string, string, string] {
  const toDo = [
    ...questions.map((about) => `Question: ${about}`),
    ...faults.map(({ column, written, sentence, proposal, mended }) => {
      const place = `Column ${columnLetters(column)}: ${sentence.replace(/\.$/, "").toLowerCase()} ("${written}")`;
      if (mended !== undefined)
        return `${place}. Read as ${mended === "" ? "nothing" : mended} by a correction; write it so here.`;
      return proposal === undefined
        ? `${place}. Write another address here.`
        : `${place}. Write ${proposal} if that is meant.`;
    }),
    ...failing.map(
      ({ column, address, why }) =>
        `Column ${columnLetters(column)}: mail to ${address} comes back (${why}). Ask for another address.`,
    ),
    ...(unreachable ? ["No guardian can be reached. Ask for an address."] : []),
  ];
  const open = waiting.filter(({ held }) => !held);
  const status =
    questions.length > 0
      ? "question"
      : !known
        ? waiting.length === 0
          ? "not known"
          : `new, waits in round ${waiting[0]?.round ?? 0}`
        : open[0] !== undefined
          ? `changed, waits in round ${open[0].round}: ${open.map(({ sentence }) => sentence).join("; ")}`
          : waiting[0] !== undefined
            ? `held in round ${waiting[0].round}: ${waiting.map(({ sentence }) => sentence).join("; ")}`
            : faults.some(({ mended }) => mended === undefined) || failing.length > 0
              ? "fault"
              : lists.length === 0
                ? "known, on no list"
                : "in step";
  const bySince = new Map<string, string[]>();
  for (const { title, since } of lists) bySince.set(since, [...(bySince.get(since) ?? []), title]);
  return [
    status,
    [...bySince].map(([since, titles]) => `${joined(titles)} (since ${since})`).join("; "),
    toDo.join(" "),
  ];
}
