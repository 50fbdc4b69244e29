import { lines, message, type Value } from "@amigo/language/message";
import { oneHeaderLine } from "./headerText";
import type { Note } from "./returnNote";

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
export function digestContents(house: string, lists: readonly DigestOfList[], page: string): Note {
  const all = lists.flatMap(({ posts }) => posts);
  let number = 0;
  const listed: Value[] = lists.flatMap(({ title, posts }) => [
    "",
    title,
    "-".repeat(Math.min(60, title.length)),
    ...posts.flatMap(({ subject, from, at, beginning, url }) => [
      "",
      message("mail.numbered", {
        number: String(++number),
        text: oneHeaderLine(subject) || message("mail.noSubject"),
      }),
      `   ${oneHeaderLine(from)}, ${at}`,
      ...(beginning === "" ? [] : [`   ${oneHeaderLine(beginning)}`]),
      `   ${url}`,
    ]),
  ]);
  const [only] = lists;
  return {
    subject:
      lists.length === 1 && only !== undefined
        ? message("mail.titleAllMailMails", { title: oneHeaderLine(only.title), all: all.length })
        : message("mail.onLists", { house, all: all.length, lists: lists.length }),
    text: lines(
      message("mail.onOfBelowInFull", { all: all.length, lists: lists.length, house }),
      ...listed,
      "",
      message("mail.howOftenYouGetMail"),
      page,
    ),
  };
}

/** Returns the beginning of a text in one line of at most the given length, cut between words. */
export function beginningOf(text: string, most = 160): string {
  const line = text
    .split(/\r?\n/)
    .filter((candidate) => !/^\s*>/.test(candidate))
    .join(" ")
    .replace(/\s+/g, " ")
    .trim();
  if (line.length <= most) return line;
  const cut = line.slice(0, most);
  return `${cut.slice(0, Math.max(cut.lastIndexOf(" "), most - 30))} …`;
}
