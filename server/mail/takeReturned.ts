import { eq } from "drizzle-orm";
import { simpleParser } from "mailparser";
import { sortBounce } from "@amigo/core/mail/bounces/sortBounce";
import type { Queries } from "../db/connect";
import { delivery } from "../db/schema";
import { notify } from "../events/events";
import type { Taken } from "./incoming";
import { cameBack } from "./trouble";

/**
 * A mail that comes to the return path of one copy (VERP) is about that copy, whatever it says: it is sorted, the copy is
 * marked where it has failed for good, and the address is held to account as far as it is the address that fails.
 */
export async function takeReturned(
  tx: Queries,
  token: string,
  { mail, split, about }: Taken,
): Promise<void> {
  const [copy] = await tx
    .select({ id: delivery.id, address: delivery.address })
    .from(delivery)
    .where(eq(delivery.token, token));
  if (copy === undefined) return;
  const read = sortBounce({
    split,
    returnPath: mail.returnPath,
    subject: about.subject,
    text: about.text,
    report: (await reportOf(mail.raw)) || (WRITTEN_OUT.test(about.text) ? about.text : ""),
  });
  if (read.sort !== "not a bounce" && read.sort !== "temporary")
    await tx
      .update(delivery)
      .set({ state: "bounced", reply: read.words })
      .where(eq(delivery.id, copy.id));
  await cameBack(tx, {
    deliveryId: copy.id,
    address: copy.address,
    sort: read.sort,
    form: read.form,
    words: read.words,
  });
  await notify(tx, "posts");
}

/** Some systems write the fields of a report into plain text. */
const WRITTEN_OUT =
  /^(?=[^]*^Status:\s*[245]\.\d)(?=[^]*^(?:Final-Recipient|Action|Diagnostic-Code):)/im;

/** The machine-readable part of a delivery report (RFC 3464, RFC 6533), decoded; empty where there is none. */
async function reportOf(raw: Buffer): Promise<string> {
  const parsed = await simpleParser(raw, {
    skipTextToHtml: true,
    skipHtmlToText: true,
    skipImageLinks: true,
  });
  const found = parsed.attachments.find(({ contentType }) =>
    /^message\/(global-)?delivery-status$/i.test(contentType),
  );
  return found === undefined
    ? ""
    : found.content
        .toString("utf8")
        .replace(/\u0000/g, " ")
        .slice(0, 100_000);
}
