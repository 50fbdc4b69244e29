import { counted } from "../text/sentence";
import { oneHeaderLine } from "./headerText";

/** A post in a digest. */
export interface DigestPost {
  subject: string;
  from: string;
  at: string;
  /** The beginning of its text. */
  beginning: string;
  url: string;
}

/** The posts of one list. */
export interface DigestOfList {
  title: string;
  posts: readonly DigestPost[];
}

/** The readable part of a digest: list by list, each post with its number, who wrote it and how it begins. The posts themselves follow as parts. */
export function digestContents(
  house: string,
  lists: readonly DigestOfList[],
  page: string,
): { subject: string; text: string } {
  const all = lists.flatMap(({ posts }) => posts);
  let number = 0;
  const lines = lists.flatMap(({ title, posts }) => [
    "",
    title,
    "-".repeat(Math.min(60, title.length)),
    ...posts.flatMap(({ subject, from, at, beginning, url }) => [
      "",
      `${++number}. ${oneHeaderLine(subject) || "(no subject)"}`,
      `   ${oneHeaderLine(from)}, ${at}`,
      ...(beginning === "" ? [] : [`   ${oneHeaderLine(beginning)}`]),
      `   ${url}`,
    ]),
  ]);
  const [only] = lists;
  return {
    subject: oneHeaderLine(
      lists.length === 1 && only !== undefined
        ? `${only.title}: ${counted(all.length, "mail")}`
        : `${house}: ${counted(all.length, "mail")} on ${lists.length} lists`,
    ),
    text: [
      `${counted(all.length, "mail")} on ${counted(lists.length, "list")} of ${house}. ${all.length === 1 ? "It follows" : "They follow"} below in full.`,
      ...lines,
      "",
      "How often you get mail of each list is on your own page; ask for its link here:",
      page,
    ].join("\r\n"),
  };
}

/** The beginning of a text in one line of at most so many signs, cut between words. */
export function beginningOf(text: string, most = 160): string {
  const line = text
    .split(/\r?\n/)
    .filter((own) => !/^\s*>/.test(own))
    .join(" ")
    .replace(/\s+/g, " ")
    .trim();
  if (line.length <= most) return line;
  const cut = line.slice(0, most);
  return `${cut.slice(0, Math.max(cut.lastIndexOf(" "), most - 30))} …`;
}
