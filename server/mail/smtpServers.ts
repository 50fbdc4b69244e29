import { say } from "@amigo/language/say";
import { Refused } from "../refused";
import { SmtpAnswer } from "./smtpAnswer";
import { isLoopback, Visitors } from "./visitors";
import { readFileSync } from "node:fs";
import type { AddressInfo } from "node:net";
import {
  SMTPServer,
  type SMTPServerAddress,
  type SMTPServerOptions,
  type SMTPServerSession,
} from "smtp-server";
import { and, eq } from "drizzle-orm";
import { splitMessage } from "@amigo/core/mail/splitMessage";
import { checkMailPassword } from "../twoStep/mailPassword";
import type { Context } from "../context";
import { networkOf } from "../http/networkAddress";
import { SandboxEnded } from "../sandbox/sandbox";
import { isKnownRecipient, takeMail } from "./incoming";
import { describeFailure } from "../describeFailure";
import { accountInForce } from "../callers/inForce";
import type { IncomingMail } from "./incomingMail";
import { account } from "../db/schema/accounts";

/** The largest message, in octets. */
const LARGEST = 25 * 1024 * 1024;

const MOST_RECIPIENTS = 50;

/** How long a header may be, in octets, and how many fields it may have: many times what real mail has. */
const LONGEST_HEADER = 256 * 1024;

const MOST_FIELDS = 2_000;

const TOO_LONG_HEADER = "5.6.0 the header of this mail is too long";

/** Through how many servers a mail may have come: RFC 5321, section 6.3. */
const MOST_HOPS = 50;

/** A session with what the library's own types leave out: the commands that it does not offer. */
type OwnSession = SMTPServerSession & { disabledCommands?: string[] };

type Certificate = { key: Buffer; cert: Buffer } | undefined;

/** Starts the port for mail from anywhere and the one for accounts to write from their own mail programs. */
export async function startSmtp(
  context: Context,
): Promise<{ close(): Promise<void>; ports: { incoming: number; submission: number } }> {
  const { settings } = context;
  const tls =
    settings.tls === undefined
      ? undefined
      : { key: readFileSync(settings.tls.keyFile), cert: readFileSync(settings.tls.certFile) };
  const visitors = new Visitors();
  const incoming = incomingServer(context, visitors, tls);
  const submission = submissionServer(context, visitors, tls);
  for (const server of [incoming, submission])
    server.on("error", (failure) =>
      context.log.debug({ failure: describeFailure(failure) }, "a mail connection broke"),
    );
  await listen(incoming, settings.smtpPort, settings.smtpHost, "AMIGO_SMTP_PORT");
  await listen(submission, settings.submissionPort, settings.smtpHost, "AMIGO_SUBMISSION_PORT");
  const portOf = (server: SMTPServer): number => (server.server.address() as AddressInfo).port;
  return {
    ports: { incoming: portOf(incoming), submission: portOf(submission) },
    close: async () => {
      await Promise.all(
        [incoming, submission].map(
          (server) =>
            new Promise<void>((resolve) => {
              server.close(() => resolve());
            }),
        ),
      );
    },
  };
}

