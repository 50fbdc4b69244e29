import { escapeHtml } from "@amigo/core/text/escapeHtml";
import type { DraftContent } from "@amigo/contract/drafts";
import type { PostPage } from "@amigo/contract/posts";
import { t } from "../texts/mail";

/** How much of a post is quoted, in lines. */
const MOST_LINES = 200;

/**
 * What an answer to a post begins with: to its writer alone, or to everybody on its lists as well; the text quoted below.
 *
 * @param me the address of who answers, who is not written to
 */
export function answerTo(
  {
    id,
    subject,
    from,
    fromAddress,
    lists,
    text,
  }: Pick<PostPage, "id" | "subject" | "from" | "fromAddress" | "lists" | "text">,
  toAll: boolean,
  me: string,
): Pick<DraftContent, "to" | "subject" | "html" | "answers"> {
  const lines = text
    .trim()
    .split(/\r?\n/)
    .slice(0, MOST_LINES)
    .map((line) => escapeHtml(line));
  return {
    answers: id,
    subject: /^re:/i.test(subject) ? subject : `Re: ${subject}`.slice(0, 300),
    to: [
      ...(fromAddress === me ? [] : [{ kind: "address" as const, id: fromAddress, name: from }]),
      ...(toAll
        ? lists.map(({ id: list, title }) => ({ kind: "list" as const, id: list, name: title }))
        : []),
    ],
    html: `<p></p><p>${escapeHtml(t("mail.personWrote", { from }))}</p><blockquote><p>${lines.join("<br>")}</p></blockquote>`,
  };
}
