import { say } from "@amigo/language/say";
import { describe, expect, test } from "vitest";
import { copyHeader, type CopyEnvelope, type ListIdentity } from "./copyHeader";
import { splitMessage } from "./splitMessage";

const LIST: ListIdentity = {
  name: "wire",
  domain: "lists.example",
  title: "Wire Walk",
  rules: { writers: "leads and helpers", from: "writer", replies: "writer" },
};
const ENVELOPE: CopyEnvelope = {
  say,
  from: { name: "Juno Abara", address: "juno@copperwheel.example" },
  leaveUrl: "https://amigo.example/leave/t",
  oneClick: true,
  toLeads: false,
};
const original = (...fields: string[]) =>
  splitMessage(new TextEncoder().encode(`${fields.join("\r\n")}\r\n\r\nHello`));
const SUBJECT = "Subject: Shoes";

type Rules = Partial<ListIdentity["rules"]>;
/** The lines of a copy's header. */
const linesOf = (
  mail: ReturnType<typeof original>,
  rules: Rules = {},
  envelope: Partial<CopyEnvelope> = {},
  content?: readonly string[],
): string[] =>
  copyHeader(
    mail,
    { ...LIST, rules: { ...LIST.rules, ...rules } },
    { ...ENVELOPE, ...envelope },
    content,
  ).split("\r\n");
/** One of its fields; undefined where it isn't there. */
const field = (name: string, rules: Rules = {}, envelope: Partial<CopyEnvelope> = {}) =>
  linesOf(original(SUBJECT), rules, envelope)
    .find((line) => line.startsWith(`${name}: `))
    ?.slice(name.length + 2);

test("a copy says whose it is, how to leave, and what of the original goes on", () => {
  const mail = original(
    "Received: from x",
    "From: Juno <juno@copperwheel.example>",
    "To: somebody@lettr.example",
    "Date: Mon, 2 Nov 2026 10:00:00 +0000",
    SUBJECT,
    "Message-ID: <1@x>",
    "MIME-Version: 1.0",
    "Content-Type: text/plain",
    "Content-Language: en",
    "X-Content-Note: no",
    "Organization: Ring",
  );
  expect(linesOf(mail, {}, { archivedAt: "https://amigo.example/posts/1" })).toEqual([
    "From: Juno Abara via Wire Walk <wire@lists.example>",
    "Reply-To: Juno Abara <juno@copperwheel.example>",
    "To: Wire Walk <wire@lists.example>",
    "List-Id: Wire Walk <wire.lists.example>",
    "List-Post: NO (only leads and helpers write to this list)",
    "List-Help: <mailto:wire-request@lists.example>",
    "List-Owner: <mailto:wire+leads@lists.example>",
    "Archived-At: <https://amigo.example/posts/1>",
    "List-Unsubscribe: <https://amigo.example/leave/t>, <mailto:wire+leave@lists.example>",
    "List-Unsubscribe-Post: List-Unsubscribe=One-Click",
    "Precedence: list",
    "Date: Mon, 2 Nov 2026 10:00:00 +0000",
    SUBJECT,
    "Message-ID: <1@x>",
    "MIME-Version: 1.0",
    "Organization: Ring",
    "Content-Type: text/plain",
    "Content-Language: en",
    "",
    "",
  ]);
});

test("a copy for the leads alone says neither how to leave nor where it is kept", () => {
  expect(linesOf(original(SUBJECT), {}, { toLeads: true })).toEqual([
    "From: Juno Abara via Wire Walk <wire@lists.example>",
    "Reply-To: Juno Abara <juno@copperwheel.example>",
    "To: Wire Walk <wire@lists.example>",
    "List-Id: Wire Walk <wire.lists.example>",
    "List-Post: NO (only leads and helpers write to this list)",
    "List-Help: <mailto:wire-request@lists.example>",
    "List-Owner: <mailto:wire+leads@lists.example>",
    "Precedence: list",
    SUBJECT,
    "",
    "",
  ]);
});

