import type { postShelfNotice } from "@amigo/contract/shelf";
import type { Context } from "../context";
import { sendText } from "../drafts/sendText";
import { notFound, orRefuse, refuse } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { onShelf } from "../membership/onShelf";
import { refused } from "../refused";
import { t } from "../texts/t";
import { openShelf } from "./shelfOf";

/** Tells a list's members what is new on its shelf: a post with links, by the list's rules, and nothing attached. */
export async function tellMembers(
  context: Context,
  { params, body, caller }: Request<typeof postShelfNotice>,
): Promise<Answer<typeof postShelfNotice>> {
  const { db, settings } = context;
  const found = orRefuse(await openShelf(db, params.id, caller));
  if (found.isPrivate && body.when === "next digest")
    refuse(refused(422, "shelf/no-digest", t("shelf.noDigest"), "when"));
  const open = await onShelf(db, found.id, found.timeZone, settings.url);
  const [first, ...more] = open.filter(({ id }) => body.things.includes(id));
  if (first === undefined) throw notFound("thing");
  const lines = [first, ...more].map(({ title, link }) => `${title}\n${link}`);
  const end = found.isPrivate
    ? t("shelf.privateNoticeEnd", { name: caller.name })
    : t("shelf.noticeEnd", { list: found.title });
  const { addresses, outcome } = orRefuse(
    await sendText(context, caller, {
      key: body.key,
      lists: found.isPrivate ? [] : [found.id],
      privately: found.isPrivate ? [found.id] : [],
      inDigest: body.when === "next digest",
      subject: t("shelf.noticeSubject", { title: first.title, more: more.length }),
      text: [body.text, ...lines, end].filter((part) => part !== "").join("\n\n"),
    }),
  );
  return { addresses, outcome };
}
