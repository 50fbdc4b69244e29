import type { Note } from "@amigo/core/mail/returnNote";
import type { Queries } from "../db/connect";
import { house } from "../db/schema";
import { queueNote, type PRIORITIES } from "./acceptPost";
import { composeMail, type MailToCompose } from "./composeMail";

/** Queues a note of Amigo's own to one person, from the house's postmaster. `inReplyTo` is the id of the message that it answers; `what` says how soon it goes. */
export async function sendNote(
  tx: Queries,
  to: { name: string; address: string },
  note: Note,
  {
    inReplyTo,
    what = "note",
    ...more
  }: {
    inReplyTo?: string | undefined;
    what?: keyof typeof PRIORITIES;
  } & Pick<MailToCompose, "replyTo" | "attached" | "fields"> = {},
): Promise<void> {
  const [own] = await tx.select({ name: house.name, listDomain: house.listDomain }).from(house);
  if (own === undefined) return;
  const { raw, messageId } = await composeMail({
    from: { name: `${own.name} lists`, address: `postmaster@${own.listDomain}` },
    to: [to],
    ...note,
    domain: own.listDomain,
    automatic: { inReplyTo },
    ...more,
  });
  await queueNote(tx, raw, messageId, to.address, what);
}
