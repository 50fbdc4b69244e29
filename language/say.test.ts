import fc from "fast-check";
import { afterEach, describe, expect, test } from "vitest";
import { each, lines, localTime, message, sentences, written } from "./message";
import { isCoreText, said, say, sayParts } from "./say";
import { writeTextsAs } from "./texts";

afterEach(() => writeTextsAs("en-GB"));

describe("what is said", () => {
  test("joins lists as its language does, whatever they hold", () => {
    expect(say(each(["Ida", "Bram", "Una"]))).toBe("Ida, Bram and Una");
    expect(say(each(["Ida", "Bram"], "or"))).toBe("Ida or Bram");
    expect(say(each(["a", "b", "c"], "comma"))).toBe("a, b, c");
    expect(say(each(["a, b", "c"], "semicolon"))).toBe("a, b; c");
    expect(say(each([]))).toBe("");
    expect(say(lines("Hello,", "", written("x")))).toBe("Hello,\r\n\r\nx");
    expect(say(sentences(message("address.noAt"), undefined, written("So.")))).toBe(
      "There is no @ in it. So.",
    );
    expect(say({ asSentence: message("audience.named") })).toMatch(/^Named in .*\.$/);
  });

  test.each([
    ["en-GB", "31 Mar 2027", "1,200"],
    ["en-US", "Mar 31, 2027", "1,200"],
    ["de-DE", "31. März 2027", "1.200"],
  ])("writes numbers and days as %s does", (locale, day, number) => {
    writeTextsAs(locale);
    expect(say({ day: "2027-03-31" })).toBe(day);
    expect(say(localTime("2027-03-31 21:05:59"))).toMatch(
      new RegExp(`^${day},? (um )?(at )?(21:05|09:05.PM)$`),
    );
    expect(say(message("mail.titleAllMailMails", { title: "Wire Walk", all: 1200 }))).toBe(
      `Wire Walk: ${number} mails`,
    );
  });

  test("counts by the rules of its own language in every country", () => {
    // In French, nothing is counted like one.
    writeTextsAs("fr-FR");
    expect(say(message("mail.titleAllMailMails", { title: "A", all: 0 }))).toBe("A: 0 mails");
    expect(say(message("mail.titleAllMailMails", { title: "A", all: 1 }))).toBe("A: 1 mail");
  });

  test("leaves what people have written as it is: braces, tags and quotes choose nothing", () => {
    fc.assert(
      fc.property(fc.string(), (title) => {
        expect(say(message("mail.leave", { title }))).toBe(`Leave ${title}?`);
      }),
    );
    expect(say(message("mail.leave", { title: "{evil} <b>'x'</b> #" }))).toBe(
      "Leave {evil} <b>'x'</b> #?",
    );
  });

  test("leaves out what is missing, and only that: not what somebody called by the word for it", () => {
    const about = (reason: string | null | undefined): string =>
      say(
        message("step.keptSentence", { address: "a@b.example", kept: written("kept on"), reason }),
      );
    for (const missing of ["", null, undefined])
      expect(about(missing)).toBe("a@b.example: kept on");
    for (const typed of ["none", "null", "other", "true", "constructor", "__proto__"])
      expect(about(typed)).toBe(`a@b.example: kept on (${typed})`);
  });

  test("comes in pieces, with what fills each place apart", () => {
    expect(
      sayParts(message("posting.repliesAndPosts", { replies: written("x"), from: written("y") })),
    ).toEqual([
      { text: "Replies go to ", place: undefined },
      { text: "x", place: "replies" },
      { text: ". Posts come ", place: undefined },
      { text: "y", place: "from" },
      { text: ".", place: undefined },
    ]);
  });

  test("is found at any depth of plain data, and nothing else of it is touched", () => {
    expect(
      said({ id: "a", count: 2, none: null, of: [{ sentence: message("address.noAt") }] }),
    ).toEqual({ id: "a", count: 2, none: null, of: [{ sentence: "There is no @ in it." }] });
  });
});

test.each([
  ["mail.leave", true],
  ["mail.toString", false],
  ["mail", false],
  ["mail.", false],
  ["", false],
  ["constructor.name", false],
  ["__proto__.toString", false],
  ["Invalid input: expected string", false],
])("%j is the name of a text: %s", (text, is) => expect(isCoreText(text)).toBe(is));

test.each(["31.3. 21:05", "2027-02-99 10:00", "2027-03-31", "", "yesterday"])(
  "%j is no day with its time, and stays as it is",
  (text) => expect(say(localTime(text))).toBe(text),
);
