import type { AddressInfo } from "node:net";
import { SMTPServer } from "smtp-server";

/** A relay in a process of its own that takes everything and keeps nothing but the count, and when the first and last came. */
let count = 0;
let first = 0;
let last = 0;
/** How long it thinks about each mail before it takes it, in milliseconds, as a relay in the network does. */
let thinks = 0;
const server = new SMTPServer({
  authOptional: true,
  disabledCommands: ["AUTH", "STARTTLS"],
  disableReverseLookup: true,
  size: 64 * 1024 * 1024,
  onData: (stream, _session, callback) => {
    stream.resume();
    stream.on("end", () => {
      const take = (): void => {
        last = performance.now();
        if (count++ === 0) first = last;
        callback();
      };
      if (thinks === 0) take();
      else setTimeout(take, thinks);
    });
  },
});
server.on("error", () => undefined);
server.listen(0, "127.0.0.1", () =>
  process.send?.({ port: (server.server.address() as AddressInfo).port }),
);
process.on("message", (wanted: { do: "count" | "again" | "end"; thinks?: number }) => {
  if (wanted.do === "end") process.exit(0);
  if (wanted.do === "again") {
    count = 0;
    thinks = wanted.thinks ?? 0;
  }
  process.send?.({ count, time: last - first });
});
