import type { AddressInfo } from "node:net";
import { serve, type ServerType } from "@hono/node-server";
import { Hono } from "hono";
import nodemailer from "nodemailer";
import { SMTPServer } from "smtp-server";
import { ANSWERS, quoted } from "./answers";
import { BEHAVIOURS, Mailboxes, type Behaviour, type Directory, type Letter } from "./mailboxes";
import { letterPage, mailboxPage, townPage } from "./pages";

export interface MailtownSettings {
  smtpPort: number;
  pagePort: number;
  /** Where its mailboxes send mail for the lists: Amigo's SMTP port. */
  amigoPort: number;
  folder: string;
  directory: Directory;
}

export interface RunningMailtown {
  boxes: Mailboxes;
  ports: { smtp: number; page: number };
  close(): Promise<void>;
}

/** How long a slow mailbox takes, in milliseconds. */
const SLOW = 10_000;

/** Starts the simulated outside world: an SMTP port that takes mail for its mailboxes, and a page to open them. */
export async function startMailtown(settings: MailtownSettings): Promise<RunningMailtown> {
  const boxes = new Mailboxes(settings.directory, settings.folder);
  const smtp = mailServer(boxes, settings);
  const portOfMail = (): number => (smtp.server.address() as AddressInfo).port;
  await new Promise<void>((resolve, reject) => {
    const failed = (failure: NodeJS.ErrnoException): void =>
      reject(portFault(failure, settings.smtpPort, "AMIGO_MAILTOWN_SMTP_PORT"));
    smtp.server.once("error", failed);
    smtp.listen(settings.smtpPort, "127.0.0.1", () => {
      smtp.server.off("error", failed);
      resolve();
    });
  });
  const page = await startPages(makePages(boxes, settings, portOfMail), settings.pagePort);
  return {
    boxes,
    ports: { smtp: portOfMail(), page: (page.address() as AddressInfo).port },
    close: async () => {
      await new Promise<void>((resolve) => {
        smtp.close(() => resolve());
      });
      await new Promise<void>((resolve) => {
        page.close(() => resolve());
        if ("closeAllConnections" in page) page.closeAllConnections();
      });
    },
  };
}

/** Makes the SMTP port: each mailbox takes mail, refuses it, is slow or answers, as it is made. */
function mailServer(boxes: Mailboxes, settings: MailtownSettings): SMTPServer {
  const smtp = new SMTPServer({
    name: "mailtown.example",
    banner: "Mailtown",
    authOptional: true,
    disabledCommands: ["AUTH", "STARTTLS"],
    hideSTARTTLS: true,
    disableReverseLookup: true,
    closeTimeout: 1000,
    onRcptTo: ({ address }, _session, callback) => {
      const refusal = boxes.refusal(address.toLowerCase(), Date.now());
      callback(
        refusal === undefined
          ? null
          : Object.assign(new Error(refusal.words), { responseCode: refusal.code }),
      );
    },
    onData: (stream, session, callback) => {
      const chunks: Buffer[] = [];
      stream.on("data", (chunk: Buffer) => chunks.push(chunk));
      stream.on("end", () => {
        const returnPath =
          session.envelope.mailFrom === false ? "" : session.envelope.mailFrom.address;
        const taken = session.envelope.rcptTo.map(({ address }) =>
          boxes.put(address.toLowerCase(), returnPath, Buffer.concat(chunks)),
        );
        const isSlow = taken.some(({ mailbox }) => boxes.behaviourOf(mailbox) === "slow");
        setTimeout(() => callback(null, "2.0.0 in the mailbox"), isSlow ? SLOW : 0);
        const ownPort = (smtp.server.address() as AddressInfo).port;
        for (const letter of taken) void answerLetter(boxes, settings, letter, ownPort);
      });
    },
  });
  smtp.on("error", () => undefined);
  return smtp;
}

/** Sends what a mailbox answers by itself, to where the letter came from. */
async function answerLetter(
  boxes: Mailboxes,
  settings: MailtownSettings,
  letter: Letter,
  ownPort: number,
): Promise<void> {
  const made =
    letter.returnPath === ""
      ? undefined
      : ANSWERS[boxes.behaviourOf(letter.mailbox)]?.({
          mailbox: letter.mailbox,
          returnPath: letter.returnPath,
          ...quoted(letter),
        });
  if (made === undefined) return;
  const toLists = made.to.toLowerCase().endsWith(`@${settings.directory.listDomain}`);
  const transport = nodemailer.createTransport({
    host: "127.0.0.1",
    port: toLists ? settings.amigoPort : ownPort,
    ignoreTLS: true,
  });
  await transport
    .sendMail({ envelope: { from: made.from, to: made.to }, raw: made.raw })
    .catch(() => undefined);
  transport.close();
}

