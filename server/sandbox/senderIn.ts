import { canonicalAddress } from "@amigo/core/address/domainName";
import addressparser from "nodemailer/lib/addressparser";
import type { ParsedMail } from "mailparser";
import { fieldValue, type SplitMessage } from "@amigo/core/mail/splitMessage";
import { tidyLine } from "@amigo/core/text/tidy";

/** The longest name and address that are kept, in signs. */
const LONGEST_NAME = 200;
const LONGEST_ADDRESS = 254;

/**
 * Returns the first address of the From line and the name beside it, decoded: encoded words (RFC 2047) and raw UTF-8
 * (RFC 6532). What is encoded never changes which address it is. Both are empty where there is no From line.
 */
export function senderIn(
  split: SplitMessage,
  parsed: ParsedMail,
): { name: string; address: string } {
  const written = utf8Of(fieldValue(split, "from") ?? "");
  const [first] = addressparser(written, { flatten: true });
  const address = canonicalAddress(storable(first?.address ?? ""));
  const decoded = (parsed.from?.value ?? [])
    .flatMap((one) => [one, ...(one.group ?? [])])
    .find((one) => one.address !== undefined && canonicalAddress(one.address) === address);
  const name = decoded?.name ?? "";
  return {
    name: tidyLine(storable(name.includes("\ufffd") || name === "" ? (first?.name ?? "") : name))
      .replace(/[\u0000-\u001f\u007f]/g, "")
      .slice(0, LONGEST_NAME),
    address: address.slice(0, LONGEST_ADDRESS),
  };
}

/** Octets that were read as Latin-1, as the text that they are: UTF-8 where they can be that. */
function utf8Of(latin1: string): string {
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(Buffer.from(latin1, "latin1"));
  } catch {
    return latin1;
  }
}

/** Text as the database can keep it: without NUL. */
export function storable(text: string): string {
  return text.replace(/\u0000/g, " ");
}
