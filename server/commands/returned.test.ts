import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, describe, expect, test } from "vitest";
import { returnedCommand } from "./returned";

const folder = mkdtempSync(join(tmpdir(), "amigo-returned-"));
afterAll(() => rmSync(folder, { recursive: true }));

function kept(name: string, lines: readonly string[]): string {
  const path = join(folder, name);
  writeFileSync(path, lines.join("\r\n"));
  return path;
}
const multipart = (text: string, action: string, status: string, diagnostic: string): string[] => [
  "From: MAILER-DAEMON@mx.brightpost.example",
  "Subject: =?utf-8?Q?Unzustellbar=3A_Probe?=",
  "Auto-Submitted: auto-replied",
  'Content-Type: multipart/report; report-type=delivery-status; boundary="b"',
  "",
  "--b",
  "Content-Type: text/plain; charset=utf-8",
  "Content-Transfer-Encoding: 8bit",
  "",
  text,
  "--b",
  "Content-Type: message/delivery-status",
  "",
  "Reporting-MTA: dns; mx.brightpost.example",
  "",
  "Final-Recipient: rfc822; Halim.Brandt@oakmail.example",
  `Action: ${action}`,
  `Status: ${status}`,
  `Diagnostic-Code: ${diagnostic}`,
  "",
  "--b--",
  "",
];

describe("returned mails at the command line", () => {
  test("are each sorted, with what it means for the address", async () => {
    const smtp = "smtp; 550 5.7.1 no such user halim.brandt@oakmail.example";
    const files = [
      kept("gone.eml", multipart("Die Adresse gibt es nicht.", "failed", "5.7.1", smtp)),
      kept("late.eml", multipart("Es dauert noch.", "delayed", "4.4.1", "smtp; timed out")),
      kept("tried.eml", multipart("Fünf Tage versucht.", "failed", "4.4.1", "smtp; timed out")),
      kept("away.eml", [
        "From: Halim Brandt <halim@oakmail.example>",
        "Subject: Out of office",
        "",
        "I am away. The mailbox is full of letters.",
      ]),
    ];
    const answer = await returnedCommand(files, { json: true });
    if (!answer.ok) throw new Error(answer.sentence);
    expect(JSON.parse(answer.text)).toMatchObject([
      {
        ...{ file: "gone.eml", bounce: true, kind: "no mailbox", effect: "stops the address" },
        recipient: "halim.brandt@oakmail.example",
      },
      { file: "late.eml", bounce: false, kind: "not a bounce", effect: "none" },
      {
        ...{ file: "tried.eml", bounce: true, kind: "temporary" },
        effect: "counts against the address",
      },
      { file: "away.eml", bounce: false, kind: "not a bounce", effect: "none" },
    ]);
    const plain = await returnedCommand(files.slice(0, 1));
    expect(plain.ok && plain.text).toMatch(/^gone\.eml: no mailbox \(stops the address\)\. 550/);
  });

  test("that can't be read are named", async () => {
    expect(await returnedCommand([join(folder, "nowhere.eml")])).toMatchObject({
      ok: false,
      sentence: expect.stringContaining("nowhere.eml"),
    });
  });
});
