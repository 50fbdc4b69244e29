import fc from "fast-check";
import { simpleParser } from "mailparser";
import { describe, expect, test } from "vitest";
import { composeAlike } from "./composeAlike";
import { composeMail } from "./composeMail";

const SHARED = {
  from: { name: "Trapeze Two, guardians", address: "trapeze@lists.copperwheel.example" },
  subject: "Invitation: Frühlingsfest, 10 Dec 2026, 18:00 to 19:30",
  domain: "lists.copperwheel.example",
  replyTo: "trapeze+leads@lists.copperwheel.example",
  automatic: { inReplyTo: undefined },
};
const text = fc
  .array(fc.string({ unit: "grapheme", maxLength: 120 }), { maxLength: 6 })
  .map((lines) => lines.map((line) => line.replace(/[\r\n\p{Cc}\p{Cs}]/gu, "")).join("\n"));
const address = fc.constantFrom(
  "oak@oakmail.example",
  "robin.oak+school@mailhaven.example",
  `${"long".repeat(15)}@brightpost.example`,
  "o'neil@lettr.example",
);

async function whatIsIn(raw: Buffer) {
  const mail = await simpleParser(raw);
  return {
    to: mail.to,
    from: mail.from?.text,
    subject: mail.subject,
    replyTo: mail.replyTo?.text,
    // A text may end in a line break or not, by how it is encoded; an empty one may be none.
    text: (mail.text ?? "").trimEnd(),
    automatic: mail.headers.get("auto-submitted"),
    parts: mail.attachments.map(({ contentType, filename, content }) => [
      contentType,
      filename,
      content.toString("utf8"),
    ]),
  };
}

describe("mails that are alike", () => {
  test("have in them what each would have that is written by itself", async () => {
    const calendars = text.map((words) => `BEGIN:VCALENDAR\r\n${words.replaceAll("\n", "\r\n")}`);
    const one = fc.record({ address, text, calendar: calendars });
    await fc.assert(
      fc.asyncProperty(fc.array(one, { minLength: 1, maxLength: 4 }), async (each) => {
        const alike = await composeAlike(SHARED, "REQUEST", each);
        expect(alike.map((note) => note.address)).toEqual(each.map((mail) => mail.address));
        expect(new Set(alike.map(({ messageId }) => messageId)).size).toBe(each.length);
        for (const [at, { address: to, text: words, calendar }] of each.entries()) {
          const { raw } = await composeMail({
            ...SHARED,
            to: [{ name: "", address: to }],
            text: words,
            calendar: { method: "REQUEST", content: calendar },
          });
          const note = alike[at];
          const got = await whatIsIn(note?.raw ?? Buffer.from(""));
          const wanted = await whatIsIn(raw);
          expect(got).toEqual(wanted);
          expect(note?.raw.toString("latin1")).toContain(note?.messageId);
        }
      }),
      { numRuns: 60 },
    );
  });

  test("keep to the lengths of lines that mail allows (RFC 2045, section 6.7; RFC 5322, section 2.1.1)", async () => {
    const words = `${"Ein ziemlich langer Satz über das Fest. ".repeat(20)}\n.\nFrom here on.`;
    const [note] = await composeAlike(SHARED, "CANCEL", [
      { address: "oak@oakmail.example", text: words, calendar: words },
    ]);
    const lines = note?.raw.toString("latin1").split("\r\n") ?? [];
    expect(Math.max(...lines.map(({ length }) => length))).toBeLessThanOrEqual(78);
    expect(note?.raw.toString("latin1")).not.toMatch(/[^\r]\n|[^\x20-\x7e\r\n\t]/);
  });

  test("without a date have none", async () => {
    const [note] = await composeAlike(SHARED, "REQUEST", [
      { address: "oak@oakmail.example", text: "Reminder" },
    ]);
    const mail = await whatIsIn(note?.raw ?? Buffer.from(""));
    expect([mail.text?.trim(), mail.parts]).toEqual(["Reminder", []]);
  });
});
