import { gunzipSync } from "node:zlib";
import { Parser } from "htmlparser2";
import type { ParsedMail } from "mailparser";
import * as z from "zod";
import type { AggregateReport, ReportRow } from "@amigo/core/mail/reports/report";
import { openArchive } from "@amigo/core/sheet/openArchive";
import { storable } from "./senderIn";

/** How large a report may be when it is unpacked, in octets, and how many rows of it are kept. */
const MOST = 20 * 1024 * 1024;
const MOST_ROWS = 2000;
/** How long a word of a report may be, in signs. */
const LONGEST = 253;

/**
 * Returns the report that a receiver of our mail sends by itself (RFC 7489, section 7.2; RFC 8460), packed or not; undefined
 * where a mail holds none, or none that can be read.
 */
export function readReport({ attachments }: ParsedMail): AggregateReport | undefined {
  for (const { content, contentType, filename = "" } of attachments) {
    if (!MAY_BE.test(contentType) && !/\.(xml|json|gz|zip)$/i.test(filename)) continue;
    const text = unpacked(content)
      ?.toString("utf8")
      .replace(/^\uFEFF/, "")
      .trimStart();
    if (text === undefined) continue;
    const report = text.startsWith("{") ? tlsReport(text) : dmarcReport(text);
    if (report !== undefined) return { ...report, rows: report.rows.slice(0, MOST_ROWS) };
  }
  return undefined;
}

const MAY_BE =
  /^(application\/(gzip|x-gzip|zip|x-zip-compressed|xml|tlsrpt\+(gzip|json))|text\/xml)$/i;

function unpacked(octets: Buffer): Buffer | undefined {
  try {
    if (octets[0] === 0x1f && octets[1] === 0x8b)
      return gunzipSync(octets, { maxOutputLength: MOST });
    if (octets[0] !== 0x50 || octets[1] !== 0x4b) return octets.subarray(0, MOST);
    const opened = openArchive(octets, { unpackedBytes: MOST }, (name) =>
      /\.(xml|json)$/i.test(name),
    );
    const [first] = opened.ok ? Object.values(opened.parts) : [];
    return first === undefined ? undefined : Buffer.from(first);
  } catch {
    // Damaged, or a bomb: then it is a mail like others.
    return undefined;
  }
}

/** An element of XML: its text, and the elements in it. */
interface Element {
  name: string;
  text: string;
  inside: Element[];
}

/** How deep elements may stand in each other, and how many there may be. */
const DEEPEST = 12;
const MOST_ELEMENTS = 200_000;

/** Reads XML as a tree, without entities of its own making. Undefined where it is no such thing or too much of it. */
function treeOf(xml: string): Element | undefined {
  const root: Element = { name: "", text: "", inside: [] };
  const path = [root];
  let count = 0;
  const parser = new Parser(
    {
      onopentag: (name) => {
        const element = { name: name.replace(/^.*:/, "").toLowerCase(), text: "", inside: [] };
        if (++count > MOST_ELEMENTS || path.length > DEEPEST) throw new RangeError("too much");
        path.at(-1)?.inside.push(element);
        path.push(element);
      },
      ontext: (text) => {
        const element = path.at(-1);
        if (element !== undefined && element.text.length < LONGEST * 4) element.text += text;
      },
      onclosetag: () => path.pop(),
    },
    { xmlMode: true, decodeEntities: true },
  );
  try {
    parser.end(xml);
  } catch {
    return undefined;
  }
  return root.inside.find(({ name }) => name === "feedback");
}

const child = (element: Element | undefined, name: string): Element | undefined =>
  element?.inside.find((one) => one.name === name);
const textOf = (element: Element | undefined, ...path: string[]): string =>
  storable(path.reduce(child, element)?.text.trim().slice(0, LONGEST) ?? "");

function dmarcReport(xml: string): AggregateReport | undefined {
  const feedback = treeOf(xml);
  const metadata = child(feedback, "report_metadata");
  const reportId = textOf(metadata, "report_id");
  const domain = textOf(feedback, "policy_published", "domain").toLowerCase();
  const range = child(metadata, "date_range");
  const [begins, ends] = [textOf(range, "begin"), textOf(range, "end")].map(secondsSince);
  if (feedback === undefined || reportId === "" || domain === "") return undefined;
  if (begins === undefined || ends === undefined) return undefined;
  const rows = feedback.inside
    .filter(({ name }) => name === "record")
    .flatMap((record): ReportRow[] => {
      const row = child(record, "row");
      const evaluated = child(row, "policy_evaluated");
      const count = Number(textOf(row, "count"));
      const source = textOf(row, "source_ip");
      if (!Number.isSafeInteger(count) || count < 1 || count > 1e9 || source === "") return [];
      const [dkim, spf] = ["dkim", "spf"].map((of) => /^pass$/i.test(textOf(evaluated, of)));
      const isGood = dkim === true || spf === true;
      return [
        {
          ...{ source, good: isGood ? count : 0, bad: isGood ? 0 : count },
          ...{ dkim: dkim === true, spf: spf === true },
          outcome: textOf(evaluated, "disposition").toLowerCase() || "none",
        },
      ];
    });
  return { kind: "dmarc", reportId, domain, begins, ends, rows };
}

/** A moment given as seconds since 1970; undefined for anything else. */
function secondsSince(text: string): Date | undefined {
  const seconds = Number(text);
  return /^\d{9,11}$/.test(text) ? new Date(seconds * 1000) : undefined;
}

const Count = z.number().int().min(0).max(1e9);
const Words = z.string().transform((text) => storable(text).slice(0, LONGEST));
const Moment = z
  .string()
  .transform((text) => new Date(text))
  .refine((date) => !Number.isNaN(date.getTime()));
const TlsReport = z.object({
  "report-id": Words,
  "date-range": z.object({ "start-datetime": Moment, "end-datetime": Moment }),
  policies: z
    .array(
      z.object({
        policy: z.object({ "policy-domain": Words }),
        summary: z.object({
          "total-successful-session-count": Count,
          "total-failure-session-count": Count,
        }),
        "failure-details": z
          .array(
            z.object({
              "result-type": Words,
              "receiving-mx-hostname": Words.optional(),
              "failed-session-count": Count,
            }),
          )
          .max(MOST_ROWS)
          .default([]),
      }),
    )
    .min(1)
    .max(100),
});

function tlsReport(json: string): AggregateReport | undefined {
  let value: unknown;
  try {
    value = JSON.parse(json);
  } catch {
    return undefined;
  }
  const { data } = TlsReport.safeParse(value);
  const [first] = data?.policies ?? [];
  if (data === undefined || first === undefined) return undefined;
  const domain = first.policy["policy-domain"].toLowerCase();
  return {
    ...{ kind: "tls", reportId: data["report-id"], domain },
    begins: data["date-range"]["start-datetime"],
    ends: data["date-range"]["end-datetime"],
    rows: data.policies.flatMap(({ summary, "failure-details": failures }): ReportRow[] => [
      ...(summary["total-successful-session-count"] === 0
        ? []
        : [tlsRow(domain, summary["total-successful-session-count"], 0, "")]),
      ...failures.map((failure) =>
        tlsRow(
          failure["receiving-mx-hostname"] ?? domain,
          0,
          failure["failed-session-count"],
          failure["result-type"].toLowerCase(),
        ),
      ),
    ]),
  };
}

function tlsRow(source: string, good: number, bad: number, outcome: string): ReportRow {
  return { source, good, bad, dkim: null, spf: null, outcome };
}
