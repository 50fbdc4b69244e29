import { readFileSync } from "node:fs";
import { createSecureContext } from "node:tls";
import type { SMTPServer } from "smtp-server";
import type { Context } from "../context";
import { describeFailure } from "../describeFailure";
import type { Settings } from "../settings";

/** The key and the certificate of the mail ports; undefined where there is none. */
export type Certificate = { key: Buffer; cert: Buffer } | undefined;

/** What the ports have now, and what was found to be wrong last, so that it is said once. */
const inUse = new WeakMap<SMTPServer, { key: Buffer; cert: Buffer }>();
let refused = "";

/** Reads the files of the certificate. */
export function readCertificate(files: Settings["tls"]): Certificate {
  return files === undefined
    ? undefined
    : { key: readFileSync(files.keyFile), cert: readFileSync(files.certFile) };
}

/**
 * Gives the ports the certificate that their files hold by now, where it is another one. Connections that are open keep theirs.
 * Files that don't go together, or can't be read, change nothing: whoever renews a certificate writes one file after the other.
 */
export function renewCertificate(
  { log }: Pick<Context, "log">,
  servers: readonly SMTPServer[],
  files: Settings["tls"],
): void {
  if (files === undefined) return;
  try {
    const now = readCertificate(files);
    if (now === undefined) return;
    for (const server of servers) {
      const before = inUse.get(server);
      if (before?.key.equals(now.key) === true && before.cert.equals(now.cert)) continue;
      createSecureContext(now);
      server.updateSecureContext(now);
      inUse.set(server, now);
      if (before !== undefined) log.info("the mail ports have a new certificate");
    }
    refused = "";
  } catch (failure) {
    const words = describeFailure(failure).split("\n")[0] ?? "";
    if (words !== refused) log.warn({ failure: words }, "the new certificate can't be used");
    refused = words;
  }
}
