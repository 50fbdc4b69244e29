import IntlMessageFormat from "intl-messageformat";
import { english } from "./english";

type Catalogue = typeof english;

/** The name of a text: the feature whose it is, and its own name there. */
export type TextId = {
  [Feature in keyof Catalogue]: `${Feature}.${keyof Catalogue[Feature] & string}`;
}[keyof Catalogue];

/** What fills a place in a text. */
export type Value = string | number | boolean | null | undefined;

let locale = "en-GB";
const made = new Map<TextId, IntlMessageFormat>();

/** Writes the numbers in texts as a locale does, from now on. */
export function writeTextsAs(own: string): void {
  if (own === locale) return;
  locale = own;
  made.clear();
}

/** Returns a text of the catalogue, ready to be filled. */
export function messageOf(id: TextId): IntlMessageFormat {
  let message = made.get(id);
  if (message === undefined) {
    const at = id.indexOf(".");
    const feature: Readonly<Record<string, string>> = english[id.slice(0, at) as keyof Catalogue];
    message = new IntlMessageFormat(feature[id.slice(at + 1)] ?? id, locale);
    made.set(id, message);
  }
  return message;
}

/** Returns a text of the interface in the reader's language, with its places filled (ICU MessageFormat). */
export function t(id: TextId, values: Readonly<Record<string, Value>> = {}): string {
  return String(messageOf(id).format({ ...values }));
}
