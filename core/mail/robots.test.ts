import { describe, expect, test } from "vitest";
import { spoken } from "../testing/spoken";
import { robotReason } from "./robots";
import { splitMessage } from "./splitMessage";

const DOMAIN = "lists.copperwheel.example";
const spokenReason = spoken(robotReason);
const reason = (
  header: string,
  returnPath = "una@lettr.example",
  subject = "Shoes",
): string | undefined =>
  spokenReason(
    splitMessage(new TextEncoder().encode(`From: una@lettr.example\r\n${header}\r\n\r\n`)),
    returnPath,
    DOMAIN,
    subject,
  );

const REPORT = "it is a report, whoever sent it";
const BULK = "it is bulk mail";
const ANSWER = "it is an automatic answer";
const MACHINE = "it was sent automatically, not by a person";

describe("what never reaches a list, and why", () => {
  test.each([
    ["Auto-Submitted: auto-replied", MACHINE],
    ["Auto-Submitted: auto-generated; type=no", MACHINE],
    ["Auto-Submitted: nothing", MACHINE],
    ["List-Id: Wire <wire.Lists.Copperwheel.Example>", "it already went through one of our lists"],
    ["Content-Type: multipart/report; report-type=delivery-status", REPORT],
    ["Content-Type: Message/Global-Delivery-Status", REPORT],
    ["Content-Type: message/delivery-status", REPORT],
    ["Content-Type: message/feedback-report", REPORT],
    ["Content-Type: message/disposition-notification", "it is a read receipt"],
    ["Content-Type: message/global-disposition-notification", "it is a read receipt"],
    [
      "Content-Type: multipart/report; report-type=disposition-notification",
      "it is a read receipt",
    ],
    ["Precedence: bulk", BULK],
    ["Precedence: junk", BULK],
    ["Precedence: List", BULK],
    ["Precedence: auto_reply", BULK],
    ["X-Autoreply: yes", ANSWER],
    ["X-Autorespond: yes", ANSWER],
    ["X-Autoresponder: yes", ANSWER],
    ["X-Mail-Autoreply: yes", ANSWER],
    ["X-Autoreply-From: una@lettr.example", ANSWER],
    ["X-Auto-Response-Suppress: All", ANSWER],
  ])("%s", (header, why) => expect(reason(header)).toBe(why));

  test("a mail without a return path is a report of its delivery", () => {
    expect(reason("X-Other: x", "")).toBe("it is a delivery report: its return path is empty");
  });

  test("a subject that programs write counts more in an answer", () => {
    const subject = "Abwesend: Ida";
    expect(reason("X-Other: x", undefined, subject)).toBeUndefined();
    for (const header of ["In-Reply-To: <1@x>", "References: <1@x>"])
      expect(reason(header, undefined, subject), header).toBe(ANSWER);
    expect(reason("X-Other: x", undefined, "Automatic reply: Shoes")).toBe(ANSWER);
  });

  test.each([
    "Auto-Submitted: no",
    "Auto-Submitted: No (a person)",
    "Content-Type: text/plain; x=multipart/report",
    "Content-Type: multipart/mixed",
    "List-Id: <choir.lists.other.example>",
    "Precedence: first-class",
    "Precedence: not-bulk",
    "X-Auto-Response-Suppress:",
    "X-Auto-Response-Suppress: None",
    "X-Other: x",
  ])("a person's mail is not: %s", (header) => expect(reason(header)).toBeUndefined());
});