describe("whom a copy comes from", () => {
  test.each<[Rules, Partial<CopyEnvelope>, string]>([
    [{}, {}, "Juno Abara via Wire Walk"],
    [{ from: "list" }, {}, "Wire Walk"],
    [{}, { asList: true }, "Wire Walk"],
    [{}, { asList: false }, "Juno Abara via Wire Walk"],
    [{ from: "list" }, { toLeads: true }, "Juno Abara via Wire Walk"],
    [{}, { asList: true, toLeads: true }, "Juno Abara via Wire Walk"],
    [
      {},
      { from: { name: "", address: "j@copperwheel.example" } },
      '"j@copperwheel.example via Wire Walk"',
    ],
  ])("%j, %j: %s", (rules, envelope, name) =>
    expect(field("From", rules, envelope)).toBe(`${name} <wire@lists.example>`),
  );
});

describe("where an answer goes", () => {
  const WRITER = "Juno Abara <juno@copperwheel.example>";
  const LEADS = '"Leads of Wire Walk" <wire+leads@lists.example>'.replaceAll('"', "");
  const EVERYBODY = "Wire Walk <wire@lists.example>";
  test.each<[Rules["replies"], Partial<CopyEnvelope>, string]>([
    ["writer", {}, WRITER],
    ["leads", {}, LEADS],
    ["list", {}, EVERYBODY],
    ["writer", { asList: true }, LEADS],
    ["leads", { asList: true }, LEADS],
    ["list", { asList: true }, EVERYBODY],
    ["writer", { toLeads: true }, WRITER],
    ["leads", { toLeads: true }, WRITER],
    ["list", { toLeads: true, asList: true }, WRITER],
  ])("by the rule %s, %j", (replies = "writer", envelope, goes) =>
    expect(field("Reply-To", { replies }, envelope)).toBe(goes),
  );
});

describe("who may write to the list", () => {
  test.each<[Rules["writers"], string]>([
    ["members", "<mailto:wire@lists.example>"],
    ["inside", "<mailto:wire@lists.example>"],
    ["leads and helpers", "NO (only leads and helpers write to this list)"],
  ])("%s", (writers = "members", said) => expect(field("List-Post", { writers })).toBe(said));
});

describe("how a member leaves", () => {
  const URL = "<https://amigo.example/leave/t>";
  const MAIL = "<mailto:wire+leave@lists.example>";
  test.each<[string | undefined, boolean, string | undefined, boolean]>([
    ["https://amigo.example/leave/t", true, `${URL}, ${MAIL}`, true],
    ["https://amigo.example/leave/t", false, URL, false],
    [undefined, true, MAIL, false],
    [undefined, false, undefined, false],
  ])("by the link %s, with one click %s", (leaveUrl, oneClick, ways, isOneClick) => {
    const envelope = { leaveUrl, oneClick };
    expect(field("List-Unsubscribe", {}, envelope)).toBe(ways);
    expect(field("List-Unsubscribe-Post", {}, envelope)).toBe(
      isOneClick ? "List-Unsubscribe=One-Click" : undefined,
    );
    expect(linesOf(original(SUBJECT), {}, envelope).filter((line) => line === "")).toHaveLength(2);
  });
});

describe("what a mail lacks", () => {
  const after = (mail: ReturnType<typeof original>, content?: readonly string[]): string[] =>
    linesOf(mail, {}, {}, content)
      .join("\n")
      .replace(/^[^]*Precedence: list\n/, "")
      .trimEnd()
      .split("\n");

  test("is a subject, which is said to be missing", () => {
    expect(after(original("Message-ID: <1@x>"))).toEqual([
      "Message-ID: <1@x>",
      "Subject: (no subject)",
    ]);
  });

  test("is a version of MIME, where a footer has made it one of parts", () => {
    const content = ["Content-Type: multipart/mixed; boundary=b"];
    expect(after(original(SUBJECT, "Content-Type: text/plain"), content)).toEqual([
      SUBJECT,
      "MIME-Version: 1.0",
      ...content,
    ]);
    expect(after(original("MIME-Version: 1.0", SUBJECT), content)).toEqual([
      "MIME-Version: 1.0",
      SUBJECT,
      ...content,
    ]);
    expect(after(original(SUBJECT, "Content-Type: text/plain"))).toEqual([
      SUBJECT,
      "Content-Type: text/plain",
    ]);
  });
});
