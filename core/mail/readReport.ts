/** What a delivery report (RFC 3464) says of one recipient. */
export interface DeliveryReport {
  /** Whether delivery has failed for good (status 5.x.x), is delayed (4.x.x), or worked. */
  outcome: "failed" | "delayed" | "other";
  status: string;
  words: string;
}

/** Reads the machine-readable part of a delivery report: RFC 3464, sections 2.3.3 to 2.3.6. */
export function readReport(message: string): DeliveryReport | undefined {
  const status = /^Status:\s*([245])\.(\d{1,3})\.(\d{1,3})/im.exec(message);
  if (status === null) return undefined;
  const words = /^Diagnostic-Code:\s*(?:[\w-]+;\s*)?([^\r\n]*(?:\r?\n[ \t][^\r\n]*)*)/im.exec(message)?.[1]?.replace(/\r?\n[ \t]+/g, " ").trim() ?? "";
  const outcome = status[1] === "5" ? "failed" : status[1] === "4" ? "delayed" : "other";
  return { outcome, status: `${status[1]}.${status[2]}.${status[3]}`, words: words.slice(0, 500) };
}
