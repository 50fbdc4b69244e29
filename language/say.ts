import { coreTexts } from "./english/core";
import { type CoreTextId, type Each, type Message, type Value } from "./message";
import { grammarOf, plainly, sayerOf, speechHere, textsOf, type Written } from "./texts";

const LISTS = {
  and: { type: "conjunction" },
  or: { type: "disjunction" },
  comma: { type: "unit", style: "short" },
} as const;

const joiners = new Map<string, Intl.ListFormat>();

/** Returns what joins several things to a list, in the language that is spoken. */
function joinerOf(as: keyof typeof LISTS): Intl.ListFormat {
  const { language } = speechHere();
  const key = `${language} ${as}`;
  const found = joiners.get(key) ?? new Intl.ListFormat(grammarOf(language), LISTS[as]);
  joiners.set(key, found);
  return found;
}

const coreText = textsOf(coreTexts, "core");
const sayCore: (id: CoreTextId, values?: Readonly<Record<string, Value>>) => string = sayerOf(
  coreTexts,
  "core",
  plain,
);

/** Returns the words of a message, or of any value that can stand in one. Nothing is said of what is missing. */
export function say(value: Value): string {
  const said = plain(value);
  return said === null || said === undefined ? "" : String(said);
}

/** Whether something is the name of a text that core can say. */
export function isCoreText(text: string): text is CoreTextId {
  const [feature = "", name = ""] = text.split(".");
  return (
    Object.hasOwn(coreTexts, feature) &&
    Object.hasOwn(coreTexts[feature as keyof typeof coreTexts], name)
  );
}

/** A piece of what is said: plain words, or what fills the place of a name. */
export interface SaidPart {
  text: string;
  place: string | undefined;
}

/** Returns the words of a message in pieces, so that what fills its places can be drawn apart. */
export function sayParts(of: Message): SaidPart[] {
  if (!("say" in of)) return [{ text: say(of), place: undefined }];
  const values = Object.entries(of.values ?? {}).map(([name, value]) => {
    const text = plain(value);
    // ICU chooses by numbers and truth; only words stand in a place of their own.
    return [name, typeof text === "string" ? { text, place: name } : text] as const;
  });
  return coreText(of.say)
    .fill<SaidPart>(Object.fromEntries(values))
    .map((piece) => (typeof piece === "string" ? { text: piece, place: undefined } : piece));
}

/** The same with the words of every message in it. */
export type Said<T> = T extends Message
  ? string
  : T extends readonly (infer Part)[]
    ? Said<Part>[]
    : T extends object
      ? { [Key in keyof T]: Said<T[Key]> }
      : T;

/** Returns plain data (objects, lists and values) with the words of every message in it. */
export function said<T>(data: T): Said<T>;
export function said(data: unknown): unknown {
  if (typeof data !== "object" || data === null) return data;
  if (Array.isArray(data)) return data.map((part) => said(part));
  if (isMessage(data)) return say(data);
  return Object.fromEntries(Object.entries(data).map(([key, value]) => [key, said(value)]));
}

function isMessage(data: object): data is Message {
  return (
    "say" in data || "asWritten" in data || "asSentence" in data || ("each" in data && "as" in data)
  );
}

/** Returns what ICU can choose by and count with, or the words of a message, a day or a time. */
export function plain(value: Value): Written {
  if (typeof value !== "object" || value === null) return value;
  if ("say" in value) return sayCore(value.say, value.values);
  if ("each" in value) return sayEach(value);
  if ("asWritten" in value) return value.asWritten;
  if ("asSentence" in value) {
    const text = say(value.asSentence);
    return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
  }
  return plainly(value);
}

function sayEach({ each, as }: Each): string {
  const parts = each.map(say);
  if (as === "sentences") return parts.filter((part) => part !== "").join(" ");
  if (as === "semicolon") return parts.join("; ");
  if (as === "lines") return parts.join("\r\n");
  return joinerOf(as).format(parts);
}
