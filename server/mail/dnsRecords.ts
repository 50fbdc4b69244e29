import { isIP } from "node:net";
import type { Context } from "../context";
import type { MailHouse } from "@amigo/contract/mail";
import type { MailKeyRow } from "./mailKeyQueries";
import { t } from "../texts/t";

type DnsRecord = MailHouse["records"][number];
type Ask = (name: string, type: string) => Promise<string[]>;

const WHY_KEY = {
  signing: () => t("mail.theKeyByWhichReceivers"),
  waiting: () => t("mail.theKeyThatWillSign"),
  retired: () => t("mail.theKeyThatHasSigned"),
};

/** Returns the name under which a key that signs mail stands in the DNS (RFC 6376, section 3.6.2.1). */
export function keyRecordName(selector: string, listDomain: string): string {
  return `${selector}._domainkey.${listDomain}`;
}

/** The records that the list domain needs, each with why, and what the DNS says of it now. */
export async function dnsRecords(
  { resolver, settings }: Pick<Context, "resolver" | "settings">,
  listDomain: string,
  keys: readonly Pick<MailKeyRow, "selector" | "record" | "state">[],
): Promise<DnsRecord[]> {
  const host = new URL(settings.url).hostname;
  const relay = new URL(settings.relay).hostname;
  const ask: Ask = async (name, type) => {
    const late = new Promise<never>((_, reject) => {
      setTimeout(() => reject(new Error("no answer")), 3000).unref();
    });
    const found = (await Promise.race([resolver(name, type), late]).catch(() => [])) as unknown[];
    return found.map((entry) =>
      Array.isArray(entry)
        ? entry.join("")
        : typeof entry === "object" && entry !== null && "exchange" in entry
          ? String(entry.exchange)
          : String(entry),
    );
  };
  const record = async (
    name: string,
    type: string,
    value: string,
    why: string,
    isRight: (found: string) => boolean,
    isSame: (found: string) => boolean = () => true,
  ): Promise<DnsRecord> => {
    const found = (await ask(name, type)).filter(isSame);
    return {
      name,
      type,
      value,
      why,
      state: found.length === 0 ? "missing" : found.some(isRight) ? "there" : "other",
      found: found.join(" | ").slice(0, 500),
    };
  };
  return Promise.all([
    record(
      listDomain,
      "MX",
      `10 ${host}.`,
      t("mail.mailForTheListsComes"),
      (found) => found.toLowerCase().replace(/\.$/, "") === host,
    ),
    record(
      listDomain,
      "TXT",
      `v=spf1 ${isIP(relay) === 4 ? "ip4" : isIP(relay) === 6 ? "ip6" : "a"}:${relay} -all`,
      t("mail.saysThatTheRelayMay"),
      (found) => found.startsWith("v=spf1 "),
      (found) => found.startsWith("v=spf1"),
    ),
    ...keys.map(({ selector, record: value, state }) => {
      const key = /p=([\w+/=]+)/.exec(value)?.[1] ?? "";
      return record(keyRecordName(selector, listDomain), "TXT", value, WHY_KEY[state](), (found) =>
        found.replace(/\s+/g, "").includes(key),
      );
    }),
    record(
      `_dmarc.${listDomain}`,
      "TXT",
      `v=DMARC1; p=quarantine; rua=mailto:postmaster@${listDomain}`,
      t("mail.saysWhatToDoWith"),
      (found) => found.startsWith("v=DMARC1"),
    ),
    record(`_mta-sts.${listDomain}`, "TXT", "v=STSv1; id=1", t("mail.saysThatMailToYou"), (found) =>
      found.startsWith("v=STSv1"),
    ),
    record(
      `_smtp._tls.${listDomain}`,
      "TXT",
      `v=TLSRPTv1; rua=mailto:postmaster@${listDomain}`,
      t("mail.asksForReportsOnTls"),
      (found) => found.startsWith("v=TLSRPTv1"),
    ),
  ]);
}
