import type { BounceForm, BounceRead } from "../form";
import { humanLines, says, tellingLine } from "../humanPart";
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
function sortBlock(fields: ReadonlyMap<string, string>, text: string): BounceRead {
  const action = (fields.get("action") ?? "").toLowerCase();
  const status = /\d\.\d{1,3}\.\d{1,3}/.exec(fields.get("status") ?? "")?.[0];
  const diagnostic = (fields.get("diagnostic-code") ?? "").replace(/^[\w-]+;\s*/, "");
  // Where the field for machines says nothing plainly, the part for people may.
  const telling = says({ words: diagnostic }) ? undefined : tellingLine(text);
  const words = diagnostic || inWordsOnly(text);
  if (/^(delivered|relayed|expanded)/.test(action) || status?.startsWith("2.") === true)
    return { sort: "not a bounce", words: words || action };
  const code = /^(\d{3})[ -]/.exec(words)?.[1];
  const said = words || telling || humanLines(text)[0] || `${action} ${status ?? ""}`.trim();
  // A report that mail is late is no failure: it may still arrive.
  if (action.startsWith("delayed")) return { sort: "not a bounce", words: said };
  const gaveUp = action.startsWith("failed");
  return {
    sort: sortOf({
      code: code === undefined ? undefined : Number(code),
      status: particular(status, words),
      words: telling === undefined ? said : `${said}. ${telling}`,
      gaveUp,
    }),
    words: said,
    gaveUp,
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
  const { code, status, words } = refusalIn(humanLines(text).join("\n"));
  return code === undefined && status === undefined ? "" : words.replace(/^Delay reason:\s*/i, "");
}
