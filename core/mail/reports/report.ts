/** Of one machine, what a receiver saw of mail that named our domain. */
export interface ReportRow {
  /** The network address that sent it, or the name of the mail server that it was to go to. */
  source: string;
  /** How many mails (or, of a TLS report, sessions) were right and how many not. */
  good: number;
  bad: number;
  /** Whether the signature was good for our domain, and whether the SPF record names the machine; null in a TLS report. */
  dkim: boolean | null;
  spf: boolean | null;
  /** What was done with the mail (`none`, `quarantine`, `reject`), or what was wrong with the session (RFC 8460, section 4.3). */
  outcome: string;
}

/** A report that a receiver of our mail sends by itself: on proofs of mail (RFC 7489, section 7.2) or on encryption (RFC 8460). */
export interface AggregateReport {
  kind: "dmarc" | "tls";
  /** What its sender calls it. */
  reportId: string;
  domain: string;
  begins: Date;
  ends: Date;
  rows: ReportRow[];
}
