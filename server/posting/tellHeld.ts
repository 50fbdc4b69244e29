import { heldNote, isItYoursNote } from "@amigo/core/mail/heldNotes";
import type { Queries } from "../db/connect";
import { makeLink } from "./mailLink";
import { sendNote } from "./sendNote";
import type { house } from "../db/schema/house";
import { listLeadsAndHelpers } from "./queries";
import { listCoordinators } from "../accounts/queries";
import { countQuestions } from "./linkQueries";

/** How long somebody has to say that a mail is theirs, in hours. */
const HOURS_TO_CONFIRM = 72;
/** The most questions an hour to one address, so that nobody is flooded by mail in their name. Other notes don't count. */
const QUESTIONS_AN_HOUR = 3;

/** Tells leads and helpers that a mail is held, and asks its claimed sender, where there is one to ask, whether it is theirs. */
export async function tellHeld(
  tx: Queries,
  {
    postId,
    list,
    house: settings,
    from,
    subject,
    askSender,
    url,
  }: {
    postId: string;
    list: { id: string; title: string; name: string };
    house: typeof house.$inferSelect;
    from: { name: string; address: string };
    subject: string;
    askSender: boolean;
    url: string;
  },
): Promise<void> {
  const held = {
    subject,
    from: from.name === "" ? from.address : `${from.name} (${from.address})`,
    list: `${list.title} (${list.name}@${settings.listDomain})`,
    house: settings.name,
  };
  const asked = await countQuestions(tx, from.address);
  if (askSender && (asked?.count ?? 0) < QUESTIONS_AN_HOUR) {
    const token = await makeLink(tx, {
      purpose: "own mail",
      address: from.address,
      about: postId,
      hours: HOURS_TO_CONFIRM,
    });
    await sendNote(tx, from, isItYoursNote(held, `${url}/mine/${token}`));
  }
  const running = await listLeadsAndHelpers(tx, list.id);
  const told = running.length > 0 ? running : await listCoordinators(tx);
  for (const { id, name, email } of told) {
    if (email === from.address) continue;
    const token = await makeLink(tx, {
      purpose: "held mail",
      address: email,
      about: `${postId} ${id}`,
      hours: settings.heldDays * 24,
    });
    await sendNote(
      tx,
      { name, address: email },
      heldNote(held, {
        page: `${url}/mail/held?post=${postId}`,
        decide: `${url}/held/${token}`,
        days: settings.heldDays,
      }),
    );
  }
}
