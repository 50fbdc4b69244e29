import { parseMail } from "./parseMail";
import { safeName } from "./safeName";

/** One attachment of a message by its place among them; undefined where there is none. */
export async function attachmentOf({
  raw,
  index,
}: {
  raw: Uint8Array;
  index: number;
}): Promise<{ name: string; type: string; content: Uint8Array } | undefined> {
  const parsed = await parseMail(raw);
  const found = parsed.attachments[index];
  return found === undefined
    ? undefined
    : { name: safeName(found.filename, index), type: found.contentType, content: found.content };
}
