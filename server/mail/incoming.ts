import { parseListAddress, REQUEST, type ListRecipient } from "@amigo/core/mail/listAddress";
import { fieldValue, splitMessage } from "@amigo/core/mail/splitMessage";
import type { Proof } from "@amigo/core/posting/mailToJudge";
import { hashToken } from "../callers/tokens";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { storeMessage } from "../posting/acceptPost";
import { sandbox } from "../sandbox/sandbox";
import { answerRequest, isRobot, takeConfirmation, takeForHouse, takeLeave } from "./answerList";
import { takeForLeads, takePost } from "./takePost";
import { takeReturned } from "./takeReturned";
import { findInvited } from "../calendar/guestQueries";
import { takeDateAnswer } from "./takeDateAnswer";
import { heal } from "./trouble";
import { t } from "../texts/t";
import type { IncomingMail, Taken } from "./incomingMail";
import { type list } from "../db/schema/lists";
import { loadHouse } from "../db/houseQueries";
import { findCopyBehind, findLinkBehind, findAskBehind, listOwners, listAt } from "./queries";

/** Whether an address at the list domain can be written to. Everything else is refused when it is named. */
export async function isKnownRecipient(db: Queries, address: string): Promise<boolean> {
  const house = await loadHouse(db);
  const meant = house === undefined ? undefined : parseListAddress(address, house.listDomain);
  if (meant === undefined) return false;
  if (meant.kind === "house") return true;
  if (meant.kind === "return") return (await findCopyBehind(db, meant.token)).length > 0;
  if (meant.kind === "yes") return isToken(db, meant.token);
  if (meant.kind === "date") return (await findInvited(db, meant.token)) !== undefined;
  return (await listFor(db, meant)) !== undefined;
}

async function isToken(db: Queries, token: string): Promise<boolean> {
  const hash = hashToken(token);
  return (await findLinkBehind(db, hash)).length + (await findAskBehind(db, hash)).length > 0;
}

/** The list that an address is about, and what is wanted of it: `x-request` is the list of that name where there is one. */
async function listFor(
  db: Queries,
  meant: ListRecipient & { list: string },
): Promise<
  { list: typeof list.$inferSelect; kind: (ListRecipient & { list: string })["kind"] } | undefined
> {
  const whole = meant.kind === "request" ? await listAt(db, `${meant.list}${REQUEST}`) : undefined;
  if (whole !== undefined) return { list: whole, kind: "list" };
  const found = await listAt(db, meant.list);
  return found === undefined ? undefined : { list: found, kind: meant.kind };
}

/**
 * Takes one mail: stores it, asks the rules of every list that it is addressed to, queues the copies
 * or the note that returns it. When this returns, the mail is in the database; when it throws, nothing is,
 * or the sender's second try finds it there and changes nothing.
 */
export async function takeMail(
  { db, resolver, settings, desk }: Pick<Context, "db" | "resolver" | "settings" | "desk">,
  mail: IncomingMail,
): Promise<void> {
  const house = await loadHouse(db);
  if (house === undefined) throw new Error("this house is not set up");
  const split = splitMessage(mail.raw);
  const messageId =
    fieldValue(split, "message-id")?.slice(0, 900) ??
    `<${Date.now()}.${mail.raw.length}@${house.listDomain}>`;
  const recipients = [...new Set(mail.recipients.map((address) => address.toLowerCase()))];
  const read = await sandbox.run(
    "readMail",
    {
      raw: mail.raw,
      // A delivery report is nobody's mail: nothing is looked up for it.
      ...(mail.account !== undefined || mail.connection === undefined || mail.returnPath === ""
        ? {}
        : {
            envelope: { ...mail.connection, returnPath: mail.returnPath, mta: house.listDomain },
          }),
      returned: {
        returnPath: mail.returnPath,
        recipients: await ownersOf(db, recipients, house.listDomain),
      },
    },
    resolver,
  );
  const from = senderOf(read.from, mail);
  const proofFor = (recipient: string): Proof =>
    mail.account !== undefined
      ? "signed-in"
      : read.proven.signedTo.includes(recipient)
        ? "dkim"
        : read.proven.spf
          ? "spf"
          : "none";
  const after: Taken["after"] = [];
  const common = {
    house: house,
    mail,
    split,
    messageId,
    from,
    isForged: read.proven.isForged,
    about: read.about,
    returned: read.returned,
    url: settings.url,
    after,
  };
  await db.transaction(async (tx) => {
    const messageRow = await storeMessage(tx, mail.raw, messageId, { arc: read.proven.arc });
    // Who writes, and is known to be it, can be reached again; a program's mail is nobody's word.
    if (recipients.some((address) => proofFor(address) !== "none") && !isRobot(common))
      await heal(
        tx,
        from.address,
        { id: mail.account?.id ?? null, name: from.name || from.address },
        t("mail.theyHaveWritten"),
      );
    for (const recipient of recipients)
      await takeFor(tx, recipient, { ...common, messageRow, proof: proofFor(recipient) });
  });
  for (const act of after) await act({ desk });
}

async function takeFor(tx: Queries, recipient: string, taken: Taken): Promise<void> {
  const meant = parseListAddress(recipient, taken.house.listDomain);
  if (meant === undefined) return;
  if (meant.kind === "house") return takeForHouse(tx, meant.mailbox, taken);
  if (meant.kind === "return") return takeReturned(tx, meant.token, taken);
  if (meant.kind === "yes") return takeConfirmation(tx, meant.token, taken);
  if (meant.kind === "date") return takeDateAnswer(tx, meant.token, taken);
  const found = await listFor(tx, meant);
  if (found === undefined) return;
  if (found.kind === "list") return takePost(tx, found.list, taken);
  if (found.kind === "leads") return takeForLeads(tx, found.list, taken);
  if (found.kind === "request") return answerRequest(tx, found.list, taken);
  return takeLeave(tx, found.list, taken);
}

/** For whom the copies were to whose return paths a mail comes. */
async function ownersOf(
  db: Queries,
  recipients: readonly string[],
  domain: string,
): Promise<string[]> {
  const tokens = recipients.flatMap((address) => {
    const meant = parseListAddress(address, domain);
    return meant?.kind === "return" ? [meant.token] : [];
  });
  return tokens.length === 0 ? [] : (await listOwners(db, tokens)).map(({ address }) => address);
}

function senderOf(
  first: { name: string; address: string },
  mail: IncomingMail,
): { name: string; address: string } {
  if (mail.account !== undefined) return { name: mail.account.name, address: mail.account.email };
  return first.address === ""
    ? { ...first, address: mail.returnPath.toLowerCase().slice(0, 254) }
    : first;
}
