import fc from "fast-check";
import { simpleParser } from "mailparser";
import { describe, expect, test } from "vitest";
import { composeAlike, type OneAlike } from "./composeAlike";
import { composeMail } from "./composeMail";
import { filledHeader, openMold, type OpenMold, type SheetCopy } from "./noteSheet";

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

/** Returns the whole mail for one recipient, as octets. */
function fillMold(mold: OpenMold, copy: SheetCopy): Buffer {
  return Buffer.from(`${filledHeader(mold.header, copy)}${mold.body(copy)}`, "latin1");
}
const MARKS = { tokenMark: "tokenmark", addressMark: "addressmark" };

/** The mails as they go out, one for each recipient. */
async function written(
  method: "REQUEST" | "CANCEL",
  alike: { text: string; calendar: string | undefined },
  each: readonly OneAlike[],
): Promise<{ address: string; messageId: string; raw: Buffer }[]> {
  const { sheet, notes } = await composeAlike(SHARED, method, { ...alike, ...MARKS }, each);
  const mold = sheet === undefined ? undefined : openMold(sheet.mold);
  return each.map((one, at) => {
    const messageId = `<${at}@lists.copperwheel.example>`;
    const note = notes.find((made) => made.address === one.address);
    if (note !== undefined) return note;
    const raw = mold === undefined ? Buffer.of() : fillMold(mold, { ...one, messageId });
    return { address: one.address, messageId, raw };
  });
}

describe("mails that are alike", () => {
  test("have in them what each would have that is written by itself", async () => {
    const marked = fc.tuple(text, text).map(([before, after]) => `${before} tokenmark ${after}`);
    const calendars = marked.map(
      (words) =>
        `BEGIN:VCALENDAR\r\nATTENDEE:mailto:addressmark\r\nX:${words.replaceAll("\n", "\r\nX:")}\r\n`,
    );
    const one = fc.record({ address, token: fc.stringMatching(/^[a-z0-9]{10,40}$/) });
    const all = fc.uniqueArray(one, { minLength: 1, selector: (each) => each.address });
    await fc.assert(
      fc.asyncProperty(marked, calendars, all, async (words, calendar, each) => {
        const mails = await written("REQUEST", { text: words, calendar }, each);
        for (const [at, { address: to, token }] of each.entries()) {
          const { raw } = await composeMail({
            ...SHARED,
            to: [{ name: "", address: to }],
            text: words.replaceAll("tokenmark", token),
            calendar: {
              method: "REQUEST",
              content: unfolded(
                calendar.replaceAll("tokenmark", token).replaceAll("addressmark", to),
              ),
            },
          });
          const mail = mails[at];
          const got = await whatIsIn(mail?.raw ?? Buffer.of());
          expect({
            ...got,
            parts: got.parts.map((part) =>
              part.map((it) => (it === undefined ? it : unfolded(it))),
            ),
          }).toEqual(await whatIsIn(raw));
          expect(mail?.raw.toString("latin1")).toContain(mail?.messageId);
        }
      }),
      { numRuns: 60 },
    );
  });

  test("keep to the lengths of lines that mail allows (RFC 2045, section 6.7; RFC 5322, section 2.1.1)", async () => {
    const words = `${"Ein ziemlich langer Satz über das Fest. ".repeat(20)}\n.\nFrom here on.`;
    const [mail] = await written("CANCEL", { text: words, calendar: words }, [
      { address: "oak@oakmail.example", token: "secret" },
    ]);
    const lines = mail?.raw.toString("latin1").split("\r\n") ?? [];
    expect(Math.max(...lines.map(({ length }) => length))).toBeLessThanOrEqual(78);
    expect(mail?.raw.toString("latin1")).not.toMatch(/[^\r]\n|[^\x20-\x7e\r\n\t]/);
  });

  test("without a date have none", async () => {
    const [mail] = await written("REQUEST", { text: "Reminder", calendar: undefined }, [
      { address: "oak@oakmail.example", token: "" },
    ]);
    const got = await whatIsIn(mail?.raw ?? Buffer.of());
    expect([got.text.trim(), got.parts]).toEqual(["Reminder", []]);
  });

  test("are kept once, without anybody's address or secret", async () => {
    const each = ["oak", "elm"].map((name) => ({
      ...{ address: `${name}@oakmail.example`, token: `secret-of-${name}` },
    }));
    const alike = { text: "tokenmark", calendar: "A:addressmark", ...MARKS };
    const { sheet, notes } = await composeAlike(SHARED, "REQUEST", alike, each);
    expect(notes).toEqual([]);
    expect(sheet?.each).toEqual(each);
    const kept = JSON.stringify(sheet?.mold) + (sheet?.raw.toString("latin1") ?? "");
    expect(kept).not.toMatch(/oak@|elm@|secret-of/);
  });
});

/** Lines of a calendar as they are without folds. */
function unfolded(text: string): string {
  return text.replace(/\r\n /g, "");
}
