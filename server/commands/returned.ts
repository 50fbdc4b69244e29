import { readFileSync } from "node:fs";
import { basename } from "node:path";
import type { BounceRead } from "@amigo/core/mail/bounces/form";
import { isForGood, isOfAddress } from "@amigo/core/mail/bounces/sortOf";
import { readReturned } from "../sandbox/readMail";
import type { CommandAnswer } from "./read";

type Effect = "stops the address" | "counts against the address" | "fails this mail" | "none";

/** What a returned mail means for the address that it is about. */
export function effectOf({ sort, gaveUp = false }: Pick<BounceRead, "sort" | "gaveUp">): Effect {
  if (sort === "not a bounce" || (sort === "temporary" && !gaveUp)) return "none";
  if (isForGood(sort)) return "stops the address";
  return isOfAddress(sort) ? "counts against the address" : "fails this mail";
}

/** What is said of one returned mail. */
interface ReturnedLine {
  file: string;
  /** Whether a mail has failed; delay notices, automatic answers and challenges are none. */
  bounce: boolean;
  kind: string;
  /** What it means for the address. */
  effect: Effect;
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
    const read = await readReturned(raw);
    const { sort, words, recipient } = read;
    const effect = effectOf(read);
    const bounce = effect !== "none";
    lines.push({ file: basename(path), bounce, kind: sort, effect, recipient, words });
  }
  const text = json
    ? JSON.stringify(lines, null, 2)
    : lines
        .map(({ file, kind, effect, words }) => `${file}: ${kind} (${effect}). ${words}`)
        .join("\n");
  return { ok: true, text };
}
