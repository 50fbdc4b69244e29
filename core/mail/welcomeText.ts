import { message, type Message } from "@amigo/language/message";

/** What can be filled in where somebody is welcomed. */
export const WELCOME_FIELDS = [
  "first name",
  "name",
  "children",
  "class",
  "list",
  "address",
  "lead",
  "house",
  "page",
  "how to leave",
  "shelf",
] as const;

export type WelcomeField = (typeof WELCOME_FIELDS)[number];

export type WelcomeValues = Readonly<Partial<Record<WelcomeField, string>>>;

/** What is wrong with a welcome's words, and where: at which sign, counted from 0. */
export interface WelcomeFault {
  at: number;
  sentence: Message;
}

type Piece =
  | { is: "text"; text: string }
  | { is: "field"; field: WelcomeField; instead: string }
  | { is: "if"; field: WelcomeField; then: Piece[]; otherwise: Piece[] };

/** A condition that stands on a line by itself takes the line away with it. */
const LONE_TAG = /^[ \t]*(\{\s*(?:if [^{}]+|else|end)\s*\})[ \t]*(?:\r?\n|$)/gm;

/**
 * Reads a welcome: text with fields (`{first name}`, or `{first name|friend}` with what stands there where nothing is known) and
 * conditions (`{if class} … {else} … {end}`: where the field has something to say, and where it has not). Conditions can stand in one another.
 *
 * @returns its faults, in their order; none for a text that is right
 */
export function welcomeFaults(text: string): WelcomeFault[] {
  return parse(text).faults;
}

/** A welcome with its fields filled in. What is no field stays as it is; a condition that never ends reaches to the end. */
export function fillWelcome(text: string, values: WelcomeValues): string {
  const told = (pieces: readonly Piece[]): string =>
    pieces
      .map((piece) => {
        if (piece.is === "text") return piece.text;
        const value = values[piece.field] ?? "";
        return piece.is === "field"
          ? value || piece.instead
          : told(value === "" ? piece.otherwise : piece.then);
      })
      .join("");
  return told(parse(text.replace(LONE_TAG, "$1")).pieces);
}

function parse(text: string): { pieces: Piece[]; faults: WelcomeFault[] } {
  const faults: WelcomeFault[] = [];
  const pieces: Piece[] = [];
  const open: { piece: Extract<Piece, { is: "if" }>; at: number; inElse: boolean }[] = [];
  const put = (piece: Piece): void => {
    const last = open[open.length - 1];
    (last === undefined ? pieces : last.inElse ? last.piece.otherwise : last.piece.then).push(
      piece,
    );
  };
  let from = 0;
  for (const match of text.matchAll(/\{([^{}]*)\}/g)) {
    const [whole, inside = ""] = match;
    const tag = inside.trim().toLowerCase();
    const last = open[open.length - 1];
    if (match.index > from) put({ is: "text", text: text.slice(from, match.index) });
    from = match.index + whole.length;
    const fault = (sentence: Message): void => {
      faults.push({ at: match.index, sentence });
      put({ is: "text", text: whole });
    };
    if (tag.startsWith("if ")) {
      const field = fieldNamed(tag.slice(3));
      if (field === undefined) {
        fault(unknown(tag.slice(3)));
        continue;
      }
      const piece: Extract<Piece, { is: "if" }> = { is: "if", field, then: [], otherwise: [] };
      put(piece);
      open.push({ piece, at: match.index, inElse: false });
    } else if (tag === "else") {
      if (last === undefined || last.inElse) fault(message("mail.thereIsNoToWhich"));
      else last.inElse = true;
    } else if (tag === "end") {
      if (open.pop() === undefined) fault(message("mail.thereIsNoThatThis"));
    } else {
      const [name = "", instead = ""] = inside.split("|");
      const field = fieldNamed(name.trim().toLowerCase());
      if (field === undefined) fault(unknown(name.trim()));
      else put({ is: "field", field, instead });
    }
  }
  if (from < text.length) put({ is: "text", text: text.slice(from) });
  for (const { at, piece } of open)
    faults.push({ at, sentence: message("mail.hasNo", { field: piece.field }) });
  return { pieces, faults: faults.sort((one, other) => one.at - other.at) };
}

function fieldNamed(name: string): WelcomeField | undefined {
  return WELCOME_FIELDS.find((field) => field === name.trim());
}

function unknown(name: string): Message {
  return message("mail.thereIsNothingCalledThere", {
    name: name.slice(0, 40),
    fields: WELCOME_FIELDS.map((field) => `{${field}}`).join(", "),
  });
}
