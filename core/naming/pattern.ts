import { message, type Message } from "@amigo/language/message";
import { fold } from "../text/fold";
import { isOneSlip } from "../text/slip";
import { initials, proposeShortForm, squash } from "./shortForm";

/** What fills the parts of a naming pattern. */
export interface NameParts {
  /** The site's short code. */
  site: string;
  /** The full name of the class, team, committee, site or level; for a single list its display name. */
  of: string;
  /** Whom it is for, as the board calls its column: `Guardians`. */
  audience: string;
  /** Such as `2026-27`. */
  season: string;
  /** The name of the coach. */
  lead: string;
}

/** The house's dictionary of short forms, by folded full name. */
export type ShortForms = ReadonlyMap<string, string>;

const OF = ["class", "team", "committee", "level", "list"] as const;

/** The parts that a pattern may have, in the order in which they are offered. */
export const PARTS = ["site", ...OF, "audience", "lead", "season"] as const;

/** How a part can be written; `first 5` with any number. */
export const MODIFIERS = ["short", "squashed", "initials", "first 5"] as const;

export interface PatternFault {
  at: number;
  sentence: Message;
  proposal: string | undefined;
}

type Piece = { text: string } | { part: string; modifier: string };

/**
 * Reads a pattern such as `{site}-{class:first 5}-{audience}-{season}`: parts in braces, each with a modifier behind a
 * colon where it is to be written otherwise than usual; everything else stands as it is.
 */
export function readPattern(
  pattern: string,
): { ok: true; pieces: Piece[] } | { ok: false; fault: PatternFault } {
  const pieces: Piece[] = [];
  for (const match of pattern.matchAll(/\{([^{}]*)\}|[^{}]+|[{}]/g)) {
    const [whole, inner] = match;
    if (inner === undefined) {
      if (whole === "{" || whole === "}")
        return fault(match.index, message("naming.aBraceStandsAloneHere"), undefined);
      pieces.push({ text: whole });
      continue;
    }
    const [part = "", modifier = ""] = inner.split(":").map((text) => text.trim().toLowerCase());
    if (!PARTS.some((known) => known === part)) {
      const near = PARTS.find((known) => isOneSlip(known, part));
      return fault(
        match.index,
        message("naming.thereIsNoPartThere", {
          part,
          parts: PARTS.map((known) => `{${known}}`).join(", "),
        }),
        near === undefined ? undefined : `{${near}}`,
      );
    }
    if (!/^(|short|squashed|initials|first [1-9]\d?)$/.test(modifier))
      return fault(
        match.index,
        message("naming.isNoWayToWrite", { modifier, ways: MODIFIERS.join(", ") }),
        `{${part}:short}`,
      );
    pieces.push({ part, modifier });
  }
  return { ok: true, pieces };
}

function fault(
  at: number,
  sentence: Message,
  proposal: string | undefined,
): { ok: false; fault: PatternFault } {
  return { ok: false, fault: { at, sentence, proposal } };
}

/** Fills a pattern. Only letters, digits, dots and dashes stand in the outcome; it can be empty or too long. */
export function fillPattern(
  pieces: readonly Piece[],
  parts: NameParts,
  shortForms: ShortForms,
): string {
  const filled = pieces
    .map((piece) =>
      "text" in piece ? piece.text : write(piece.part, piece.modifier, parts, shortForms),
    )
    .join("");
  return tidyName(filled);
}

/** Makes any text a name: folded to small ASCII letters, every other sign a dash, none of them at the ends or twice. */
export function tidyName(text: string): string {
  const ascii = text
    .split(/([.-]+)/)
    .map((piece) =>
      /^[.-]/.test(piece)
        ? piece
        : piece
            .split(/[\s_/,;&+]+/)
            .map(squash)
            .join("-"),
    )
    .join("");
  return ascii
    .replace(/[.-]+/g, (run) => (run.includes("-") ? "-" : "."))
    .replace(/^[.-]+|[.-]+$/g, "");
}

function write(part: string, modifier: string, parts: NameParts, shortForms: ShortForms): string {
  if (part === "season" && modifier === "")
    return parts.season.replace(/^(?:\d\d)?(\d\d)-(?:\d\d)?(\d\d)$/, "$1$2");
  if (part === "site" && modifier === "") return squash(parts.site);
  const text =
    part === "site" || part === "audience" || part === "season" || part === "lead"
      ? parts[part]
      : parts.of;
  if (modifier === "squashed") return squash(text);
  if (modifier === "initials") return initials(text);
  const first = /^first (\d+)$/.exec(modifier);
  if (first !== null) return squash(text).slice(0, Number(first[1]));
  return (
    shortForms.get(fold(text)) ??
    (part === "lead"
      ? squash(
          text.includes(",") ? (text.split(",")[0] ?? "") : (text.trim().split(/\s+/).pop() ?? ""),
        )
      : proposeShortForm(text))
  );
}
