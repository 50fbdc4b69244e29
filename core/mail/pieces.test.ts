import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { asksBefore as asksBeforeUnsaid, type AboutToSend } from "./asksBefore";
import { beginningOf, digestContents as digestContentsUnsaid } from "./digestContents";
import { relaxedBody, relaxedField, toSign } from "./dkim";
import { parseListAddress } from "./listAddress";
import { mboxEntry } from "./mbox";
import { fillMerge, mergeFieldsIn } from "./merge";
import { aboutListNote as aboutListNoteUnsaid, leaveNote as leaveNoteUnsaid } from "./requestNotes";
import { splitMessage } from "./splitMessage";
import { answeredIds, baseSubject, isAnswer } from "./thread";
import { spoken } from "../testing/spoken";

const asksBefore = spoken(asksBeforeUnsaid);

const digestContents = spoken(digestContentsUnsaid);
const aboutListNote = spoken(aboutListNoteUnsaid);
const leaveNote = spoken(leaveNoteUnsaid);

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const text = (octets: Uint8Array): string => new TextDecoder().decode(octets);
const DOMAIN = "lists.copperwheel.example";

describe("addresses of a list", () => {
  test.each([
    ["wire", { kind: "list", list: "wire" }],
    ["wire-request", { kind: "request", list: "wire" }],
    ["-request", { kind: "list", list: "-request" }],
    ["Wire+Leave", { kind: "leave", list: "wire" }],
    ["wire+leads", { kind: "leads", list: "wire" }],
    ["wire+yes.0123456789abcdef", { kind: "yes", list: "wire", token: "0123456789abcdef" }],
    ["wire+b.0123456789abcdef", { kind: "return", list: "wire", token: "0123456789abcdef" }],
    ["wire+yes.", undefined],
    ["wire+no", undefined],
    ["wire+b.x y", undefined],
    ["abuse", { kind: "house", mailbox: "abuse" }],
  ])("%s", (mailbox, meant) =>
    expect(parseListAddress(`${mailbox}@${DOMAIN}`, DOMAIN)).toEqual(meant),
  );
});

describe("threads", () => {
  test.each([
    ["Re: Shoes", "shoes", true],
    ["AW: Re: Shoes", "shoes", true],
    ["Fwd: shoes", "shoes", false],
    ["[Wire] Re: Shoes", "shoes", false],
    ["Re[2]: Shoes (fwd)", "shoes", true],
    ["SV:  Shoes   for the show", "shoes for the show", true],
    ["Rehearsal", "rehearsal", false],
    ["Refund: shoes", "refund: shoes", false],
    ["[only]", "[only]", false],
    ["", "", false],
  ])("of %j", (subject, base, answers) =>
    expect([baseSubject(subject), isAnswer(subject)]).toEqual([base, answers]),
  );

  test("the base of a base is itself", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme" }), (subject) => {
        expect(baseSubject(baseSubject(subject))).toBe(baseSubject(subject));
      }),
    );
  });

  test("the nearest answered message comes first", () => {
    expect(
      answeredIds(
        splitMessage(bytes("References: <a@x> <b@x>\r\n <c@x>\r\nIn-Reply-To: <c@x>\r\n\r\n")),
      ),
    ).toEqual(["<c@x>", "<b@x>", "<a@x>"]);
    expect(answeredIds(splitMessage(bytes("Subject: x\r\n\r\n")))).toEqual([]);
  });
});

describe("a mailbox file (RFC 4155)", () => {
  test("separates and quotes", () => {
    expect(
      text(
        mboxEntry(
          bytes("Subject: x\r\n\r\nFrom here\r\n>From there\r\nno From"),
          "a@b.example",
          new Date("2026-11-03T07:08:09Z"),
        ),
      ),
    ).toBe(
      "From a@b.example Tue Nov  3 07:08:09 2026\nSubject: x\n\n>From here\n>>From there\nno From\n\n",
    );
    expect(text(mboxEntry(bytes("x"), "a b\n", new Date(0)))).toMatch(
      /^From MAILER-DAEMON Thu Jan {2}1 /,
    );
  });

  test("whatever is put in, messages come out again, each as it was", () => {
    const line = fc.oneof(
      fc.constantFrom("From x", ">From y", ">>From z", "", "a"),
      fc.string().filter((candidate) => !/[\r\n]/.test(candidate)),
    );
    fc.assert(
      fc.property(
        fc.array(fc.array(line, { minLength: 1 }), { minLength: 1, maxLength: 4 }),
        (messages) => {
          const file = messages
            .map((lines) =>
              text(mboxEntry(bytes(`${lines.join("\r\n")}\r\n`), "a@b.example", new Date(0))),
            )
            .join("");
          const read = file
            .split(/^From .*\n/m)
            .slice(1)
            .map((item) =>
              item
                .slice(0, -1)
                .replace(/^>(>*From )/gm, "$1")
                .replace(/\n/g, "\r\n"),
            );
          expect(read).toEqual(messages.map((lines) => `${lines.join("\r\n")}\r\n`));
        },
      ),
    );
  });
});

