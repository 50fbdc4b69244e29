import { createServer, type AddressInfo, type Socket } from "node:net";

/** What the stand-in takes for a virus. */
export const MARK = "COPPERWHEEL-TEST-VIRUS";

/** A virus scanner that speaks clamd's protocol and knows one mark. */
export interface ScannerStandIn {
  port: number;
  /** How many octets it was sent for each file, in order. */
  sizes: number[];
  /** The most octets of a file that it looks at. */
  most: number;
  close(): Promise<void>;
}

/** Starts a stand-in on a free port of this machine. */
export async function startScanner(): Promise<ScannerStandIn> {
  const open = new Set<Socket>();
  const server = createServer((socket) => {
    open.add(socket);
    socket.on("error", () => undefined).on("close", () => open.delete(socket));
    let buffered = Buffer.alloc(0);
    let content: Buffer[] | undefined;
    let size = 0;
    const end = (answer: string): void => void socket.end(`${answer}\0`);
    socket.on("data", (data) => {
      buffered = Buffer.concat([buffered, data]);
      if (content === undefined) {
        const at = buffered.indexOf(0);
        if (at < 0) return;
        if (buffered.toString("latin1", 0, at) === "zPING") return end("PONG");
        content = [];
        buffered = buffered.subarray(at + 1);
      }
      while (buffered.length >= 4) {
        const length = buffered.readUInt32BE();
        if (length === 0) {
          standIn.sizes.push(size);
          const isBad = Buffer.concat(content).includes(MARK);
          return end(isBad ? "stream: Copperwheel.Test FOUND" : "stream: OK");
        }
        if (buffered.length < 4 + length) return;
        content.push(buffered.subarray(4, 4 + length));
        size += length;
        buffered = buffered.subarray(4 + length);
        if (size > standIn.most) return end("INSTREAM size limit exceeded. ERROR");
      }
    });
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const standIn: ScannerStandIn = {
    port: (server.address() as AddressInfo).port,
    sizes: [],
    most: Infinity,
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        for (const socket of open) socket.destroy();
      }),
  };
  return standIn;
}
