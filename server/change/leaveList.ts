import { Refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import { leaveNote } from "@amigo/core/mail/requestNotes";
import type { Database, Queries } from "../db/connect";
import { loadHouse } from "../db/houseQueries";
import { findList, findMembership } from "../membership/queries";
import { takeLink } from "../posting/linkQueries";
import { sendFamilyNote } from "../posting/sendNote";
import { lockRounds } from "./roundQueries";
import { inStaffLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";
import { keepAddressIn } from "./changeMembers";

/** A member's wish to leave a list. */
export interface Leaving {
  listId: string;
  address: string;
  /** How they left, for the list's history: `left by mail`. */
  reason: string;
}

/** The mail by which somebody has asked to leave; its answer is queued with the change. */
export interface AskedByMail {
  name: string;
  messageId: string;
}

/** What a wish to leave came to. */
export type Left = { is: "left" | "closed" | "not on it"; title: string };

/** What a mailed link to leave came to: nothing where it has run out or was used. */
export type LeftByLink = (Left & { address: string }) | { is: "no link" };

/**
 * Takes somebody off a list by their own wish, which every later import respects; a list that is closed sends nothing any more and
 * stays as it is. The note that answers a mail says which, and is queued in the same transaction.
 */
export async function leaveList(
  db: Database,
  { leaving, mail }: { leaving: Leaving; mail?: AskedByMail | undefined },
): Promise<Left | Refused> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    return leaveIn(tx, leaving, mail);
  });
}

/** The same for whoever holds a mailed link: it is used up in the transaction in which they leave, and not before. */
export async function leaveByLink(
  db: Database,
  { token, mail }: { token: string; mail?: AskedByMail | undefined },
): Promise<LeftByLink | Refused> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    const link = await takeLink(tx, token, "leave");
    if (link === undefined) return { is: "no link" };
    const { about: listId, address } = link;
    const left = await leaveIn(
      tx,
      { listId, address, reason: inStaffLanguage(() => t("posting.leftByMail")) },
      mail,
    );
    if (left instanceof Refused) return left;
    return { ...left, address };
  });
}

async function leaveIn(
  tx: Queries,
  { listId, address, reason }: Leaving,
  mail: AskedByMail | undefined,
): Promise<Left | Refused> {
  const list = await findList(tx, listId);
  const is =
    list === undefined || (await findMembership(tx, listId, address)) === undefined
      ? "not on it"
      : list.closedAt !== null
        ? "closed"
        : "left";
  if (is === "left") {
    const wrong = await keepAddressIn(
      tx,
      { id: null, name: address },
      { listId, address, side: "off", reason, lastDay: "" },
    );
    if (wrong instanceof Refused) return wrong;
  }
  const title = list?.title ?? "";
  if (mail !== undefined && list !== undefined) {
    const house = (await loadHouse(tx))?.name ?? "";
    await sendFamilyNote(
      tx,
      { name: mail.name, address },
      () => leaveNote({ title, house }, { is }),
      { inReplyTo: mail.messageId },
    );
  }
  return { is, title };
}
