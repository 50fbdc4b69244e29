import { canonicalAddress } from "@amigo/core/address/domainName";
import { and, eq } from "drizzle-orm";
import type { SMTPServerSession } from "smtp-server";
import { splitMessage } from "@amigo/core/mail/splitMessage";
import { accountInForce } from "../callers/inForce";
import type { Context } from "../context";
import { account } from "../db/schema/accounts";
import { describeFailure } from "../describeFailure";
import { SandboxEnded } from "../sandbox/sandbox";
import { filterMail } from "./filterMail";
import { takeMail } from "./incoming";
import type { Connection, IncomingMail } from "./incomingMail";
import { withoutSecret } from "./loggedMail";
import { isBeyondRepair } from "./repairMail";
import { newMailId } from "./mailId";
import { storeMailIn } from "./mailLogQueries";
import { SmtpAnswer } from "./smtpAnswer";

/** The largest message, in octets. */
export const LARGEST = 25 * 1024 * 1024;

/** How long a header may be, in octets, and how many fields it may have: many times what real mail has. */
const LONGEST_HEADER = 256 * 1024;

const MOST_FIELDS = 2_000;

const TOO_LONG_HEADER = "5.6.0 the header of this mail is too long";

/** Through how many servers a mail may have come: RFC 5321, section 6.3. */
const MOST_HOPS = 50;

/**
 * Takes one mail that comes in over SMTP. Returns what is answered, with the id by which the mail log knows it.
 *
 * @param arrives   told of every piece of it, by its octets
 * @throws SmtpAnswer where it isn't taken
 */
export async function receiveMail(
  context: Context,
  stream: AsyncIterable<Buffer> & { sizeExceeded?: boolean },
  session: SMTPServerSession,
  accountId: string | undefined,
  arrives: (octets: number) => void,
): Promise<string> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of stream) {
    size += chunk.length;
    arrives(chunk.length);
    if (size <= LARGEST) chunks.push(chunk);
  }
  const raw = Buffer.concat(chunks);
  const arrival: Omit<IncomingMail, "account" | "isMarked"> = {
    id: newMailId(),
    raw,
    returnPath: session.envelope.mailFrom === false ? "" : session.envelope.mailFrom.address,
    recipients: session.envelope.rcptTo.map(({ address }) => address),
    connection: connectionOf(context, session),
  };
  const fault =
    size > LARGEST || stream.sizeExceeded === true
      ? new SmtpAnswer(552, `5.3.4 this mail is larger than ${LARGEST / 1024 / 1024} MB`)
      : transportFault(raw);
  if (fault !== undefined) return refuse(context, arrival, size, fault);
  try {
    const account = await accountOf(context, accountId);
    const filtered =
      account === undefined ? await filterMail(context, arrival) : { isMarked: false };
    if (filtered instanceof SmtpAnswer) return await refuse(context, arrival, size, filtered);
    await takeMail(context, { ...arrival, account, isMarked: filtered.isMarked });
    return `2.0.0 taken as ${arrival.id}`;
  } catch (failure) {
    if (failure instanceof SmtpAnswer) throw failure;
    if (failure instanceof SandboxEnded && failure.by !== "crash") {
      context.log.warn({ failure: describeFailure(failure) }, "a mail could not be read");
      const words =
        failure.by === "content"
          ? "5.6.0 this mail is put together in a way that can't be read"
          : "5.6.0 this mail is put together in a way that takes too long to read";
      return refuse(context, arrival, size, new SmtpAnswer(554, words));
    }
    context.log.error({ failure: describeFailure(failure) }, "a mail could not be stored");
    throw new SmtpAnswer(451, "4.3.0 the mail could not be stored; send it again in a few minutes");
  }
}