/** Returns what both ports have in common: their name and limits, and which recipients they know. */
function commonOptions(context: Context, visitors: Visitors, tls: Certificate): SMTPServerOptions {
  return {
    name: context.settings.url.replace(/^https?:\/\//, "").replace(/[:/].*$/, ""),
    banner: "Amigo",
    size: LARGEST,
    logger: false,
    maxClients: 100,
    socketTimeout: 60_000,
    closeTimeout: 5_000,
    disableReverseLookup: true,
    hideSTARTTLS: tls === undefined,
    ...tls,
    onConnect: (session, callback) => callback(visitors.come(session.remoteAddress)),
    onClose: (session) => visitors.go(session.remoteAddress),
    onMailFrom: (_address, session, callback) => callback(visitors.mail(session.remoteAddress)),
    onRcptTo: (address, session, callback) =>
      void checkRecipient(context, address, session).then(() => callback(), callback),
  };
}

/** Makes the port for mail from anywhere. */
function incomingServer(context: Context, visitors: Visitors, tls: Certificate): SMTPServer {
  return new SMTPServer({
    ...commonOptions(context, visitors, tls),
    disabledCommands: tls === undefined ? ["AUTH", "STARTTLS"] : ["AUTH"],
    authOptional: true,
    onData: (stream, session, callback) =>
      void receive(context, stream, session, undefined).then(
        () => callback(null, "2.0.0 taken"),
        callback,
      ),
  });
}

/** Makes the port at which accounts hand in mail from their own mail programs (RFC 6409). */
function submissionServer(context: Context, visitors: Visitors, tls: Certificate): SMTPServer {
  return new SMTPServer({
    ...commonOptions(context, visitors, tls),
    disabledCommands: tls === undefined ? ["STARTTLS"] : [],
    authMethods: ["PLAIN", "LOGIN"],
    // Without a certificate passwords may only come from this very machine.
    allowInsecureAuth: tls === undefined,
    onConnect: (session, callback) => {
      if (tls === undefined && !isLoopback(session.remoteAddress)) {
        const words = "5.7.0 submission needs a certificate (AMIGO_TLS_KEY, AMIGO_TLS_CERT)";
        callback(new SmtpAnswer(554, words));
        return;
      }
      // A password is asked for only once the connection is encrypted.
      if (tls !== undefined) (session as OwnSession).disabledCommands = ["AUTH"];
      callback(visitors.come(session.remoteAddress));
    },
    onSecure: (_socket, session, callback) => {
      (session as OwnSession).disabledCommands = [];
      callback();
    },
    onAuth: (auth, session, callback) =>
      void checkMailPassword(
        context.db,
        (auth.username ?? "").trim().toLowerCase(),
        auth.password ?? "",
        networkOf(session.remoteAddress),
      ).then(
        (found) =>
          found instanceof Refused
            ? callback(new SmtpAnswer(535, `5.7.8 ${say(found.detail)}`))
            : callback(null, { user: found.id }),
        () => callback(new SmtpAnswer(454, "4.7.0 try again in a few minutes")),
      ),
    onData: (stream, session, callback) =>
      void receive(context, stream, session, session.user).then(
        () => callback(null, "2.0.0 taken"),
        callback,
      ),
  });
}

/** Listens, and says in words which port is taken and which setting changes it. */
async function listen(
  server: SMTPServer,
  port: number,
  host: string,
  setting: string,
): Promise<void> {
  await new Promise<void>((resolve, reject) => {
    const failed = (failure: NodeJS.ErrnoException): void =>
      reject(
        failure.code === "EADDRINUSE"
          ? new Error(
              `Port ${port} is taken by another program. End that program, or set ${setting} to a free port.`,
            )
          : failure,
      );
    server.server.once("error", failed);
    server.listen(port, host, () => {
      server.server.off("error", failed);
      resolve();
    });
  });
}

async function checkRecipient(
  context: Context,
  address: SMTPServerAddress,
  session: SMTPServerSession,
): Promise<void> {
  if (session.envelope.rcptTo.length >= MOST_RECIPIENTS)
    throw new SmtpAnswer(452, "4.5.3 too many recipients at once; send the rest in another mail");
  let known: boolean;
  try {
    known = await isKnownRecipient(context.db, address.address);
  } catch (failure) {
    context.log.warn({ failure: describeFailure(failure) }, "a recipient could not be checked");
    throw new SmtpAnswer(451, "4.3.0 try again in a few minutes");
  }
  if (!known) throw new SmtpAnswer(550, "5.1.1 there is no such list here");
}

async function receive(
  context: Context,
  stream: AsyncIterable<Buffer> & { sizeExceeded?: boolean },
  session: SMTPServerSession,
  accountId: string | undefined,
): Promise<void> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of stream) {
    size += chunk.length;
    if (size <= LARGEST) chunks.push(chunk);
  }
  const raw = Buffer.concat(chunks);
  const fault = transportFault(raw);
  if (fault !== undefined) throw new SmtpAnswer(554, fault);
  if (size > LARGEST || stream.sizeExceeded === true)
    throw new SmtpAnswer(552, `5.3.4 this mail is larger than ${LARGEST / 1024 / 1024} MB`);
  try {
    const mail: IncomingMail = {
      raw,
      returnPath: session.envelope.mailFrom === false ? "" : session.envelope.mailFrom.address,
      recipients: session.envelope.rcptTo.map(({ address }) => address),
      account: await accountOf(context, accountId),
      connection: {
        ip: session.remoteAddress.replace(/^::ffff:/, ""),
        helo: String(session.hostNameAppearsAs || ""),
      },
    };
    await takeMail(context, mail);
  } catch (failure) {
    if (failure instanceof SmtpAnswer) throw failure;
    if (failure instanceof SandboxEnded && failure.by !== "crash") {
      context.log.warn({ failure: describeFailure(failure) }, "a mail could not be read");
      throw new SmtpAnswer(
        554,
        failure.by === "content"
          ? "5.6.0 this mail is put together in a way that can't be read"
          : "5.6.0 this mail is put together in a way that takes too long to read",
      );
    }
    context.log.error({ failure: describeFailure(failure) }, "a mail could not be stored");
    throw new SmtpAnswer(451, "4.3.0 the mail could not be stored; send it again in a few minutes");
  }
}

/** What is wrong with a message as it was sent: bare line endings, by which mail could be smuggled (RFC 5321, section 2.3.8), or a loop. */
function transportFault(raw: Buffer): string | undefined {
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
