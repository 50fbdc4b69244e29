import { mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** Below the ports that the system gives to outgoing connections, so that none of those takes one in between. */
const FIRST = 10_000;
const EACH = 2_500;
const WORKERS = 8;
/** Test files run beside each other: most workers have ports of their own to look at first. */
const ours = FIRST + (Number(process.env.VITEST_POOL_ID ?? 0) % WORKERS) * EACH;
let next = process.pid % EACH;

/** Where processes say which ports they will use: between finding one free and using it, another must not find it free, too. */
const CLAIMS = join(tmpdir(), "amigo-test-ports");
const claimed = new Set<string>();

/** Ports that are free on loopback now and that no other test will use while this process lives, all different. */
export async function freePorts(count: number): Promise<number[]> {
  const ports: number[] = [];
  for (let tries = 0; ports.length < count; tries++) {
    if (tries > EACH) throw new Error(`no ${count} free ports from ${ours} on`);
    next = (next + 1) % EACH;
    const port = ours + next;
    if (claim(port) && (await isFree(port))) ports.push(port);
  }
  return ports;
}

/** Claims a port for this process, unless another that is still there has. */
function claim(port: number): boolean {
  mkdirSync(CLAIMS, { recursive: true });
  const file = join(CLAIMS, String(port));
  for (let tries = 0; tries < 2; tries++)
    try {
      writeFileSync(file, String(process.pid), { flag: "wx" });
      if (claimed.size === 0) process.once("exit", giveBack);
      claimed.add(file);
      return true;
    } catch (failure) {
      if ((failure as NodeJS.ErrnoException).code !== "EEXIST") throw failure;
      if (isThere(file)) return false;
      // Left by one that was killed.
      rmSync(file, { force: true });
    }
  return false;
}

/** Whether the process that claimed a port is still there. One whose number isn't written yet is. */
function isThere(file: string): boolean {
  try {
    const pid = readFileSync(file, "utf8");
    if (pid === "") return true;
    process.kill(Number(pid), 0);
    return true;
  } catch (failure) {
    return (failure as NodeJS.ErrnoException).code === "EPERM";
  }
}

function giveBack(): void {
  for (const file of claimed) rmSync(file, { force: true });
}

function isFree(port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const server = createServer();
    server.once("error", () => resolve(false));
    server.listen(port, "127.0.0.1", () => server.close(() => resolve(true)));
  });
}
