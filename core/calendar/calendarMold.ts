import ICAL from "ical.js";

/**
 * Prepares an iCalendar text in which marks stand for what differs from one guest to the next, so that each guest's is written by
 * putting theirs in the place of the marks: what is the same for all is put together once.
 *
 * @param text  with lines that are folded (RFC 5545, section 3.1); a mark may be cut by a fold
 * @param marks letters and digits that stand for values which need no escaping, as addresses and links
 * @returns what gives the text with a value for each mark, in their order
 */
export function calendarMold(
  text: string,
  marks: readonly string[],
): (values: readonly string[]) => string {
  const whole = text.replace(/\r\n[ \t]/g, "").split("\r\n");
  const lines = whole.map((line) => {
    const hasMark = marks.some((mark) => line.includes(mark));
    return hasMark ? { line, hasMark } : { line: ICAL.helpers.foldline(line), hasMark };
  });
  return (values) =>
    lines
      .map(({ line, hasMark }) =>
        hasMark
          ? ICAL.helpers.foldline(
              marks.reduce(
                (filled, mark, at) => filled.replaceAll(mark, () => values[at] ?? ""),
                line,
              ),
            )
          : line,
      )
      .join("\r\n");
}