/** Refuses a mail that isn't looked into, and writes that into the mail log; where that fails, it is refused all the same. */
async function refuse(
  { db, log }: Context,
  { id, returnPath, recipients, connection }: Omit<IncomingMail, "account" | "isMarked">,
  size: number,
  answer: SmtpAnswer,
): Promise<never> {
  const said = `${answer.responseCode} ${answer.message}`;
  log.info({ mail: id, answer: said }, "a mail was refused");
  await storeMailIn(
    db,
    {
      ...{ id, size, answer: said },
      ...{ fromAddress: canonicalAddress(returnPath), fromName: "", subject: "", messageId: "" },
      returnPath: withoutSecret(canonicalAddress(returnPath)),
      network: connection.ip,
      helo: connection.helo.slice(0, 255),
      secure: connection.tls !== "",
      proof: "none",
    },
    recipients.map((recipient) => ({
      recipient: withoutSecret(canonicalAddress(recipient)),
      ...{ result: "refused" as const, reasons: [], listId: null, postId: null },
    })),
  ).catch((failure: unknown) =>
    log.warn({ failure: describeFailure(failure) }, "the mail log could not be written"),
  );
  throw answer;
}

/** From where a mail comes; behind a mail server of our own, what that says of whoever sent it there. */
function connectionOf({ settings }: Context, session: SMTPServerSession): Connection {
  const told = session.xForward;
  const address = told.get("ADDR");
  const ip = String(address || session.remoteAddress).replace(/^::ffff:/, "");
  return {
    ip,
    front: address ? "says" : settings.mailFronts.has(ip) ? "silent" : "none",
    helo: String(told.get("HELO") || session.hostNameAppearsAs || ""),
    protocol: session.transmissionType,
    tls: tlsOf(session),
  };
}

/** Returns how a connection is encrypted, as a trace field says it; empty for not at all. */
function tlsOf({ tlsOptions }: SMTPServerSession): string {
  return tlsOptions === false || tlsOptions === undefined
    ? ""
    : `version=${tlsOptions.version} cipher=${tlsOptions.name}`;
}

/** What is wrong with a message as it was sent: bare line endings, by which mail could be smuggled (RFC 5321, section 2.3.8), or a loop. */
function transportFault(raw: Buffer): SmtpAnswer | undefined {
  const words = faultOf(raw);
  return words === undefined ? undefined : new SmtpAnswer(554, words);
}

function faultOf(raw: Buffer): string | undefined {
  for (let at = raw.indexOf(10); at >= 0; at = raw.indexOf(10, at + 1))
    if (raw[at - 1] !== 13)
      return "5.6.0 a line ends without a carriage return; that is not allowed";
  for (let at = raw.indexOf(13); at >= 0; at = raw.indexOf(13, at + 1))
    if (raw[at + 1] !== 10) return "5.6.0 a carriage return stands alone; that is not allowed";
  const end = raw.indexOf("\r\n\r\n");
  const header = raw.subarray(0, end < 0 ? raw.length : end);
  // Before it is taken apart, for that takes a while.
  if (header.length > LONGEST_HEADER) return TOO_LONG_HEADER;
  if (header.includes(0)) return "5.6.0 there is a NUL in the header of this mail";
  if (isBeyondRepair(raw))
    return "5.6.0 a line of this signed or encrypted mail is longer than mail servers take";
  const { fields } = splitMessage(raw);
  if (fields.length > MOST_FIELDS) return TOO_LONG_HEADER;
  const hops = fields.filter(({ name }) => name === "received").length;
  return hops > MOST_HOPS ? "5.4.6 this mail goes round and round" : undefined;
}

async function accountOf(
  context: Context,
  id: string | undefined,
): Promise<IncomingMail["account"]> {
  if (id === undefined) return undefined;
  const [found] = await context.db
    .select({ id: account.id, name: account.name, email: account.email })
    .from(account)
    .where(and(eq(account.id, id), accountInForce));
  if (found === undefined) throw new SmtpAnswer(550, "5.7.1 this account has ended");
  return found;
}
