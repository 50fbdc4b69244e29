import type { BounceForm, BounceSort } from "../form";
import { refusalIn } from "../refusalIn";
import { sortOf } from "../sortOf";

/** A delivery status notification: RFC 3464, with the fields of each recipient in a block of its own (section 2.3). */
export const deliveryStatus: BounceForm = {
  id: "delivery status",
  read: ({ report, text, recipient }) => {
    if (report === "") return undefined;
    const blocks = blocksOf(report);
    const foundBlocks = blocks.filter((fields) => isAbout(fields, recipient));
    if (foundBlocks.length === 0 && blocks.length > 0)
      return { sort: "not a bounce", words: "the report is about another address" };
    const told =
      foundBlocks.find((fields) => /^failed/i.test(fields.get("action") ?? "")) ?? foundBlocks[0];
    return told === undefined ? undefined : sortBlock(told, text);
  },
};

/** Returns the fields of each recipient's block of a report. */
function blocksOf(report: string): Map<string, string>[] {
  return report
    .replace(/\r\n?/g, "\n")
    .replace(/\n[ \t]+/g, " ")
    .split(/\n{2,}/)
    .map(fieldsOf)
    .filter((fields) => fields.has("action") || fields.has("status"));
}

/** Sorts what one block says, with the words of the part for people where it has none of its own. */
function sortBlock(
  fields: ReadonlyMap<string, string>,
  text: string,
): { sort: BounceSort; words: string } {
  const action = (fields.get("action") ?? "").toLowerCase();
  const status = /\d\.\d{1,3}\.\d{1,3}/.exec(fields.get("status") ?? "")?.[0];
  const words =
    (fields.get("diagnostic-code") ?? "").replace(/^[\w-]+;\s*/, "") || inWordsOnly(text);
  if (/^(delivered|relayed|expanded)/.test(action) || status?.startsWith("2.") === true)
    return { sort: "not a bounce", words: words || action };
  const code = /^(\d{3})[ -]/.exec(words)?.[1];
  const said = words || firstLine(text) || `${action} ${status ?? ""}`.trim();
  // A report that mail is late says nothing for good, whatever its words.
  if (action.startsWith("delayed"))
    return { sort: sortOf({ code: 450, status, words: said }), words: said };
  // A queue that has given up reports failure with a code of the last try, which was for now.
  return {
    sort: sortOf({
      code: code === undefined ? undefined : Number(code),
      status: particular(status, words),
      words: said,
    }),
    words: said,
  };
}

/** Whether a block is about a recipient: it names them as they were written to or as they were found (sections 2.3.1 and 2.3.2), or names nobody. */
function isAbout(fields: ReadonlyMap<string, string>, recipient: string | undefined): boolean {
  const named = ["original-recipient", "final-recipient"].flatMap((name) => {
    const value = fields.get(name);
    return value === undefined
      ? []
      : [
          value
            .slice(value.indexOf(";") + 1)
            .trim()
            .replace(/^<|>$/g, "")
            .toLowerCase(),
        ];
  });
  return recipient === undefined || named.length === 0 || named.includes(recipient.toLowerCase());
}

function fieldsOf(block: string): Map<string, string> {
  return new Map(
    block.split("\n").flatMap((line): [string, string][] => {
      const colon = line.indexOf(":");
      return colon < 1
        ? []
        : [[line.slice(0, colon).trim().toLowerCase(), line.slice(colon + 1).trim()]];
    }),
  );
}

/** The status that the words themselves give where the field says nothing in particular (x.0.0). */
function particular(status: string | undefined, words: string): string | undefined {
  return status === undefined || status.endsWith(".0.0")
    ? (/\b[45]\.\d{1,3}\.\d{1,3}\b/.exec(words)?.[0] ?? status)
    : status;
}

/** What the other side said, where the report leaves it to its part for people (RFC 3464, section 2.3.6: the field is optional). */
function inWordsOnly(text: string): string {
  const { code, status, words } = refusalIn(text);
  return code === undefined && status === undefined ? "" : words.replace(/^Delay reason:\s*/i, "");
}

function firstLine(text: string): string {
  return (
    text
      .split(/\r?\n/)
      .find((line) => line.trim() !== "")
      ?.trim() ?? ""
  );
}
