import { message, type Message } from "@amigo/language/message";
import type { ReportRow } from "./report";

/** What mail from one machine is, by what receivers found. */
export type SourceKind = "ours" | "handed on" | "unsigned" | "unknown";

/** Returns what mail from a machine is, by whether its signatures were good and the SPF record names the machine. */
export function kindOfSource({ dkim, spf }: Pick<ReportRow, "dkim" | "spf">): SourceKind {
  if (dkim === true) return spf === true ? "ours" : "handed on";
  return spf === true ? "unsigned" : "unknown";
}

const BY_KIND: Record<SourceKind, Message> = {
  ours: message("mail.reportOurs"),
  "handed on": message("mail.reportHandedOn"),
  unsigned: message("mail.reportUnsigned"),
  unknown: message("mail.reportUnknown"),
};

/** What mail from such a machine means, and what to do. */
export function adviceOnSource(kind: SourceKind): Message {
  return BY_KIND[kind];
}

/** What to do about a session that was not encrypted as it should be, by the registry's words (RFC 8460, section 4.3). */
const BY_PROBLEM: readonly [RegExp, Message][] = [
  [/^starttls-not-supported$/, message("mail.reportNoStartTls")],
  [/^certificate-expired$/, message("mail.reportCertificateExpired")],
  [/^certificate-host-mismatch$/, message("mail.reportCertificateName")],
  [/^certificate-not-trusted$/, message("mail.reportCertificateNotTrusted")],
  [/^sts-/, message("mail.reportPolicy")],
  [/^(tlsa-invalid|dnssec-invalid|dane-required)$/, message("mail.reportDane")],
];

/** What to do about a problem with encryption that a receiver names. */
export function adviceOnProblem(problem: string): Message {
  return BY_PROBLEM.find(([words]) => words.test(problem))?.[1] ?? message("mail.reportOther");
}
