import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { say } from "@amigo/language/say";
import { copyHeader } from "./copyHeader";
import { displayName, headerText } from "./headerText";
import { parseListAddress } from "./listAddress";
import { returnNote as returnNoteUnsaid } from "./returnNote";
import { robotReason as robotReasonUnsaid } from "./robots";
import { fieldValue, splitMessage } from "./splitMessage";
import { spoken } from "../testing/spoken";

const returnNote = spoken(returnNoteUnsaid);
const robotReason = spoken(robotReasonUnsaid);

const bytes = (text: string): Uint8Array => Uint8Array.from(text, (sign) => sign.charCodeAt(0));
const LIST = {
  name: "ml-wire-parents-2627",
  domain: "lists.copperwheel.example",
  title: "Wire Walk, guardians",
  rules: { writers: "leads and helpers", from: "writer", replies: "writer" },
};
const ENVELOPE = {
  say,
  from: { name: "Juno Abara", address: "juno.abara@copperwheel.example" },
  leaveUrl: "https://amigo.copperwheel.example/leave/t",
  oneClick: true,
  toLeads: false,
};

describe("a message taken apart", () => {
  test.each([["\r\n"], ["\n"]])("keeps folded fields whole and finds the body (%j)", (end) => {
    const raw = ["Subject: one", " two", "X-Empty:", "From: a@b.example", "", "body", ""].join(end);
    const split = splitMessage(bytes(raw));
    expect(split.fields.map(({ name }) => name)).toEqual(["subject", "x-empty", "from"]);
    expect(fieldValue(split, "subject")).toBe("one two");
    expect(raw.slice(split.bodyAt)).toBe(`body${end}`);
  });

  test("without a body is all header", () => {
    expect(splitMessage(bytes("Subject: x")).bodyAt).toBe(10);
  });

  test("never fails, whatever comes in", () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), (raw) => {
        const split = splitMessage(raw);
        expect(split.bodyAt).toBeLessThanOrEqual(raw.length);
        copyHeader(split, LIST, ENVELOPE);
      }),
    );
  });
});

describe("the header of a copy", () => {
  const original = splitMessage(
    bytes(
      "Received: from x\r\nFrom: J <juno@x.example>\r\nTo: a@b.example, c@d.example\r\nCc: e@f.example\r\nBcc: g@h.example\r\nReply-To: z@z.example\r\nSubject: =?utf-8?Q?Gr=C3=BC=C3=9Fe?=\r\nMessage-ID: <1@x>\r\nDKIM-Signature: v=1\r\nContent-Type: multipart/mixed;\r\n boundary=b\r\nDisposition-Notification-To: j@x.example\r\n\r\nbody",
    ),
  );
  const header = copyHeader(original, LIST, ENVELOPE);

  test("says how to leave in the copies of members, and not in those of the leads", () => {
    expect(header).toContain(
      "List-Unsubscribe: <https://amigo.copperwheel.example/leave/t>, <mailto:ml-wire-parents-2627+leave@lists.copperwheel.example>\r\n",
    );
    expect(copyHeader(original, LIST, { ...ENVELOPE, toLeads: true })).not.toContain(
      "List-Unsubscribe",
    );
  });

  test("names the list, carries the content and drops every trace of others", () => {
    expect(header).toContain(
      'To: "Wire Walk, guardians" <ml-wire-parents-2627@lists.copperwheel.example>\r\n',
    );
    expect(header).toContain("Content-Type: multipart/mixed;\r\n boundary=b\r\n");
    expect(header).toContain("Subject: =?utf-8?Q?Gr=C3=BC=C3=9Fe?=\r\n");
    expect(header.endsWith("\r\n\r\n")).toBe(true);
    expect(header).not.toMatch(/a@b|c@d|e@f|g@h|z@z|Received|DKIM|Disposition-Notification/);
  });

  test("says NO to posting on an announcement list (RFC 2369, section 3.4), and the address on an open one", () => {
    expect(header).toMatch(/^List-Post: NO/m);
    expect(
      copyHeader(original, LIST, { ...ENVELOPE, leaveUrl: undefined, oneClick: true }),
    ).toMatch(
      /^List-Unsubscribe: <mailto:ml-wire-parents-2627\+leave@lists\.copperwheel\.example>\r\n(?!List-Unsubscribe-Post)/m,
    );
    expect(
      copyHeader(original, LIST, { ...ENVELOPE, leaveUrl: undefined, oneClick: false }),
    ).not.toContain("List-Unsubscribe");
    expect(
      copyHeader(original, { ...LIST, rules: { ...LIST.rules, writers: "members" } }, ENVELOPE),
    ).toContain("List-Post: <mailto:ml-wire-parents-2627@lists.copperwheel.example>");
  });

  test("holds one line for each field, whatever a writer or a list is called", () => {
    fc.assert(
      fc.property(
        fc.string({ unit: "grapheme" }),
        fc.string({ unit: "grapheme" }),
        (name, title) => {
          const made = copyHeader(
            original,
            { ...LIST, title },
            { ...ENVELOPE, from: { name: `${name}\r\nBcc: x@y.example`, address: "w@x.example" } },
          );
          const fields = made
            .replace(/\r\n /g, " ")
            .split("\r\n")
            .filter((line) => line !== "");
          expect(fields.every((line) => /^[A-Za-z-]+: ?/.test(line))).toBe(true);
          expect(fields.some((line) => /^bcc:/i.test(line))).toBe(false);
          expect(made).toMatch(/^[\x00-\x7f]*$/);
        },
      ),
    );
  });
});

