import * as z from "zod";

/** What a spam filter says of a mail. */
export type FilterResult =
  | { outcome: "clean" }
  | { outcome: "marked" }
  | { outcome: "refused"; why: string }
  | { outcome: "later"; why: string }
  | { outcome: "failed"; why: string };

/** How long the filter may take, in milliseconds. */
const PATIENCE = 20_000;
const LONGEST_ANSWER = 1_000_000;

/** What the filter answers: what it would have a mail server do. */
const Answered = z.object({
  action: z.string(),
  messages: z.object({ smtp_message: z.string().optional() }).optional(),
});

/**
 * Asks a spam filter about a mail by its HTTP protocol: the whole mail goes to `/checkv2`, what is known of its way stands in the header
 * of the request.
 *
 * @param url where the filter listens
 */
export async function askSpamFilter(
  url: string,
  raw: Uint8Array,
  mail: { ip: string; helo: string; returnPath: string; recipients: readonly string[] },
): Promise<FilterResult> {
  try {
    const response = await fetch(new URL("/checkv2", url), {
      method: "POST",
      body: new Uint8Array(raw),
      headers: [
        ["Content-Type", "message/rfc822"],
        ["IP", headerOf(mail.ip)],
        ["Helo", headerOf(mail.helo)],
        ["From", headerOf(mail.returnPath)],
        ...mail.recipients.map((recipient): [string, string] => ["Rcpt", headerOf(recipient)]),
      ],
      redirect: "error",
      signal: AbortSignal.timeout(PATIENCE),
    });
    if (!response.ok) return { outcome: "failed", why: `it answered ${response.status}` };
    const { action, messages } = Answered.parse(
      JSON.parse((await response.text()).slice(0, LONGEST_ANSWER)),
    );
    const why = messages?.smtp_message ?? "";
    if (action === "reject") return { outcome: "refused", why };
    if (action === "soft reject" || action === "greylist") return { outcome: "later", why };
    return action === "no action" ? { outcome: "clean" } : { outcome: "marked" };
  } catch (failure) {
    return { outcome: "failed", why: failure instanceof Error ? failure.message : String(failure) };
  }
}

function headerOf(text: string): string {
  return text.replace(/[^\x20-\x7e]/g, "").slice(0, 500);
}
