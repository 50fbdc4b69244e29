import { describe, expect, test } from "vitest";
import { splitMessage } from "../splitMessage";
import type { BounceRead } from "./form";
import { deliveryStatus, failedIn } from "./forms/deliveryStatus";
import { foldedWords, plainWords } from "./plainWords";
import { joinLines, refusalIn } from "./refusalIn";

const lines = (...some: string[]): string => some.join("\r\n");

describe("what another mail system said", () => {
  test.each([
    [
      "its code, status and words",
      "550 5.1.1 No such user",
      { code: 550, status: "5.1.1", words: "550 5.1.1 No such user" },
    ],
    [
      "its line among others",
      lines("Hello,", "", "<<<  552 Mailbox full", "", "Bye"),
      { code: 552, words: "552 Mailbox full" },
    ],
    [
      "up to three lines of it",
      "451 one\ntwo\nthree\nfour",
      { code: 451, words: "451 one two three" },
    ],
    ["up to the next blank line", "451 one\r\rtwo", { code: 451, words: "451 one" }],
    [
      "a second sentence, where the first line isn't broken at a width",
      "550 Mailbox not found\nPlease check it",
      { code: 550, words: "550 Mailbox not found. Please check it" },
    ],
    [
      "after whom it was said by",
      "... while talking to mx.lettr.example: said: 550 no",
      { code: 550, words: "said: 550 no" },
    ],
    [
      "after whom it was said by, close",
      "...while talking to mx: 421 busy",
      { code: 421, words: "421 busy" },
    ],
    ["after >>>", ">>> 554 refused", { code: 554, words: "554 refused" }],
    ["after said:", "Said: 554 refused", { code: 554, words: "554 refused" }],
    ["a code at the end of a line", "The reply was 550", { code: 550, words: "The reply was 550" }],
    [
      "a status alone",
      "Reason: 4.2.2 try later",
      { status: "4.2.2", words: "Reason: 4.2.2 try later" },
    ],
    [
      "a long status",
      "said 5.7.509 and more",
      { status: "5.7.509", words: "said 5.7.509 and more" },
    ],
    [
      "no code in numbers of another kind",
      "Version 1.550 of 2550 letters",
      { words: "Version 1.550 of 2550 letters" },
    ],
    [
      "no status in a network address",
      "550 from 5.1.1.9",
      { code: 550, words: "550 from 5.1.1.9" },
    ],
    [
      "its first words, where nothing has a code",
      lines("", "", "It failed.", "Sorry."),
      { words: "It failed. Sorry." },
    ],
    ["nothing in nothing", "", { words: "" }],
    ["nothing in empty lines", "\r\n\r\n", { words: "" }],
  ])("%s", (_, text, found) =>
    expect(refusalIn(text)).toEqual({ code: undefined, status: undefined, ...found }),
  );

  test("is cut where it has no end", () => {
    expect(refusalIn(`550 ${"x".repeat(500)}`).words).toHaveLength(300);
  });

  test.each([
    ["Mailbox full", "Try later", "Mailbox full. Try later"],
    ["Mailbox full", "and more", "Mailbox full and more"],
    ["Mailbox full.", "Try later", "Mailbox full. Try later"],
    ["It says:", "Try later", "It says: Try later"],
    ["dot. inside", "Try later", "dot. inside. Try later"],
    ["no iX", "later X", "no iX later X"],
    ["x".repeat(59), "Try", `${"x".repeat(59)}. Try`],
    ["x".repeat(60), "Try", `${"x".repeat(60)} Try`],
  ])("joins %j and %j", (first, second, joined) => expect(joinLines(first, second)).toBe(joined));
});

describe("words alone", () => {
  test.each([
    ["Can’t, won't, isn`t, shouldn´t", "can not, will not, is not, should not"],
    ["Groß Łódź ığ", "gross lodz ig"],
    ["Øre đak", "ore dak"],
    ["don'things", "don'things"],
  ])("folded: %s", (text, words) => expect(foldedWords(text)).toBe(words));

  test.each([
    ["550 first", ". first"],
    [
      "said 550-first 550 second 551 third",
      "said . -first   second . third".replace(/ {2,}/g, " "),
    ],
    ["a1550 x and 1.550 x", "a1550 x and 1.550 x"],
    ["4500 x 5X0 y", "4500 x 5x0 y"],
    ["to Una.Holm@Lettr.Example now", "to ◊ now"],
    ["<u@l.example>", " ◊ "],
    ["see https://lettr.example/a?b=c now", "see now"],
    ["see http://lettr.example/a now", "see now"],
    ["from 192.0.2.14 and 5.1.1 here", "from and here"],
    ["version 2.5 here", "version 2.5 here"],
    ["at mx.mail.lettr.example it", "at ⌂ it"],
    ['a_b [c] (d) "e" #f *g <h>', "a b c d e f g h "],
    ["refused in reply to RCPT TO command now", "refused now"],
    ["refused in reply to DATA from command now", "refused now"],
    ["refused in reply to DATA command now", "refused now"],
    ["refused in reply to DATA now", "refused now"],
    ["Answer of the remote server: full", ". full"],
    ["it is full on this server now", "it is full now"],
  ])("plain: %s", (text, words) => expect(plainWords(text).replace(/ +/g, " ")).toBe(words));

  test("are those of the beginning, where there is no end", () => {
    expect(plainWords("x".repeat(3000))).toHaveLength(2000);
  });
});

