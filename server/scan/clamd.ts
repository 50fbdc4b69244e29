import { connect, type Socket } from "node:net";

/** What a virus scanner says of octets; `failed` where it said nothing that can be relied on, and why. */
export type ScanResult =
  { outcome: "clean" } | { outcome: "found"; what: string } | { outcome: "failed"; why: string };

/** How long the scanner may be silent, in milliseconds. */
const PATIENCE = 60_000;
/** The longest answer that is read, in characters. */
const LONGEST = 1000;

/** Where a scanner listens: a port of a host. */
export interface Scanner {
  host: string;
  port: number;
}

/**
 * Has octets looked at by a virus scanner that speaks clamd's protocol (its INSTREAM command: pieces, each after its length in four
 * octets, and a length of zero at the end).
 */
export function scanOctets(
  scanner: Scanner,
  octets: AsyncIterable<Uint8Array>,
): Promise<ScanResult> {
  return ask(scanner, async (socket) => {
    socket.write("zINSTREAM\0");
    for await (const piece of octets) {
      if (!socket.writable) return;
      if (piece.length === 0) continue;
      socket.write(lengthOf(piece.length));
      if (!socket.write(piece)) await drained(socket);
    }
    socket.write(lengthOf(0));
  }).then(resultOf, (failure: unknown) => ({ outcome: "failed", why: String(failure) }));
}

/** Whether the scanner answers. */
export async function scannerAnswers(scanner: Scanner): Promise<boolean> {
  try {
    return (await ask(scanner, async (socket) => void socket.write("zPING\0"))) === "PONG";
  } catch {
    return false;
  }
}

/** Waits until more can be sent, or nothing can be any more. */
function drained(socket: Socket): Promise<void> {
  return new Promise((resolve) => {
    const go = (): void => {
      socket.off("drain", go).off("close", go);
      resolve();
    };
    socket.on("drain", go).on("close", go);
    if (!socket.writable) go();
  });
}

function lengthOf(octets: number): Buffer {
  const length = Buffer.alloc(4);
  length.writeUInt32BE(octets);
  return length;
}

function resultOf(answer: string): ScanResult {
  if (answer === "stream: OK") return { outcome: "clean" };
  const [, what] = /^stream: (.{1,200}) FOUND$/.exec(answer) ?? [];
  return what === undefined
    ? { outcome: "failed", why: answer === "" ? "no answer" : answer }
    : { outcome: "found", what };
}

/** Sends a question and returns the answer, up to the zero octet that ends it. It may come before all has been sent. */
async function ask(
  { host, port }: Scanner,
  send: (socket: Socket) => Promise<void>,
): Promise<string> {
  const socket = connect({ host, port, timeout: PATIENCE });
  socket.once("timeout", () => socket.destroy(new Error("the scanner was silent for too long")));
  const answer = answerOf(socket);
  // What fails here ends the answer, too, which is waited for below.
  answer.catch(() => undefined);
  try {
    await Promise.race([send(socket), answer]);
    return await answer;
  } finally {
    socket.destroy();
  }
}

function answerOf(socket: Socket): Promise<string> {
  return new Promise((resolve, reject) => {
    let text = "";
    socket.setEncoding("utf8");
    socket.on("data", (part: string) => {
      text += part;
      if (text.includes("\0") || text.length > LONGEST) resolve(text.split("\0")[0] ?? "");
    });
    socket.once("end", () => resolve(text));
    socket.once("error", reject);
    socket.once("close", () => resolve(text));
  });
}
