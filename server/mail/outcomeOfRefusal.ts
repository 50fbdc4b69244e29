import { refusalIn } from "@amigo/core/mail/bounces/refusalIn";
import { isForGood, sortOf } from "@amigo/core/mail/bounces/sortOf";
import type { Context } from "../context";
import type { RelayGate } from "../relay/relayGate";
import { t } from "../texts/t";
import type { Claimed, Outcome } from "./queueQueries";
import { cameBack } from "./trouble";

/** Pauses before the next try, in seconds; the last goes on until the days are over. */
const PAUSES = [30, 120, 600, 1800, 3600, 7200, 14400];
const DAYS = 4;
/** A mail that is too large is refused when its size is named, before the recipient: RFC 1870, section 6. */
const TOO_LARGE = 552;

/** What the SMTP library tells of a failure; without a code where the relay could not be asked. */
export interface RelayFailure {
  responseCode?: number;
  response?: string;
  /** At which command it came. */
  command?: string;
  message?: string;
}

/**
 * Says what becomes of a copy that the relay did not take: it is tried again later, or has failed for good; and writes down what
 * that says of its address.
 */
export async function outcomeOfRefusal(
  { db }: Pick<Context, "db">,
  gate: RelayGate,
  copy: Claimed,
  { responseCode, response, command, message: words }: RelayFailure,
): Promise<Outcome> {
  const reply = oneLine(response ?? words ?? "");
  const tooOld = Date.now() - copy.createdAt.getTime() > DAYS * 86_400_000;
  // What the relay says before the recipient is named (of our sign-in, of who sends) is about us: it is tried again, and held against no address.
  const isOfCopy = command === "RCPT TO" || command === "DATA" || responseCode === TOO_LARGE;
  if (isOfCopy) gate.answered();
  else gate.say(reply);
  const gaveUp = (isOfCopy && responseCode !== undefined && responseCode >= 500) || tooOld;
  if (isOfCopy && responseCode !== undefined && (gaveUp || copy.attempts === 1)) {
    const { status } = refusalIn(reply);
    const sort = sortOf({ code: responseCode, status, words: reply });
    if (gaveUp || !isForGood(sort))
      await db.transaction((tx) =>
        cameBack(tx, {
          deliveryId: copy.id,
          address: copy.address,
          sort,
          form: t("mail.refusedAtOnce"),
          words: reply,
        }),
      );
  }
  return gaveUp
    ? { id: copy.id, state: "bounced", reply }
    : {
        id: copy.id,
        state: "deferred",
        reply,
        pause: PAUSES[Math.min(copy.attempts - 1, PAUSES.length - 1)] ?? 3600,
      };
}

/** What the relay said, in one line. */
export function oneLine(text: string): string {
  return text.replace(/\s+/g, " ").trim().slice(0, 500);
}
