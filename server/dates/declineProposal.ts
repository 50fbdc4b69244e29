import type { postDateDeclineProposal } from "@amigo/contract/dates";
import { noteDate } from "../calendar/noteDate";
import type { Context } from "../context";
import { loadHouse } from "../db/houseQueries";
import { notify } from "../events/events";
import { notFound, refuse, Refusal } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { queueAlike } from "../posting/acceptPost";
import { listIdsOf } from "../calendar/dateQueries";
import { t } from "../texts/t";
import { findDate } from "./dateQueries";
import { listDateFiles } from "./fileQueries";
import { claimDate, takeProposal } from "./guestQueries";
import { guestsSeen } from "./guestsSeen";
import { mailGuests } from "./invitationMail";
import { mayChange } from "./mayChange";

/** Declines another time that a guest proposes: they are told that the date stays where it is (RFC 5546, section 3.2.8). */
export async function declineProposal(
  { db, settings }: Context,
  { params, body, caller }: Request<typeof postDateDeclineProposal>,
): Promise<Answer<typeof postDateDeclineProposal>> {
  const found = await findDate(db, params.id, caller);
  if (found === undefined) throw notFound("date");
  refuse(await mayChange(db, caller, found));
  const seen = await guestsSeen(db, caller, found.id);
  const asked = seen.find(({ address }) => address === body.address);
  if (asked === undefined) throw notFound("guest");
  const house = await loadHouse(db);
  if (house === undefined) throw notFound("school");
  await db.transaction(async (tx) => {
    const claimed = await claimDate(tx, found.id, "wait");
    const guest = await takeProposal(tx, found.id, asked.address);
    if (claimed === undefined || guest === undefined)
      throw new Refusal(409, "date/no-proposal", t("dates.noProposalAnyMore"));
    const files = await listDateFiles(tx, found.id);
    const about = { ...claimed, house, url: settings.url, files, now: new Date() };
    await queueAlike(tx, await mailGuests(tx, about, [{ ...guest, why: "declined" }]), "post");
    const lists = (await listIdsOf(tx, found.id)).map((id) => ({ id }));
    const sentence = () => t("dates.declinedProposal", { name: caller.name, title: found.title });
    await noteDate(tx, caller, "change date", lists, sentence);
    await notify(tx, "dates");
  });
  return { done: true as const };
}