function startPages(pages: Hono, port: number): Promise<ServerType> {
  return new Promise<ServerType>((resolve, reject) => {
    const server = serve({ fetch: pages.fetch, port, hostname: "127.0.0.1" }, () =>
      resolve(server),
    );
    server.once("error", (failure: NodeJS.ErrnoException) =>
      reject(portFault(failure, port, "AMIGO_MAILTOWN_PORT")),
    );
  });
}

function makePages(boxes: Mailboxes, settings: MailtownSettings, ownPort: () => number): Hono {
  const app = new Hono();
  app.get("/", (http) => http.html(townPage(boxes, http.req.query("q") ?? "")));
  app.get("/mailbox/:address", async (http) => {
    const address = http.req.param("address").toLowerCase();
    return http.html(
      mailboxPage(boxes, address, await boxes.lettersOf(address), http.req.query("told") ?? ""),
    );
  });
  app.post("/mailbox/:address/behaviour", async (http) => {
    const address = http.req.param("address").toLowerCase();
    const { behaviour } = await http.req.parseBody();
    if (typeof behaviour === "string" && behaviour in BEHAVIOURS)
      boxes.setBehaviour(address, behaviour as Behaviour);
    return http.redirect(`/mailbox/${encodeURIComponent(address)}`, 303);
  });
  app.post("/mailbox/:address/write", async (http) => {
    const address = http.req.param("address").toLowerCase();
    const { to, subject, text, inReplyTo, from } = await http.req.parseBody();
    const told = await write(boxes, settings, ownPort(), {
      from: address,
      to: String(to).trim(),
      subject: String(subject),
      text: String(text),
      inReplyTo: String(inReplyTo ?? ""),
      claimed: String(from ?? "")
        .trim()
        .toLowerCase(),
    });
    return http.redirect(
      `/mailbox/${encodeURIComponent(address)}?told=${encodeURIComponent(told)}`,
      303,
    );
  });
  app.get("/letter/:id", async (http) => {
    const found = await boxes.letter(Number(http.req.param("id")));
    return found === undefined
      ? http.notFound()
      : http.html(letterPage(found.mailbox, found.opened));
  });
  app.post("/letter/:id/forward", async (http) => {
    const found = await boxes.letter(Number(http.req.param("id")));
    const { to } = await http.req.parseBody();
    if (found === undefined) return http.notFound();
    const told = await write(boxes, settings, ownPort(), {
      from: found.mailbox,
      to: String(to).trim(),
      subject: `Fwd: ${found.opened.subject}`,
      text: found.opened.text
        .split("\n")
        .map((line) => `> ${line}`)
        .join("\n"),
      inReplyTo: "",
      claimed: "",
    });
    return http.redirect(
      `/mailbox/${encodeURIComponent(found.mailbox)}?told=${encodeURIComponent(told)}`,
      303,
    );
  });
  app.get("/letter/:id/raw", async (http) => {
    const found = await boxes.letter(Number(http.req.param("id")));
    return found === undefined
      ? http.notFound()
      : http.body(new Uint8Array(found.raw), 200, {
          "Content-Type": "text/plain; charset=utf-8",
          "X-Content-Type-Options": "nosniff",
        });
  });
  app.get("/api/mailboxes", (http) => http.json(boxes.all()));
  app.get("/api/mailboxes/:address", async (http) =>
    http.json(await boxes.lettersOf(http.req.param("address").toLowerCase())),
  );
  return app;
}

/** Sends a mail from a mailbox: to the lists by Amigo's port, to anybody else within Mailtown. */
async function write(
  boxes: Mailboxes,
  settings: MailtownSettings,
  ownPort: number,
  mail: {
    from: string;
    to: string;
    subject: string;
    text: string;
    inReplyTo: string;
    claimed: string;
  },
): Promise<string> {
  const toLists = mail.to.toLowerCase().endsWith(`@${settings.directory.listDomain}`);
  const transport = nodemailer.createTransport({
    host: "127.0.0.1",
    port: toLists ? settings.amigoPort : ownPort,
    ignoreTLS: true,
  });
  try {
    const shown = mail.claimed === "" ? mail.from : mail.claimed;
    await transport.sendMail({
      envelope: { from: mail.from, to: mail.to },
      from: { name: boxes.nameOf(shown), address: shown },
      to: mail.to,
      subject: mail.subject,
      text: mail.text,
      ...(mail.inReplyTo === "" ? {} : { inReplyTo: mail.inReplyTo, references: [mail.inReplyTo] }),
    });
    return `Sent to ${mail.to}.`;
  } catch (failure) {
    return `Not sent: ${failure instanceof Error ? failure.message : String(failure)}`;
  } finally {
    transport.close();
  }
}

function portFault(failure: NodeJS.ErrnoException, port: number, setting: string): Error {
  return failure.code === "EADDRINUSE"
    ? new Error(
        `Port ${port} is taken by another program. End that program, or set ${setting} to a free port.`,
      )
    : failure;
}
