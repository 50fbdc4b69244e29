import { canonicalAddress } from "../../../address/domainName";
import type { BounceForm, BounceRead } from "../form";
import { humanLines, humanText, says, tellingLine } from "../humanPart";
import { refusalIn } from "../refusalIn";
import { sortOf, type Refused } from "../sortOf";

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

/** Returns whom the first failure of a report is about; undefined where it names nobody. */
export function failedIn(report: string): string | undefined {
  const blocks = blocksOf(report);
  const told = blocks.find((fields) => /^failed/i.test(fields.get("action") ?? "")) ?? blocks[0];
  return told === undefined ? undefined : namedIn(told)[0];
}

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
  const refused = diagnostic === "" ? inWordsOnly(text) : refusalIn(diagnostic);
  // Where the field for machines says nothing plainly, the part for people may.
  const telling = says({ words: refused.words }) ? undefined : tellingLine(text);
  if (/^(delivered|relayed|expanded)/.test(action) || status?.startsWith("2.") === true)
    return { sort: "not a bounce", words: refused.words || action };
  const words =
    refused.words || telling || humanLines(text)[0] || `${action} ${status ?? ""}`.trim();
  // A report that mail is late is no failure: it may still arrive.
  if (action.startsWith("delayed")) return { sort: "not a bounce", words };
  const gaveUp = action.startsWith("failed");
  const all = telling === undefined ? words : `${words}. ${telling}`;
  const sort = sortOf({ ...refused, status: particular(status, refused), words: all, gaveUp });
  return { sort, words, gaveUp };
}

/** Whom a block names: as they were written to, and as they were found (sections 2.3.1 and 2.3.2). */
function namedIn(fields: ReadonlyMap<string, string>): string[] {
  return ["original-recipient", "final-recipient"].flatMap((name) => {
    const value = fields.get(name);
    return value === undefined
      ? []
      : [
          canonicalAddress(
            value
              .slice(value.indexOf(";") + 1)
              .trim()
              .replace(/^<|>$/g, ""),
          ),
        ];
  });
}

/** Whether a block is about a recipient: it names them, or nobody. */
function isAbout(fields: ReadonlyMap<string, string>, recipient: string | undefined): boolean {
  const named = namedIn(fields);
  return (
    recipient === undefined || named.length === 0 || named.includes(canonicalAddress(recipient))
  );
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

/** The status that the other side's words give where the field says nothing in particular (x.0.0). */
function particular(status: string | undefined, refused: Refused): string | undefined {
  return status === undefined || status.endsWith(".0.0") ? (refused.status ?? status) : status;
}

/** What the other side said, where the report leaves it to its part for people (RFC 3464, section 2.3.6: the field is optional). */
function inWordsOnly(text: string): Refused {
  const refused = refusalIn(humanText(text));
  return refused.code === undefined && refused.status === undefined
    ? { words: "" }
    : { ...refused, words: refused.words.replace(/^Delay reason:\s*/i, "") };
}
