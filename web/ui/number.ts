import { houseLocale } from "./time";

const writers = new Map<string, Intl.NumberFormat>();

/** A whole number as it is written where the house is: `20,618`. */
export function number(value: number): string {
  const locale = houseLocale();
  let writer = writers.get(locale);
  if (writer === undefined) {
    writer = new Intl.NumberFormat(locale);
    writers.set(locale, writer);
  }
  return writer.format(value);
}
