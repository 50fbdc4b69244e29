import { sandbox } from "../sandbox/sandbox";
import type { MessageRead } from "../sandbox/readMail";

export type { MessageRead };

/** Reads of a stored or composed message what the rules ask about: its size, what is attached, whether a filter has marked it. */
export async function readMessage(raw: Buffer): Promise<MessageRead> {
  return (await sandbox.run("readMail", { raw })).about;
}

/** How much of a held mail's text is shown to whoever decides, in signs. */
export const BEGINNING = 600;
