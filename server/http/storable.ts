import { hasCode } from "../db/hasCode";
import { Refusal } from "./fault";
import { t } from "../texts/t";

/** NUL, and halves of a pair of surrogates without the other: no text of PostgreSQL can hold them. */
const UNSTORABLE = /\u0000|\p{Surrogate}/u;

/** What PostgreSQL answers to text that it can't keep: 22021 and 22P05. */
const CODES = new Set(["22021", "22P05"]);

/** Whether the database can keep a text. */
export function isStorable(text: string): boolean {
  return !UNSTORABLE.test(text);
}

/** Whether the database can keep the fields of a form, and the names of its files. */
export function areStorable(fields: Readonly<Record<string, unknown>>): boolean {
  return Object.entries(fields).every(
    ([name, value]) =>
      isStorable(name) &&
      (typeof value !== "string" || isStorable(value)) &&
      (!(value instanceof File) || isStorable(value.name)),
  );
}

/** Whether a failure is the database's refusal of such a text. */
export function isUnstorable(failure: unknown): boolean {
  return hasCode(failure, CODES);
}

export function unstorable(): Refusal {
  return new Refusal(400, "bad-text", t("http.thereIsACharacterIn"));
}
