import { canonicalAddress } from "@amigo/core/address/domainName";
import { presentAddress } from "./presentAddress";
import { parseListAddress, REQUEST, type ListRecipient } from "@amigo/core/mail/listAddress";
import { receivedField } from "@amigo/core/mail/receivedField";
import { fieldValue, splitMessage } from "@amigo/core/mail/splitMessage";
import type { Proof } from "@amigo/core/posting/mailToJudge";
import { hashToken } from "../callers/tokens";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { storeMessage } from "../posting/acceptPost";
import { lockMessageId } from "../posting/queries";
import type { MailRead } from "../sandbox/readMail";
import { sandbox } from "../sandbox/sandbox";
import { answerRequest, isRobot, takeConfirmation, takeForHouse, takeLeave } from "./answerList";
import { sendTogether, takeForLeads, takePost, type GoesOut } from "./takePost";
import { loggedMail, partOf, withoutSecret } from "./loggedMail";
import { storeMailIn } from "./mailLogQueries";
import { showSender } from "./showSender";
import { SmtpAnswer, smtpText } from "./smtpAnswer";
import { isLoopback } from "./visitors";
import { takeReturned } from "./takeReturned";
import { findInvited } from "../calendar/guestQueries";
import { takeDateAnswer } from "./takeDateAnswer";
import { heal } from "./trouble";
import { t } from "../texts/t";
import type { IncomingMail, MailPart, Taken } from "./incomingMail";
import { type list } from "../db/schema/lists";
import { loadHouse } from "../db/houseQueries";
import { findCopyBehind, findLinkBehind, findAskBehind, listOwners, listAt } from "./queries";

