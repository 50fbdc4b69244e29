import { message, type Message } from "@amigo/language/message";
import { fold } from "../text/fold";
import { tidyLine } from "../text/tidy";
import { guessLanguages } from "./columns/guessLanguages";
import { readTitle } from "./columns/readTitle";
import { titlePoints } from "./columns/titlePoints";
import { lexicon } from "./lexicon/lexicon";
import { meaningOf } from "./meanings/allMeanings";
import type { ReadingPlan } from "./table";

/** An answer that a form tool has posted: its fields by the names that the tool gave them, in their order. */
export type PostedFields = [string, string][];

export const POSTED_LIMITS = { fields: 100, name: 120, value: 2000 };

/** What lies deeper within each other than this is left out. */
const DEEPEST = 20;

export type PostedRead = { ok: true; fields: PostedFields } | { ok: false; sentence: Message };

/**
 * Takes what was posted, JSON or form data, as fields: what lies within another is named by its way (`child.name`), several
 * values of one field stand together, nothing and files are left out.
 */
export function readPosted(body: unknown): PostedRead {
  if (typeof body !== "object" || body === null || Array.isArray(body))
    return {
      ok: false,
      sentence: message("sheet.postedIsNoAnswer"),
    };
  const fields: PostedFields = [];
  const put = (name: string, value: unknown, depth = 0): void => {
    if (value === null || value === undefined || depth > DEEPEST) return;
    if (Array.isArray(value) && value.every((one) => typeof one !== "object" || one === null)) {
      put(name, value.filter((one) => one !== null).join("; "), depth);
      return;
    }
    if (Array.isArray(value)) {
      value.forEach((one, index) => put(`${name}.${index + 1}`, one, depth + 1));
      return;
    }
    if (typeof value === "object") {
      if (
        Object.getPrototypeOf(value) === Object.prototype ||
        Object.getPrototypeOf(value) === null
      )
        for (const [key, part] of Object.entries(value))
          put(name === "" ? key : `${name}.${key}`, part, depth + 1);
      return;
    }
    const title = tidyLine(name).slice(0, POSTED_LIMITS.name);
    if (title !== "" && !fields.some(([known]) => known === title))
      fields.push([title, tidyLine(String(value)).slice(0, POSTED_LIMITS.value)]);
  };
  put("", body);
  if (fields.length === 0) return { ok: false, sentence: message("sheet.postedHasNoField") };
  if (fields.length > POSTED_LIMITS.fields)
    return {
      ok: false,
      sentence: message("sheet.postedHasTooMany", {
        fields: fields.length,
        limit: POSTED_LIMITS.fields,
      }),
    };
  return { ok: true, fields };
}

/** A field whose name speaks of health, birth dates and the like has at least these points. */
const PLAINLY_PRIVATE = 4.5;

/**
 * An answer without the values that are never stored: those of fields for which it was decided so at the last import, and of
 * new ones whose name plainly speaks of health, birth dates, phones or streets. Their names stay, so that somebody can decide.
 */
export function storedFields(fields: PostedFields, last: ReadingPlan | undefined): PostedFields {
  const decided = new Map(last?.columns.map(({ title, meaning }) => [fold(title), meaning]));
  const of = lexicon();
  const languages = guessLanguages(
    fields.map(([name]) => name),
    [],
    of,
  );
  return fields.map(([name, value]) => {
    const meaning = decided.get(fold(name));
    const isPrivate =
      meaning === undefined
        ? titlePoints(meaningOf("private"), readTitle({ title: name, group: "" }, languages, of)) >=
          PLAINLY_PRIVATE
        : meaning === "private";
    return [name, isPrivate ? "" : value];
  });
}

/** The title of the column that says when an answer came. */
export const POSTED_AT = "Answered";

/** All answers as one sheet, oldest first: a column for each field, in the order in which they first came. */
export function postedSheet(answers: readonly { at: string; fields: PostedFields }[]): string[][] {
  const titles = [...new Set(answers.flatMap(({ fields }) => fields.map(([name]) => name)))].filter(
    (name) => name !== POSTED_AT,
  );
  return [
    [POSTED_AT, ...titles],
    ...answers.map(({ at, fields }) => {
      const known = new Map(fields);
      return [at, ...titles.map((title) => known.get(title) ?? "")];
    }),
  ];
}
