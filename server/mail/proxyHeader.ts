import type { Server, Socket } from "node:net";
import ipaddr from "ipaddr.js";
import { Command, IPv4ProxyAddress, IPv6ProxyAddress, V2ProxyProtocol } from "proxy-protocol-js";
import { networkOf } from "../http/networkAddress";

/** The octets with which a binary PROXY header begins (the PROXY protocol, version 2, section 2.2). */
const SIGNATURE = Buffer.from([13, 10, 13, 10, 0, 13, 10, 81, 85, 73, 84, 10]);
/** How long its fixed part is, and the longest that may follow it: addresses, and what else a proxy adds. */
const FIXED = 16;
const LONGEST = 4096;
/** How long it may take to come, in milliseconds. */
const PATIENCE = 10_000;

/** The line of version 1 that says what a binary header says; undefined where it can't be read. */
export function asProxyLine(header: Uint8Array): string | undefined {
  try {
    const { command, proxyAddress: of } = V2ProxyProtocol.parse(header);
    // LOCAL: the proxy speaks for itself, as in a health check.
    if (command === Command.LOCAL) return "PROXY UNKNOWN\r\n";
    if (!(of instanceof IPv4ProxyAddress || of instanceof IPv6ProxyAddress))
      return "PROXY UNKNOWN\r\n";
    const family = of instanceof IPv4ProxyAddress ? "TCP4" : "TCP6";
    const [from, to] = [of.sourceAddress, of.destinationAddress].map(({ address }) =>
      ipaddr.fromByteArray([...address]).toString(),
    );
    return `PROXY ${family} ${from} ${to} ${of.sourcePort} ${of.destinationPort}\r\n`;
  } catch {
    return undefined;
  }
}

/**
 * Lets a mail server of the library's take the PROXY protocol in version 2, too: what proxies say in binary is turned into the
 * line of version 1, which it knows. A proxy whose header can't be read, or doesn't come in ten seconds, is let go.
 */
export function takeBinaryProxy(server: Server, proxies: ReadonlySet<string>): void {
  if (proxies.size === 0) return;
  const networks = new Set([...proxies].map(networkOf));
  const take = server.listeners("connection");
  server.removeAllListeners("connection");
  server.on("connection", (socket: Socket) => {
    const go = (): void => {
      for (const listener of take) listener.call(server, socket);
    };
    if (networks.has(networkOf(socket.remoteAddress ?? ""))) translate(socket, go);
    else go();
  });
}

/** Waits for the beginning of a connection, and puts a line in the place of a binary header. */
function translate(socket: Socket, go: () => void): void {
  let read = Buffer.alloc(0);
  const late = setTimeout(() => socket.destroy(), PATIENCE);
  const end = (): void => {
    clearTimeout(late);
    socket.removeListener("readable", more);
    socket.removeListener("error", end);
    socket.removeListener("close", end);
  };
  const passOn = (octets: Buffer): void => {
    end();
    if (octets.length > 0) socket.unshift(octets);
    go();
  };
  const more = (): void => {
    for (
      let chunk = socket.read() as Buffer | null;
      chunk !== null;
      chunk = socket.read() as Buffer | null
    )
      read = Buffer.concat([read, chunk]);
    const begins = read.subarray(0, SIGNATURE.length);
    if (!begins.equals(SIGNATURE.subarray(0, begins.length))) {
      passOn(read);
      return;
    }
    if (read.length < FIXED) return;
    const length = FIXED + read.readUInt16BE(14);
    if (length > LONGEST) {
      end();
      socket.destroy();
      return;
    }
    if (read.length < length) return;
    const line = asProxyLine(read.subarray(0, length));
    if (line === undefined) {
      end();
      socket.destroy();
    } else passOn(Buffer.concat([Buffer.from(line), read.subarray(length)]));
  };
  socket.on("readable", more);
  socket.on("error", end);
  socket.on("close", end);
}
