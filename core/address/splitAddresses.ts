import { withoutInvisible } from "../text/tidy";

/** Pieces that look like addresses, in the order written, and the texts left over. */
export interface SplitAddresses {
  pieces: string[];
  leftOver: string[];
}

const WITH_NAME = /(?:"[^"\n]*"|[^\s"<>,;|\t\n][^"<>,;|\t\n@]*)?\s*<\s*([^<>\n]*@[^<>\n]*)\s*>/g;
const LOOSE = /[^\s@,;|<>"()]+\s?@+\s?[^\s@,;|<>"()]+(?:,\s?(?:[a-z]{2,})(?=$|[\s;|<>")]))?/gu;

/**
 * Takes several addresses in one text apart, whatever stands between them: commas, semicolons,
 * spaces, tabs, line breaks, dots followed by a space, `"Name" <address>`. Each piece still has
 * to be read with `readAddress`; what is no address is given back, so that nothing goes missing.
 */
export function splitAddresses(text: string): SplitAddresses {
  const pieces: { at: number; piece: string }[] = [];
  let rest = withoutInvisible(text);
  const take = (pattern: RegExp, pick: (match: RegExpMatchArray) => string): void => {
    rest = rest.replace(pattern, (...parts) => {
      const match = parts as unknown as RegExpMatchArray;
      const at = parts.find((part): part is number => typeof part === "number") ?? 0;
      pieces.push({ at, piece: pick(match).trim() });
      return "\u0001".repeat(match[0]?.length ?? 0);
    });
  };
  take(WITH_NAME, (match) => match[1] ?? "");
  take(LOOSE, (match) => (match[0] ?? "").replace(/\s/g, "").replace(/\.$/, ""));
  const leftOver = rest
    .split(/[\u0001,;|\t\n\r]+/)
    .map((part) => part.replace(/^[\s."<>]+|[\s."<>]+$/g, ""))
    .filter((part) => part !== "" && part.toLowerCase() !== "mailto:");
  return { pieces: pieces.sort((a, b) => a.at - b.at).map(({ piece }) => piece), leftOver };
}