describe("header text", () => {
  test.each([
    ["plain", "plain"],
    ["a\r\nBcc: b", "a Bcc: b"],
    ["Grüße", "=?utf-8?B?R3LDvMOfZQ==?="],
  ])("%j", (text, wanted) => expect(headerText(text)).toBe(wanted));
  test.each([
    ["Juno Abara", "Juno Abara"],
    ['Abara, "J"', '"Abara, \\"J\\""'],
    ["Éloïse", "=?utf-8?B?w4lsb8Ovc2U=?="],
  ])("display name %j", (text, wanted) => expect(displayName(text)).toBe(wanted));
  test("encoded words stay within 75 signs (RFC 2047, section 2)", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme", minLength: 1, maxLength: 300 }), (text) => {
        for (const word of headerText(`é${text}`).split("\r\n "))
          expect(word.length).toBeLessThanOrEqual(75);
      }),
    );
  });
});

describe("addresses at the list domain", () => {
  test.each([
    ["Trap2@LISTS.copperwheel.example", { kind: "list", list: "trap2" }],
    [
      "trap2+b.abcdef0123456789@lists.copperwheel.example",
      { kind: "return", list: "trap2", token: "abcdef0123456789" },
    ],
    ["postmaster@lists.copperwheel.example", { kind: "house", mailbox: "postmaster" }],
    ["trap2@copperwheel.example", undefined],
    ["trap2+moon@lists.copperwheel.example", undefined],
    ["@lists.copperwheel.example", undefined],
  ])("%s", (address, wanted) =>
    expect(parseListAddress(address, "lists.copperwheel.example")).toEqual(wanted),
  );
});

describe("robots", () => {
  const reason = (header: string, returnPath = "a@b.example") =>
    robotReason(splitMessage(bytes(`${header}\r\n\r\n`)), returnPath, LIST.domain, "");
  test.each([
    ["Auto-Submitted: auto-generated"],
    ["List-Id: <x.lists.copperwheel.example>"],
    ["Precedence: bulk"],
    ["X-Autoreply: yes"],
  ])("%s is one", (header) => expect(reason(header)).toBeDefined());
  test("an empty return path is one, a person is none", () => {
    expect(reason("Subject: x", "")).toBeDefined();
    expect(reason("Auto-Submitted: no")).toBeUndefined();
  });
});

test("a returned mail says what it was, why, and whom to ask", () => {
  const note = returnNote({
    subject: "Tent\r\nX: y",
    list: "Wire Walk",
    house: "Copperwheel",
    reasons: ["First.", "Second."],
  });
  expect(note.subject).toBe("Returned: Tent X: y");
  expect(note.text).toContain("1. First.\r\n2. Second.");
  expect(note.text).toContain("reply to this mail");
});
