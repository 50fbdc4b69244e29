import type { Context } from "../context";
import { scanOctets } from "../scan/clamd";
import { askSpamFilter } from "../scan/spamFilter";
import type { IncomingMail } from "./incomingMail";
import { SmtpAnswer, smtpText } from "./smtpAnswer";

/**
 * Has a mail looked at by the virus scanner and the spam filter, where the settings name them.
 *
 * @returns whether the filter marks it as unwanted; or the answer by which it is refused, for good or for now
 */
export async function filterMail(
  { settings, log }: Pick<Context, "settings" | "log">,
  { id, raw, returnPath, recipients, connection }: Omit<IncomingMail, "account" | "isMarked">,
): Promise<{ isMarked: boolean } | SmtpAnswer> {
  if (settings.scanner !== undefined) {
    const found = await scanOctets(settings.scanner, piecesOf(raw));
    if (found.outcome === "found")
      return new SmtpAnswer(
        554,
        `5.7.1 a virus scanner found ${smtpText(found.what)} in this mail`,
      );
    if (found.outcome === "failed") {
      log.warn({ mail: id, cause: found.why }, "the virus scanner could not be asked");
      return new SmtpAnswer(451, "4.7.1 the virus scanner can't be asked; try again later");
    }
  }
  if (settings.spamFilter === undefined) return { isMarked: false };
  const { ip, helo } = connection;
  const said = await askSpamFilter(settings.spamFilter, raw, { ip, helo, returnPath, recipients });
  if (said.outcome === "refused")
    return new SmtpAnswer(554, `5.7.1 ${smtpText(said.why) || "a spam filter refuses this mail"}`);
  if (said.outcome === "later")
    return new SmtpAnswer(451, `4.7.1 ${smtpText(said.why) || "try again in a few minutes"}`);
  // A filter that is away keeps no mail out; the rules of the lists hold all the same.
  if (said.outcome === "failed")
    log.warn({ mail: id, cause: said.why }, "the spam filter could not be asked");
  return { isMarked: said.outcome === "marked" };
}

const PIECE = 64 * 1024;

async function* piecesOf(raw: Buffer): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < raw.length; at += PIECE) yield raw.subarray(at, at + PIECE);
}
