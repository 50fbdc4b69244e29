import { sandbox, SandboxEnded } from "../sandbox/sandbox";
import type { ShownMessage } from "../sandbox/showMail";
import { t } from "../texts/t";

/** Reads a stored message for showing it. One that can't be read within its time shows that instead of its text. */
export async function showMessage(raw: Buffer): Promise<ShownMessage> {
  try {
    return await sandbox.run("showMail", raw);
  } catch (failure) {
    if (!(failure instanceof SandboxEnded)) throw failure;
    return { text: t("posting.thisMailIsPutTogether"), html: "", attachments: [] };
  }
}

/** One attachment of a stored message. */
export async function attachmentOf(
  raw: Buffer,
  index: number,
): Promise<{ name: string; type: string; content: Uint8Array } | undefined> {
  try {
    return await sandbox.run("attachmentOf", { raw, index });
  } catch (failure) {
    if (failure instanceof SandboxEnded) return undefined;
    throw failure;
  }
}