describe("what is signed", () => {
  test.each([
    ["a  b \t\r\n\r\n\r\n", "a b\r\n"],
    [" a\r\n\r\nb", " a\r\n\r\nb\r\n"],
    ["", ""],
    ["\r\n\r\n", ""],
    ["  \r\n", ""],
  ])("a body in relaxed form: %j", (body, relaxed) =>
    expect(text(relaxedBody(bytes(body)))).toBe(relaxed),
  );

  test("a field in relaxed form, and From once more than it is there", () => {
    expect(relaxedField("SubJect :  a\r\n\t b  c ")).toBe("subject:a b c");
    const { field, data } = toSign(
      splitMessage(bytes("From: a@b\r\nSubject: x\r\nX-Other: y\r\n\r\n")).fields,
      { domain: DOMAIN, selector: "amigo", algorithm: "rsa-sha256", bodyHash: "hash", at: 1 },
    );
    expect(field.replace(/\r\n /g, "")).toContain("h=from:subject:from;");
    expect(data).toMatch(/^from:a@b\r\nsubject:x\r\ndkim-signature:v=1; .* b=$/);
    expect(data).not.toContain("x-other");
  });
});

describe("fields that are filled in", () => {
  test.each([
    ["Dear {first name|friends},", { "first name": "Una" }, "Dear Una,"],
    ["Dear {first name|friends},", {}, "Dear friends,"],
    ["{first name}", {}, ""],
    ["{nothing} {a|b}", { "first name": "Una" }, "{nothing} {a|b}"],
    ["{children}", { children: "<b>" }, "&lt;b&gt;"],
  ])("%s", (written, values, filled) => expect(fillMerge(written, values, "html")).toBe(filled));

  test("nothing that a value holds is HTML, or is filled in again", () => {
    fc.assert(
      fc.property(fc.string(), (value) => {
        expect(fillMerge("<p>{name}</p>", { name: value }, "html").slice(3, -4)).not.toMatch(
          /[<>"]/,
        );
      }),
    );
    expect(fillMerge("{name}", { name: "{house}", house: "x" }, "text")).toBe("{house}");
    expect(mergeFieldsIn("{name} {nome}")).toEqual([
      { field: "name", known: true },
      { field: "nome", known: false },
    ]);
  });
});

describe("what is asked before a mail goes out", () => {
  const mail = (part: Partial<AboutToSend>): AboutToSend => ({
    seasonsOver: [],
    addresses: 5,
    mostBefore: 0,
    many: 100,
    subject: "x",
    text: "x",
    attachments: 0,
    outside: [],
    inside: 0,
    shown: false,
    answersLists: [],
    unknownFields: [],
    ...part,
  });
  test.each([
    [{}, []],
    [{ seasonsOver: ["2025-26", "2025-26"] }, ["season over"]],
    [{ addresses: 100 }, ["many"]],
    [{ addresses: 100, mostBefore: 100 }, []],
    [{ shown: true }, ["shown"]],
    [{ shown: true, addresses: 1 }, []],
    [{ text: "Plan attached." }, ["attachment"]],
    [{ text: "> plan attached" }, []],
    [{ text: "Siehe im Anhang" }, ["attachment"]],
    [{ text: "attached", attachments: 1 }, []],
    [{ outside: ["a@b.example"], inside: 3 }, ["outside"]],
    [{ outside: ["a@b.example"], inside: 2 }, []],
    [{ unknownFields: ["nome"] }, ["fields"]],
    [{ answersLists: ["Wire Walk"] }, ["answer to all"]],
  ] as const)("%j: %j", (part, ids) =>
    expect(asksBefore(mail(part as Partial<AboutToSend>)).map(({ id }) => id)).toEqual(ids),
  );
});

test("a digest counts and tells how each post begins; notes name what they should and never a second header line", () => {
  const post = {
    subject: "Shoes\r\nBcc: x",
    from: "Teo",
    at: "today",
    beginning: beginningOf("> quoted\nDear families, bring shoes.", 20),
    url: "https://x/1",
  };
  expect(post.beginning).toBe("Dear families, …");
  const { subject, text: contents } = digestContents(
    "Copperwheel",
    [
      { title: "Wire", posts: [post] },
      { title: "Silks", posts: [post, post] },
    ],
    "https://x/member",
  );
  expect(subject).toBe("Copperwheel: 3 mails on 2 lists");
  expect(contents).toMatch(/3\. Shoes Bcc: x/);
  const about = aboutListNote({
    title: "Wire\r\nBcc: x",
    address: "w@x",
    description: "",
    house: "H",
    sentences: ["Leads may write."],
    leads: [],
    leave: "",
    page: "p",
  });
  expect([about.subject, about.text.includes("write to a lead")]).toEqual([
    "About Wire Bcc: x",
    true,
  ]);
  expect(
    leaveNote({ title: "Wire", house: "H" }, { is: "through a lead", leads: ["w+leads@x"] }).text,
  ).toContain("Write to w+leads@x.");
});
