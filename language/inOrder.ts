import { speechHere } from "./texts";

const collators = new Map<string, Intl.Collator>();

/** Compares two texts by the order of the language that is spoken here, for sorting; `Level 2` comes before `Level 10`. */
export function inOrder(one: string, other: string): number {
  const { locale } = speechHere();
  let collator = collators.get(locale);
  if (collator === undefined) {
    collator = new Intl.Collator(locale, { numeric: true });
    collators.set(locale, collator);
  }
  return collator.compare(one, other);
}
