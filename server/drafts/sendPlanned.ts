import { say } from "@amigo/language/say";
import { Refused } from "../refused";
import type { Context } from "../context";
import { notify } from "../events/events";
import { sendNote } from "../posting/sendNote";
import { sendDraft } from "./sendDraft";
import { inStaffLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";
import { listDueDrafts, markFailed } from "./queries";

/**
 * Sends the mails whose time has come, as their writers may at that moment and to who is on the lists then. One that can't
 * go out is a draft again, with the reason, of which its writer gets a mail. Returns how many went out.
 */
export async function sendPlanned(
  context: Pick<Context, "db" | "settings">,
  now: Date,
): Promise<number> {
  const { db } = context;
  const due = await listDueDrafts(db, now);
  let sent = 0;
  for (const { draft: row, caller } of due) {
    // What is wrong with it is told to its writer alone.
    const done = await inStaffLanguage(
      () => sendDraft(context, { ...caller, by: "session" }, row, undefined),
      caller.language,
    );
    if (!(done instanceof Refused)) {
      sent++;
      continue;
    }
    const reason = say(done.detail);
    await db.transaction(async (tx) => {
      const mine = await markFailed(tx, reason, row.id);
      if (mine === undefined) return;
      await sendNote(tx, { name: caller.name, address: caller.email }, () => ({
        subject: t("drafts.notSent", { subject: row.content.subject }),
        text: [
          t("drafts.yourMailWasToGo"),
          "",
          say(done.detail),
          "",
          t("drafts.itIsADraftAgain"),
          `${context.settings.url}/mail/write?draft=${row.id}`,
        ].join("\r\n"),
      }));
      await notify(tx, "posts");
    });
  }
  return sent;
}
