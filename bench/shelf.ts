import { fork } from "node:child_process";
import { randomBytes } from "node:crypto";
import { once } from "node:events";
import { mkdtempSync, rmSync } from "node:fs";
import { request } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { ShelfServers } from "./shelfServer";

const MB = 1024 * 1024;
const BLOCK = randomBytes(MB);

/** A file of random octets, in chunks; each file is another one. */
function* octets(megabytes: number): Generator<Buffer> {
  const start = randomBytes(16);
  for (let at = 0; at < megabytes; at++) {
    const chunk = Buffer.from(BLOCK);
    start.copy(chunk);
    chunk.writeUInt32BE(at, 16);
    yield chunk;
  }
}

interface Transfer {
  seconds: number;
  /** What was answered, of an upload. */
  text: string;
}

/** Sends a file, and returns how long it took until the answer was there. */
async function send(url: string, megabytes: number, cookie: string): Promise<Transfer> {
  const began = performance.now();
  const asked = request(url, {
    method: "POST",
    headers: { Cookie: cookie, "Content-Length": String(megabytes * MB) },
  });
  const answered = once(asked, "response");
  for (const chunk of octets(megabytes)) if (!asked.write(chunk)) await once(asked, "drain");
  asked.end();
  const [response] = (await answered) as [AsyncIterable<Buffer> & { statusCode: number }];
  let text = "";
  for await (const chunk of response) text += chunk.toString();
  if (response.statusCode !== 200) throw new Error(`${response.statusCode} ${text}`);
  return { seconds: (performance.now() - began) / 1000, text };
}

/** Reads a file, and returns how long it took until the last octet was there. */
async function receive(url: string, megabytes: number, cookie: string): Promise<Transfer> {
  const began = performance.now();
  const asked = request(url, { headers: { Cookie: cookie } });
  asked.end();
  const [response] = (await once(asked, "response")) as [AsyncIterable<Buffer>];
  let size = 0;
  for await (const chunk of response) size += chunk.length;
  if (size !== megabytes * MB) throw new Error(`${size} octets came of ${megabytes} MB`);
  return { seconds: (performance.now() - began) / 1000, text: "" };
}

/**
 * Measures putting a large file on a shelf and opening it, beside copying one to and from a folder through the same kind of
 * server in the same process, and how much memory that process takes. The rounds take turns, so that a slow moment of the
 * machine is in both.
 */
export async function measureShelf(megabytes: number, rounds: number): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "amigo-shelf-bench-"));
  const child = fork(new URL("./shelfServer.ts", import.meta.url), [folder], {
    execArgv: ["--import", "tsx"],
  });
  const [servers] = (await once(child, "message")) as [ShelfServers];
  const memory = async (): Promise<number> => {
    child.send("memory");
    const [{ most }] = (await once(child, "message")) as [{ most: number }];
    return most / MB;
  };
  const put = `${servers.amigo}/api/lists/${servers.list}/shelf/files?name=film.mp4`;
  const times = {
    sent: [] as number[],
    opened: [] as number[],
    copied: [] as number[],
    read: [] as number[],
  };
  await send(put, 16, servers.cookie);
  await send(servers.plain, 16, "");
  const before = await memory();
  let most = 0;
  for (let round = 0; round < rounds; round++) {
    times.copied.push((await send(servers.plain, megabytes, "")).seconds);
    times.read.push((await receive(servers.plain, megabytes, "")).seconds);
    await memory();
    const { seconds, text } = await send(put, megabytes, servers.cookie);
    times.sent.push(seconds);
    const { id } = JSON.parse(text) as { id: string };
    const open = `${servers.amigo}/api/shelf/${id}/files/1`;
    times.opened.push((await receive(open, megabytes, servers.cookie)).seconds);
    most = Math.max(most, await memory());
  }
  const speed = (seconds: readonly number[]): number => megabytes / Math.min(...seconds);
  const line = (what: string, ours: readonly number[], plain: readonly number[]): void =>
    console.log(
      `  ${what.padEnd(28)} ${speed(ours).toFixed(0).padStart(6)} MB/s   a plain copy ${speed(plain).toFixed(0).padStart(6)} MB/s   ratio ${(speed(ours) / speed(plain)).toFixed(2)}`,
    );
  console.log(`\nA file of ${megabytes} MB, the best of ${rounds}`);
  line("put on a shelf", times.sent, times.copied);
  line("opened", times.opened, times.read);
  console.log(
    `  memory of the process        ${most.toFixed(0)} MB at most, ${before.toFixed(0)} MB before\n`,
  );
  const ended = once(child, "exit");
  child.send("close");
  await ended;
  rmSync(folder, { recursive: true, force: true });
}
