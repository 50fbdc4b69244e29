import { NEWS, type News } from "../calendar/whatIsNew";
import type { DateRow } from "../calendar/dateQueries";
import { t, type TextId } from "../texts/t";

/** The parts of a date that can change, in words. */
export const NEWS_WORDS = {
  title: "dates.newsTitle",
  when: "dates.newsWhen",
  place: "dates.newsPlace",
  link: "dates.newsLink",
  text: "dates.newsText",
  files: "dates.newsFiles",
} as const satisfies Record<News, TextId>;

/** Returns what has changed about a date, in words. */
export function newsOf({ news }: DateRow): string {
  return ([...NEWS, "files"] as const)
    .filter((name) => news.includes(name))
    .map((name) => t(NEWS_WORDS[name]))
    .join(", ");
}
