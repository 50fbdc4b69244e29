import type { SplitMessage } from "./splitMessage";

/** What a mail server of our own found out about a mail. */
export interface TrustedResults {
  spf: string;
  /** The domain for which SPF speaks. */
  spfDomain: string;
  dmarc: string;
}

/**
 * Reads what the mail server in front found out about a mail, from the `Authentication-Results` field (RFC 8601) that it put on
 * top: the first with its name, and only if it stands above or right below that server's own trace field, as everything
 * further down came with the mail.
 *
 * @param name by what name that server signs such fields (its authserv-id), in small letters
 * @returns undefined where there is no such field
 */
export function trustedResults({ fields }: SplitMessage, name: string): TrustedResults | undefined {
  if (name === "") return undefined;
  let hops = 0;
  for (const { name: field, raw } of fields) {
    if (field === "received") hops++;
    if (hops > 1) return undefined;
    if (field !== "authentication-results") continue;
    const [id = "", ...results] = partsOf(raw.slice(raw.indexOf(":") + 1));
    if (id.trim().split(/\s/)[0]?.toLowerCase() !== name) continue;
    return {
      spf: resultOf(results, "spf"),
      spfDomain: domainOf(
        propertyOf(results, "spf", "smtp.mailfrom") || propertyOf(results, "spf", "smtp.helo"),
      ),
      dmarc: resultOf(results, "dmarc"),
    };
  }
  return undefined;
}

/** The parts of a field between semicolons, without comments; what is quoted is taken as it is. */
function partsOf(text: string): string[] {
  const parts = [""];
  let depth = 0;
  let isQuoted = false;
  for (let at = 0; at < text.length; at++) {
    const sign = text[at] ?? "";
    const last = parts.length - 1;
    if (sign === "\\" && (isQuoted || depth > 0)) at++;
    else if (isQuoted) {
      if (sign === '"') isQuoted = false;
      else parts[last] += sign;
    } else if (sign === "(") depth++;
    else if (sign === ")") depth = Math.max(0, depth - 1);
    else if (depth > 0) continue;
    else if (sign === '"') isQuoted = true;
    else if (sign === ";") parts.push("");
    else parts[last] += sign;
  }
  return parts;
}

function wordsOf(part: string): string[] {
  return part
    .trim()
    .split(/\s+/)
    .map((word) => word.toLowerCase());
}

function resultOf(results: readonly string[], method: string): string {
  for (const part of results) {
    const [first = ""] = wordsOf(part);
    if (first.startsWith(`${method}=`)) return first.slice(method.length + 1);
  }
  return "";
}

function propertyOf(results: readonly string[], method: string, property: string): string {
  for (const part of results) {
    const [first = "", ...others] = wordsOf(part);
    if (!first.startsWith(`${method}=`)) continue;
    const found = others.find((word) => word.startsWith(`${property}=`));
    if (found !== undefined) return found.slice(property.length + 1);
  }
  return "";
}

function domainOf(address: string): string {
  return address.slice(address.lastIndexOf("@") + 1);
}
