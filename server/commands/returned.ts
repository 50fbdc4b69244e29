import { readFileSync } from "node:fs";
import { basename } from "node:path";
import { isForGood, isOfAddress } from "@amigo/core/mail/bounces/sortOf";
import { readReturned } from "../sandbox/readMail";
import type { CommandAnswer } from "./read";

/** What is said of one returned mail. */
interface ReturnedLine {
  file: string;
  /** Whether a mail has failed; delay notices, automatic answers and challenges are none. */
  bounce: boolean;
  kind: string;
  /** What it means for the address. */
  effect: "stops the address" | "counts against the address" | "fails this mail" | "none";
  /** Whom the mail was for, as far as the returned mail says. */
  recipient: string;
  /** What the other side said. */
  words: string;
}

/** Reads mails that came back, without the database, and says what Amigo makes of each. */
export async function returnedCommand(
  paths: readonly string[],
  { json = false }: { json?: boolean | undefined } = {},
): Promise<CommandAnswer> {
  const lines: ReturnedLine[] = [];
  for (const path of paths) {
    let raw: Buffer;
    try {
      raw = readFileSync(path);
    } catch {
      return { ok: false, sentence: `The file ${path} can't be read. Check its name and place.` };
    }
    const { sort, words, recipient, gaveUp = false } = await readReturned(raw);
    const bounce = sort !== "not a bounce" && (sort !== "temporary" || gaveUp);
    const effect = !bounce
      ? ("none" as const)
      : isForGood(sort)
        ? ("stops the address" as const)
        : isOfAddress(sort)
          ? ("counts against the address" as const)
          : ("fails this mail" as const);
    lines.push({ file: basename(path), bounce, kind: sort, effect, recipient, words });
  }
  const text = json
    ? JSON.stringify(lines, null, 2)
    : lines
        .map(({ file, kind, effect, words }) => `${file}: ${kind} (${effect}). ${words}`)
        .join("\n");
  return { ok: true, text };
}
