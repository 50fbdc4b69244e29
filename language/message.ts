import { type coreTexts } from "./english/core";

type Catalogue = typeof coreTexts;

/** The name of a text that core can say: the folder whose it is, and its own name there. */
export type CoreTextId = {
  [Feature in keyof Catalogue]: `${Feature}.${keyof Catalogue[Feature] & string}`;
}[keyof Catalogue];

/** Several things said as a list: `a, b and c`, `a, b or c`, `a, b` or `a; b`; as sentences of one text; or each on a line of a mail. */
export interface Each {
  each: readonly Value[];
  as: "and" | "or" | "comma" | "semicolon" | "sentences" | "lines";
}

/** Something to be said, without its words: the name of a text, and what fills its places. */
export type Message =
  | { say: CoreTextId; values?: Readonly<Record<string, Value>> }
  | Each
  /** Said as a sentence of its own, with a capital at its start and a full stop. */
  | { asSentence: Message }
  /** What somebody has written, which stays as it is in every language. */
  | { asWritten: string };

/**
 * What fills a place in a text. A calendar day, or a day with its time by the house's clocks, is written as the house writes
 * them; of the days of the week, 1 is Monday.
 */
export type Value = PlainValue | Message;

/** The same but for messages, whose words not every page has loaded. */
export type PlainValue =
  | string
  | number
  | boolean
  | null
  | undefined
  | { day: string }
  | { localTime: string }
  | { weekday: number };

/** Returns a message of core. The words are chosen where it is shown, by `say`. */
export function message(id: CoreTextId, values?: Readonly<Record<string, Value>>): Message {
  return values === undefined ? { say: id } : { say: id, values };
}

/** Returns a list of things to be said: `a, b and c`, or with another link between them. */
export function each(values: readonly Value[], as: Each["as"] = "and"): Each {
  return { each: values, as };
}

/** Returns a calendar day as a value, given as `YYYY-MM-DD`; nothing where there is none. */
export function day(text: string | null | undefined): { day: string } | null {
  return text === null || text === undefined || text === "" ? null : { day: text };
}

/** Returns a day with its time as a value, where it is given as `YYYY-MM-DD HH:MM` or with seconds; any other text stays as it is. */
export function localTime(text: string): Value {
  const [, day, time] = /^(\d{4}-\d{2}-\d{2})[ T](\d{2}:\d{2})(?::\d{2})?$/.exec(text) ?? [];
  return day === undefined || time === undefined || Number.isNaN(Date.parse(`${day}T${time}Z`))
    ? text
    : { localTime: `${day}T${time}` };
}

/** Returns the lines of a mail's text; an empty one stands between paragraphs. */
export function lines(...parts: readonly Value[]): Message {
  return { each: parts, as: "lines" };
}

/** Returns several messages to be said one after another, as sentences of one text. What is missing is left out. */
export function sentences(...parts: readonly (Message | undefined)[]): Message {
  return {
    each: parts.filter((part) => part !== undefined),
    as: "sentences",
  };
}

/** Returns what somebody has written as a message that stays as it is in every language. */
export function written(text: string): Message {
  return { asWritten: text };
}
