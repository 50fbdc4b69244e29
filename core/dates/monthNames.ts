import { fold } from "../text/fold";

/** The languages whose names of months are known. */
const LOCALES = "en de fr es pt it nl sv da nb fi pl cs tr uk ar fr-CA".split(" ");

let names: ReadonlyMap<string, number> | undefined;

/**
 * Returns the months by their folded names, whole and short, in the languages that offices here write:
 * `september`, `sept`, `sep` are 9. A name that means two different months in two languages is left out.
 */
export function monthNames(): ReadonlyMap<string, number> {
  if (names !== undefined) return names;
  const found = new Map<string, number>([["sept", 9]]);
  const ambiguous = new Set<string>();
  for (const locale of LOCALES) {
    for (const style of ["long", "short"] as const) {
      for (const day of [false, true]) {
        const format = new Intl.DateTimeFormat(locale, {
          month: style,
          timeZone: "UTC",
          ...(day ? { day: "numeric" } : {}),
        });
        for (let month = 1; month <= 12; month++) {
          const part = format
            .formatToParts(Date.UTC(2001, month - 1, 15))
            .find(({ type }) => type === "month")?.value;
          const name = fold(part ?? "");
          if (!/\p{L}/u.test(name)) continue;
          if (found.has(name) && found.get(name) !== month) ambiguous.add(name);
          found.set(name, month);
        }
      }
    }
  }
  for (const name of ambiguous) found.delete(name);
  names = found;
  return found;
}
