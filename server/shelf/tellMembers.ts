import type { postShelfNotice } from "@amigo/contract/shelf";
import type { Context } from "../context";
import { sendText } from "../drafts/sendText";
import { notFound, orRefuse } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { t } from "../texts/t";
import { openList } from "./putThings";
import { listThings } from "./queries";

/** Tells a list's members what is new on its shelf: a post with links, by the list's rules, and nothing attached. */
export async function tellMembers(
  context: Context,
  { params, body, caller }: Request<typeof postShelfNotice>,
): Promise<Answer<typeof postShelfNotice>> {
  const { db, settings } = context;
  const found = orRefuse(await openList(db, params.id, caller));
  const things = (await listThings(db, [found.id])).filter(({ thing }) =>
    body.things.includes(thing.id),
  );
  const [first, ...more] = things.map(({ thing }) => thing);
  if (first === undefined) throw notFound("thing");
  const lines = things.map(
    ({ thing }) => `${thing.title}\n${settings.url}/member/shelf/${thing.id}`,
  );
  const { addresses, outcome } = orRefuse(
    await sendText(context, caller, {
      key: body.key,
      lists: [found.id],
      privately: [],
      subject: t("shelf.noticeSubject", { title: first.title, more: more.length }),
      text: [body.text, ...lines, t("shelf.noticeEnd", { list: found.title })]
        .filter((part) => part !== "")
        .join("\n\n"),
    }),
  );
  return { addresses, outcome };
}
