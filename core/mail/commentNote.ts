import { lines, message } from "@amigo/language/message";
import { oneHeaderLine } from "./headerText";
import type { Note } from "./returnNote";

/** What somebody said about a thing on a shelf. */
export interface SaidOnShelf {
  title: string;
  list: string;
  name: string;
  text: string;
  /** Where it is read and answered. */
  url: string;
}

/** The mail by which those who follow a thing are told what somebody said about it. */
export function commentNote({ title, list, name, text, url }: SaidOnShelf): Note {
  return {
    subject: message("mail.commentOn", {
      name: oneHeaderLine(name),
      title: oneHeaderLine(title),
    }),
    text: lines(
      message("mail.commentedOn", { name, title, list }),
      "",
      ...text.split(/\r?\n/).map((line) => `  ${line}`),
      "",
      message("mail.answerThere"),
      `  ${url}`,
      "",
      message("mail.youFollowIt"),
    ),
  };
}
