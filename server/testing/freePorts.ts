import { createServer } from "node:net";

/** Below the ports that the system gives to outgoing connections, so that none of those takes one in between. */
const FIRST = 10_000;
const EACH = 2_500;
const WORKERS = 8;
/** Test files run beside each other: every worker has ports of its own. */
const ours = FIRST + (Number(process.env.VITEST_POOL_ID ?? 0) % WORKERS) * EACH;
let next = process.pid % EACH;

/** Ports that are free on loopback now, all different. */
export async function freePorts(count: number): Promise<number[]> {
  const ports: number[] = [];
  for (let tries = 0; ports.length < count; tries++) {
    if (tries > EACH) throw new Error(`no ${count} free ports from ${ours} on`);
    next = (next + 1) % EACH;
    const port = ours + next;
    if (await isFree(port)) ports.push(port);
  }
  return ports;
}

function isFree(port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const server = createServer();
    server.once("error", () => resolve(false));
    server.listen(port, "127.0.0.1", () => server.close(() => resolve(true)));
  });
}