describe("a delivery report", () => {
  const read = (
    report: string,
    { recipient, text = "" }: { recipient?: string; text?: string } = {},
  ): BounceRead | undefined =>
    deliveryStatus.read({
      split: splitMessage(new TextEncoder().encode("\r\n")),
      returnPath: "",
      subject: "",
      text,
      report,
      recipient,
    });
  const block = (...fields: string[]): string =>
    lines("Reporting-MTA: dns; mx.lettr.example", "", ...fields, "");
  const UNA = "Final-Recipient: rfc822; una@lettr.example";
  const OTTO = "Final-Recipient: rfc822; otto@lettr.example";

  test("that isn't one says nothing", () => {
    expect(read("")).toBeUndefined();
    expect(read("Subject: x")).toBeUndefined();
  });

  test.each([
    ["as they were found", UNA],
    ["as they were written to", "Original-Recipient: rfc822;<una@lettr.example>"],
    ["without a kind", "Final-Recipient: una@lettr.example"],
    ["in capitals", "FINAL-RECIPIENT : RFC822;  Una@Lettr.Example"],
  ])("names whom it is about %s", (_, named) => {
    const report = block(
      named,
      "Action: failed",
      "Status: 5.1.1",
      "Diagnostic-Code: smtp; 550 unknown user",
    );
    expect(read(report, { recipient: "una@lettr.example" })).toMatchObject({ sort: "no mailbox" });
    expect(read(report, { recipient: "otto@lettr.example" })).toEqual({
      sort: "not a bounce",
      words: "the report is about another address",
    });
    expect(read(report)).toMatchObject({ sort: "no mailbox" });
    expect(failedIn(report)).toBe("una@lettr.example");
  });

  test("that names nobody is about whoever is asked for", () => {
    const report = block("Action: failed", "Status: 5.2.2");
    expect(read(report, { recipient: "una@lettr.example" })).toMatchObject({ sort: "full" });
    expect(failedIn(report)).toBeUndefined();
  });

  test("of several is that of the one asked for, and of the failed before the others", () => {
    const report = lines(
      block(UNA, "Action: delivered", "Status: 2.0.0"),
      lines(OTTO, "Action: failed", "Status: 5.2.2", ""),
      lines("Final-Recipient: rfc822; x@lettr.example", "Action: not-failed", "Status: 5.1.1", ""),
    );
    expect(read(report, { recipient: "una@lettr.example" })?.sort).toBe("not a bounce");
    expect(read(report, { recipient: "otto@lettr.example" })?.sort).toBe("full");
    expect(read(report)?.sort).toBe("full");
    expect(failedIn(report)).toBe("otto@lettr.example");
    expect(failedIn(block(UNA, "Status: 5.1.1"))).toBe("una@lettr.example");
    expect(failedIn("Subject: x")).toBeUndefined();
  });

  test.each([
    ["Action: delivered", "Status: 2.1.5", "not a bounce"],
    ["Action: relayed", "Status: 5.1.1", "not a bounce"],
    ["Action: expanded", "Status: 5.1.1", "not a bounce"],
    ["Action: delayed", "Status: 4.2.2", "not a bounce"],
    ["Action: failed", "Status: 2.0.0", "not a bounce"],
    ["Action: Failed", "Status: 5.1.1", "no mailbox"],
    ["Action: failed", "Status: 5.7.509", "policy"],
    ["Action: failed", "Status: 5.1.10 (null)", "no mailbox"],
  ])("%s, %s: %s", (action, status, sort) =>
    expect(read(block(UNA, action, status))?.sort).toBe(sort),
  );

  test.each([
    [
      "its own words, without their kind",
      "Diagnostic-Code: smtp; 552 5.2.2 mailbox full",
      "",
      "552 5.2.2 mailbox full",
    ],
    [
      "its own words, whatever stands in them",
      "Diagnostic-Code: X-Unix-Ab;552 full; really",
      "",
      "552 full; really",
    ],
    [
      "its own words over several lines",
      "Diagnostic-Code: smtp; 552 mailbox\r\n\tis\r\n  full",
      "",
      "552 mailbox is full",
    ],
    [
      "the words of its part for people",
      "X-Other: x",
      "Delay reason: 552 5.2.2 mailbox full\r\n",
      "552 5.2.2 mailbox full",
    ],
    [
      "the line for people that says why",
      "X-Other: x",
      "Sorry.\r\nThe mailbox is full.\r\n",
      "The mailbox is full.",
    ],
    ["the first line for people", "X-Other: x", "Sorry.\r\n\r\nBye.", "Sorry."],
    ["what it does, where it has no words", "X-Other: x", "", "failed 5.2.2"],
  ])("tells %s", (_, field, text, words) =>
    expect(read(block(UNA, "Action: failed", "Status: 5.2.2", field), { text })).toEqual({
      sort: "full",
      words,
      gaveUp: true,
    }),
  );

  test("takes the status of the words where its own says nothing in particular", () => {
    const sortOf = (status: string, words: string): string | undefined =>
      read(block(UNA, "Action: failed", status, `Diagnostic-Code: smtp; ${words}`))?.sort;
    expect(sortOf("Status: 5.0.0", "550 5.1.1 it failed")).toBe("no mailbox");
    expect(sortOf("Status: 5.2.2", "550 5.1.1 it failed")).toBe("full");
    expect(sortOf("X-Status: none", "550 5.2.2 it failed")).toBe("full");
    expect(sortOf("Status: 5.0.0", "554 it failed")).toBe("policy");
  });

  test("reads its fields whatever their line ends, and nothing that is no field", () => {
    for (const end of ["\n", "\r"])
      expect(
        read(
          block(UNA, ": nothing", "no field", "Action : failed", "Status: 5.2.2").replaceAll(
            "\r\n",
            end,
          ),
          { recipient: "una@lettr.example" },
        )?.sort,
      ).toBe("full");
  });
});
