import { fieldValue } from "@amigo/core/mail/splitMessage";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../events/record";
import { copyOfLeaveToken } from "../posting/leaveToken";
import { t } from "../texts/t";
import { cancelCopiesTo, findCopyById, storeBounce, storeTrouble } from "./bounceQueries";
import type { Taken } from "./incomingMail";

/** How much of a report is looked at, in octets. */
const LOOKED_AT = 512 * 1024;
const LEAVE_LINK = /\/leave\/([\w-]{1,20}\.[\w-]{22})(?![\w-])/g;

/**
 * Takes a report that somebody has marked a copy as unwanted (RFC 5965): mail to their address stops, so that they are not sent
 * what they complain about, until a coordinator or they themselves say otherwise. The copy is known by its leave link, which
 * nobody has but whoever got it; a report without one stops nothing.
 *
 * @returns whose copy it was; undefined where it is no such report, or says of no copy
 */
export async function takeComplaint(
  tx: Queries,
  { split, mail, leaveKey }: Pick<Taken, "split" | "mail" | "leaveKey">,
): Promise<string | undefined> {
  const type = fieldValue(split, "content-type") ?? "";
  if (!/^multipart\/report\b/i.test(type) || !/report-type\s*=\s*"?feedback-report/i.test(type))
    return undefined;
  const text = mail.raw
    .subarray(0, LOOKED_AT)
    .toString("latin1")
    .replace(/=\r\n/g, "")
    .replace(/\r\n[ \t]+/g, "");
  for (const [, token = ""] of text.matchAll(LEAVE_LINK)) {
    const id = copyOfLeaveToken(leaveKey, token);
    const copy = id === undefined ? undefined : await findCopyById(tx, id);
    if (copy === undefined) continue;
    const { address } = copy;
    const words = t("mail.markedAsUnwanted");
    await storeBounce(tx, copy.id, address, "unwanted", t("mail.complaint"), words);
    await storeTrouble(tx, address, true, "unwanted", words);
    await cancelCopiesTo(tx, address);
    await record(tx, {
      actor: "Amigo",
      action: "address stopped",
      sentence: () => t("mail.mailToHasStopped", { address, words }),
    });
    await notify(tx, "board", "posts", "people");
    return address;
  }
  return undefined;
}
