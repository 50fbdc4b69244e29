import { say } from "@amigo/language/say";
import { Refused } from "../refused";
import { SmtpAnswer } from "./smtpAnswer";
import { isLoopback, Visitors } from "./visitors";
import type { AddressInfo } from "node:net";
import {
  SMTPServer,
  type SMTPServerAddress,
  type SMTPServerOptions,
  type SMTPServerSession,
} from "smtp-server";
import { checkMailPassword } from "../twoStep/mailPassword";
import type { Context } from "../context";
import type { Settings } from "../settings";
import { networkOf } from "../http/networkAddress";
import { isKnownRecipient } from "./incoming";
import { LARGEST, receiveMail } from "./receiveMail";
import { readCertificate, renewCertificate, type Certificate } from "./certificate";
import { describeFailure } from "../describeFailure";
import { takeBinaryProxy } from "./proxyHeader";

const MOST_RECIPIENTS = 50;

/** A session with what the library's own types leave out: the commands that it does not offer. */
type OwnSession = SMTPServerSession & { disabledCommands?: string[] };

/** A connection of the library's, whose types leave it open. */
interface SmtpConnection {
  id: string;
  send(code: number, words: string): void;
  close(): void;
}

/** How often connections that hand in nothing are looked for, and whether the certificate was renewed, in milliseconds. */
const LOOK_EVERY = 15_000;

/** The longest that nothing at all may come over a connection, in milliseconds: RFC 5321, section 4.5.3.2.7. */
const SILENCE = 5 * 60_000;

/** Starts the port for mail from anywhere and the one for accounts to write from their own mail programs. */
export async function startSmtp(
  context: Context,
): Promise<{ close(): Promise<void>; ports: { incoming: number; submission: number } }> {
  const { settings } = context;
  const tls = readCertificate(settings.tls);
  const visitors = new Visitors(new Set([...settings.mailFronts, ...settings.mailProxies]));
  const incoming = incomingServer(context, visitors, tls);
  const submission = submissionServer(context, visitors, tls);
  for (const server of [incoming, submission]) takeBinaryProxy(server.server, settings.mailProxies);
  for (const server of [incoming, submission])
    server.on("error", (failure) =>
      context.log.debug({ failure: describeFailure(failure) }, "a mail connection broke"),
    );
  await listen(incoming, settings.smtpPort, settings.smtpHost, "AMIGO_SMTP_PORT");
  await listen(submission, settings.submissionPort, settings.smtpHost, "AMIGO_SUBMISSION_PORT");
  const servers = [incoming, submission];
  const look = setInterval(() => {
    for (const id of visitors.overdue())
      endSession(servers, id, "4.4.2 nothing was handed in for long");
    renewCertificate(context, servers, settings.tls);
  }, LOOK_EVERY);
  const portOf = (server: SMTPServer): number => (server.server.address() as AddressInfo).port;
  return {
    ports: { incoming: portOf(incoming), submission: portOf(submission) },
    close: async () => {
      clearInterval(look);
      await Promise.all(
        servers.map(
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
    socketTimeout: SILENCE,
    closeTimeout: 5_000,
    disableReverseLookup: true,
    hideSTARTTLS: tls === undefined,
    ...tls,
    ...behindOthers(context.settings),
    onConnect: (session, callback) => callback(visitors.come(session)),
    onClose: (session) => visitors.go(session),
    onMailFrom: (_address, session, callback) => callback(visitors.mail(session)),
    onRcptTo: (address, session, callback) =>
      void checkRecipient(context, address, session).then(() => callback(), callback),
  };
}

/** Makes the port for mail from anywhere. */
function incomingServer(context: Context, visitors: Visitors, tls: Certificate): SMTPServer {
  return withRoom(
    new SMTPServer({
      ...commonOptions(context, visitors, tls),
      disabledCommands: tls === undefined ? ["AUTH", "STARTTLS"] : ["AUTH"],
      authOptional: true,
      onData: (stream, session, callback) =>
        void take(context, visitors, stream, session, undefined).then(
          (answer) => callback(null, answer),
          callback,
        ),
    }),
    visitors,
  );
}

/** Makes the port at which accounts hand in mail from their own mail programs (RFC 6409). */
function submissionServer(context: Context, visitors: Visitors, tls: Certificate): SMTPServer {
  const server = new SMTPServer({
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
      callback(visitors.come(session));
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
      void take(context, visitors, stream, session, session.user).then(
        (answer) => callback(null, answer),
        callback,
      ),
  });
  return withRoom(server, visitors);
}

/** Returns which of our own mail servers and proxies say for whom they speak: by XFORWARD, or by a PROXY line before everything else. */
function behindOthers({ mailFronts, mailProxies }: Settings): SMTPServerOptions {
  // The library takes lists, other than its types say.
  return {
    ...(mailFronts.size > 0 ? { useXForward: [...mailFronts] } : {}),
    ...(mailProxies.size > 0 ? { useProxy: [...mailProxies] } : {}),
  } as unknown as SMTPServerOptions;
}

/** Makes room on a port for who comes when too many are there. */
function withRoom(server: SMTPServer, visitors: Visitors): SMTPServer {
  server.on("connect", () => {
    const weakest = visitors.weakest();
    if (weakest !== undefined)
      endSession([server], weakest, "4.3.2 too many connections; come again in a minute");
  });
  return server;
}

/** Ends a session with an answer. */
function endSession(servers: readonly SMTPServer[], id: string, words: string): void {
  for (const server of servers)
    for (const connection of server.connections as Set<SmtpConnection>)
      if (connection.id === id) {
        connection.send(421, words);
        connection.close();
      }
}

/** Takes a mail, and remembers that its sender hands something in. */
async function take(
  context: Context,
  visitors: Visitors,
  stream: Parameters<typeof receiveMail>[1],
  session: SMTPServerSession,
  accountId: string | undefined,
): Promise<string> {
  try {
    return await receiveMail(context, stream, session, accountId, (octets) =>
      visitors.arrives(session, octets),
    );
  } finally {
    visitors.handedIn(session);
  }
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
