import type { AddressInfo } from "node:net";
import { SMTPServer } from "smtp-server";

export interface CaughtMail {
  from: string;
  to: string;
  raw: string;
}

/** A relay for tests: keeps what it is given, refuses what it is told to refuse. */
export interface Sink {
  port: number;
  mails: CaughtMail[];
  /** Answers the code and words by which an address is refused now, or undefined. */
  refuse: (address: string) => { code: number; words: string } | undefined;
  /** The same for whoever sends, before any recipient is named. */
  refuseSender: () => { code: number; words: string } | undefined;
  /** Waited for before each mail is answered. */
  take: () => Promise<void>;
  close(): Promise<void>;
}

/**
 * Whether a server could begin to listen. Its port lies below those from which connections go out: while a relay is gone, a
 * client that tries it again and again would else, once in a while, be given that very port for itself and be connected to itself.
 */
function listens(server: SMTPServer, port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const failed = (): void => resolve(false);
    server.server.once("error", failed);
    server.listen(port, "127.0.0.1", () => {
      server.server.off("error", failed);
      resolve(true);
    });
  });
}

export async function startSink(port = 0): Promise<Sink> {
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ["AUTH", "STARTTLS"],
    disableReverseLookup: true,
    // The deliverer keeps its connections open; a sink that goes away does not wait for them.
    closeTimeout: 100,
    onMailFrom: (_address, _session, callback) => {
      const refusal = sink.refuseSender();
      callback(
        refusal === undefined
          ? null
          : Object.assign(new Error(refusal.words), { responseCode: refusal.code }),
      );
    },
    onRcptTo: ({ address }, _session, callback) => {
      const refusal = sink.refuse(address);
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
        const from = session.envelope.mailFrom === false ? "" : session.envelope.mailFrom.address;
        for (const { address } of session.envelope.rcptTo)
          sink.mails.push({ from, to: address, raw: Buffer.concat(chunks).toString("latin1") });
        void sink.take().then(() => callback());
      });
    },
  });
  server.on("error", () => undefined);
  for (
    let tries = 1;
    !(await listens(server, port === 0 ? 10_000 + Math.floor(Math.random() * 20_000) : port));
    tries++
  )
    if (tries === 50) throw new Error(`the sink found no port (${port})`);
  const sink: Sink = {
    port: (server.server.address() as AddressInfo).port,
    mails: [],
    refuse: () => undefined,
    refuseSender: () => undefined,
    take: () => Promise.resolve(),
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
      }),
  };
  return sink;
}