/** Whether an address at the list domain can be written to. Everything else is refused when it is named. */
export async function isKnownRecipient(db: Queries, address: string): Promise<boolean> {
  const house = await loadHouse(db);
  const meant =
    house === undefined
      ? undefined
      : parseListAddress((await presentAddress(db, house, new Date()))(address), house.listDomain);
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

/** What mail is refused with whose sender's own domain says that it isn't theirs. */
const REFUSALS = {
  dmarc: "5.7.1 the domain of the sender asks that mail like this be refused (DMARC)",
  spf: "5.7.23 the domain of the sender says that its mail does not come from your server (SPF)",
} as const;

/**
 * Takes one mail: judges whose it is, stores it, asks the rules of every list that it is addressed to, queues the copies
 * or the note that returns it. When this returns, the mail is in the database. When it throws an {@link SmtpAnswer}, the mail
 * is refused for good, which the mail log says; when it throws anything else, nothing of it is kept, or the sender's second try
 * finds it there and changes nothing.
 */
export async function takeMail(context: MailContext, mail: IncomingMail): Promise<void> {
  const { db, desk } = context;
  const house = await loadHouse(db);
  if (house === undefined) throw new Error("this house is not set up");
  const present = await presentAddress(db, house, new Date());
  const recipients = [
    ...new Set(mail.recipients.map((address) => present(canonicalAddress(address)))),
  ];
  const read = await readIncoming(context, mail, recipients, house.listDomain);
  read.proven.signedTo = read.proven.signedTo.map(present);
  const split = splitMessage(mail.raw);
  const messageId =
    fieldValue(split, "message-id")?.slice(0, 900) ??
    `<${Date.now()}.${mail.raw.length}@${house.listDomain}>`;
  const logged = loggedMail(mail, read, messageId);
  await refuseForged(context, mail, read, recipients, logged);
  const { proven, returned, report } = read;
  const about = { ...read.about, looksLikeSpam: read.about.looksLikeSpam || mail.isMarked };
  const from = senderOf(read.from, mail);
  const shown = await showSender(db, from, house.name, mail.account);
  const after: Taken["after"] = [];
  const common: TakenByAll = {
    ...{ house, mail, split, messageId, about, returned, report, after },
    from: { name: shown.name, address: from.address },
    writtenName: from.name,
    doubt: shown.doubt,
    signatures: proven.signatures,
    isAnswerable: mail.account !== undefined || proven.isAnswerable,
    isForged: proven.isForged,
    leaveKey: context.houseKey,
    url: context.settings.url,
  };
  const refused = await db.transaction((tx) =>
    storeAndJudge(tx, context, common, read, recipients, logged),
  );
  if (refused !== undefined) throw new SmtpAnswer(550, refused);
  for (const act of after) await act({ desk });
}

type MailContext = Pick<Context, "db" | "resolver" | "settings" | "desk" | "log" | "houseKey">;
type TakenByAll = Omit<Taken, "messageRow" | "proof">;

/** Reads a mail where it can do no harm, and finds what proves whose it is. */
async function readIncoming(
  { db, resolver, settings }: MailContext,
  mail: IncomingMail,
  recipients: readonly string[],
  listDomain: string,
): Promise<MailRead> {
  const { ip, helo, front } = mail.connection;
  return sandbox.run(
    "readMail",
    {
      raw: mail.raw,
      // A delivery report is nobody's mail: nothing is looked up for it.
      ...(mail.account !== undefined || mail.returnPath === ""
        ? {}
        : {
            envelope: {
              helo,
              ip: front === "silent" ? undefined : ip,
              front: front === "none" ? "" : settings.mailFrontName,
              returnPath: mail.returnPath,
              mta: listDomain,
            },
          }),
      returned: {
        returnPath: mail.returnPath,
        recipients: await ownersOf(db, recipients, listDomain),
      },
    },
    resolver,
  );
}

/** Refuses a mail of which its sender's own domain says that it isn't theirs. What comes from this very machine was taken elsewhere before. */
async function refuseForged(
  { db, log }: MailContext,
  mail: IncomingMail,
  { proven }: MailRead,
  recipients: readonly string[],
  logged: ReturnType<typeof loggedMail>,
): Promise<void> {
  if (mail.account !== undefined || proven.refusal === undefined || isLoopback(mail.connection.ip))
    return;
  const answer = REFUSALS[proven.refusal];
  const parts = recipients.map((recipient) => partOf(recipient, "refused"));
  await storeMailIn(db, { ...logged, proof: "forged", answer: `550 ${answer}` }, parts);
  log.info({ mail: mail.id, refused: proven.refusal }, "a mail was refused");
  throw new SmtpAnswer(550, answer);
}

/** Stores a mail, asks the rules for each of its recipients, and writes the mail log. Returns what it is refused with, where nobody takes it. */
async function storeAndJudge(
  tx: Queries,
  { log }: MailContext,
  common: TakenByAll,
  { proven }: MailRead,
  recipients: readonly string[],
  logged: ReturnType<typeof loggedMail>,
): Promise<string | undefined> {
  const { mail, messageId, from, house } = common;
  const proofFor = (recipient: string): Exclude<Proof, "confirmed"> =>
    mail.account !== undefined
      ? "signed-in"
      : proven.signedTo.includes(recipient)
        ? "dkim"
        : proven.spf
          ? "spf"
          : "none";
  await lockMessageId(tx, messageId);
  const messageRow = await storeMessage(tx, traced(mail, house.listDomain), messageId, {
    arc: proven.arc,
  });
  const proof = recipients.map(proofFor).find((found) => found !== "none") ?? "none";
  // Who writes, and is known to be it, can be reached again; a program's mail is nobody's word.
  if (proof !== "none" && !isRobot(common))
    await heal(
      tx,
      from.address,
      { id: mail.account?.id ?? null, name: from.name || from.address },
      t("mail.theyHaveWritten"),
    );
  const results: (MailPart | GoesOut)[] = [];
  for (const recipient of recipients)
    results.push(
      await takeFor(tx, recipient, { ...common, messageRow, proof: proofFor(recipient) }),
    );
  const parts = await sendTogether(tx, results, { ...common, messageRow });
  const refused = refusalOf(parts);
  await storeMailIn(
    tx,
    {
      ...logged,
      proof: proof === "none" && proven.isForged ? "forged" : proof,
      answer: refused === undefined ? `250 2.0.0 taken as ${mail.id}` : `550 ${refused}`,
    },
    parts,
  );
  log.info(
    { mail: mail.id, results: parts.map(({ result }) => result), refused: refused !== undefined },
    "a mail came in",
  );
  return refused;
}

/** What is answered where a mail is refused for every address that it came to; undefined where any takes it. */
function refusalOf(parts: readonly MailPart[]): string | undefined {
  if (parts.length === 0 || parts.some(({ result }) => result !== "refused")) return undefined;
  const reasons = [...new Set(parts.flatMap((part) => part.reasons))];
  return `5.7.1 ${smtpText(reasons.join(" ")) || "this list does not take your mail"}`;
}

async function takeFor(tx: Queries, recipient: string, taken: Taken): Promise<MailPart | GoesOut> {
  const meant = parseListAddress(recipient, taken.house.listDomain);
  const plain = withoutSecret(recipient);
  if (meant === undefined) return partOf(plain, "nothing");
  if (meant.kind === "house") {
    await takeForHouse(tx, meant.mailbox, taken);
    return partOf(plain, "to the coordinators");
  }
  if (meant.kind === "return") {
    await takeReturned(tx, meant.token, taken);
    return partOf(plain, "returned mail");
  }
  if (meant.kind === "yes") {
    await takeConfirmation(tx, meant.token, taken);
    return partOf(plain, "answered");
  }
  if (meant.kind === "date") {
    await takeDateAnswer(tx, meant.token, taken);
    return partOf(plain, "answered");
  }
  const found = await listFor(tx, meant);
  if (found === undefined) return partOf(plain, "nothing");
  const { list: to, kind } = found;
  if (kind === "list") return takePost(tx, to, plain, taken);
  if (kind === "leads") return takeForLeads(tx, to, plain, taken);
  if (kind === "request") await answerRequest(tx, to, taken);
  else await takeLeave(tx, to, taken);
  return { ...partOf(plain, "answered"), listId: to.id };
}

/** The mail with the trace field of its way here before it: RFC 5321, section 4.4. */
function traced({ raw, connection, recipients, id }: IncomingMail, by: string): Buffer {
  const { ip, helo, protocol, tls } = connection;
  return Buffer.concat([
    Buffer.from(
      receivedField({
        ...{ ip, helo, protocol, tls, by, id, at: new Date() },
        recipients: recipients.map(withoutSecret),
      }),
      "latin1",
    ),
    raw,
  ]);
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
    ? { ...first, address: canonicalAddress(mail.returnPath).slice(0, 254) }
    : first;
}
