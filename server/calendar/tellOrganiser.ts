import { writeReply } from "@amigo/core/calendar/writeReply";
import type { Queries } from "../db/connect";
import { loadHouse } from "../db/houseQueries";
import { findAccountByEmail } from "../accounts/queries";
import { knownAddresses } from "../membership/knownPeople";
import { queueNote } from "../posting/acceptPost";
import { composeMail } from "../posting/composeMail";
import { t } from "../texts/t";
import type { Invited } from "./guestQueries";

const SAYS = {
  yes: "dates.organiserYes",
  maybe: "dates.organiserMaybe",
  no: "dates.organiserNo",
} as const;

/**
 * Passes a guest's answer on to whoever invited by mail, as the guest's calendar program would have (RFC 6047). Whoever may not know
 * who is on the list hears of the answer without a name.
 */
export async function tellOrganiser(
  tx: Queries,
  { date, guest, list, name }: Invited,
  now: Date,
): Promise<void> {
  const house = await loadHouse(tx);
  if (house === undefined || guest.answer === null) return;
  const address = date.organiserAddress;
  const account = await findAccountByEmail(tx, address);
  const mayKnow =
    account !== undefined &&
    (await knownAddresses(tx, { ...account, by: "session" }))(guest.address);
  const said = { title: date.title, people: guest.people, word: guest.word };
  const who = mayKnow ? guest.address : t("dates.somebodyOn", { list });
  const { raw, messageId } = await composeMail({
    from: { name: list, address: `${name}@${house.listDomain}` },
    to: [{ name: "", address }],
    subject: t(SAYS[guest.answer], { who, ...said }),
    text: t(SAYS[guest.answer], { who, ...said }),
    domain: house.listDomain,
    automatic: { inReplyTo: undefined },
    ...(mayKnow
      ? {
          calendar: {
            method: "REPLY" as const,
            content: writeReply({
              uid: date.uid,
              sequence: date.sequence,
              organiser: address,
              guest: { name: "", address: guest.address },
              answer: guest.answer,
              word: guest.word,
              now,
            }),
          },
        }
      : {}),
  });
  await queueNote(tx, raw, messageId, address, "post");
}
