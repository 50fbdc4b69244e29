import { describe, expect, test } from "vitest";
import { spoken } from "../testing/spoken";
import { beginningOf, digestContents, type DigestPost } from "./digestContents";

const shown = spoken(digestContents);
const post = (part: Partial<DigestPost> = {}): DigestPost => ({
  subject: "Shoes",
  from: "Teo Bramwell",
  at: "2 November, 10:00",
  beginning: "Bring soft shoes.",
  url: "https://amigo.example/posts/1",
  ...part,
});

describe("a digest", () => {
  test("of one list names it, and shows each post with its number, its writer and how it begins", () => {
    const { subject, text } = shown(
      "Copperwheel",
      [{ title: "Wire Walk", posts: [post(), post({ subject: "", beginning: "", url: "u" })] }],
      "https://amigo.example/member",
    );
    expect(subject).toBe("Wire Walk: 2 mails");
    expect(text.split("\r\n")).toEqual([
      "2 mails on 1 list of Copperwheel. They follow below in full.",
      "",
      "Wire Walk",
      "---------",
      "",
      "1. Shoes",
      "   Teo Bramwell, 2 November, 10:00",
      "   Bring soft shoes.",
      "   https://amigo.example/posts/1",
      "",
      "2. (no subject)",
      "   Teo Bramwell, 2 November, 10:00",
      "   u",
      "",
      "How often you get mail of each list is on your own page; ask for its link here:",
      "https://amigo.example/member",
    ]);
  });

  test("of several counts them, numbers through, and underlines a long title at most to the edge", () => {
    const { subject, text } = shown(
      "Copperwheel",
      [
        { title: "W".repeat(80), posts: [post()] },
        { title: "Silks", posts: [post({ beginning: "two\r\nlines", from: "Teo\r\nBcc: x" })] },
      ],
      "page",
    );
    expect(subject).toBe("Copperwheel: 2 mails on 2 lists");
    const lines = text.split("\r\n");
    expect(lines).toContain("-".repeat(60));
    expect(lines).toContain("-----");
    expect(lines).toContain("2. Shoes");
    expect(lines).toContain("   two lines");
    expect(lines).toContain("   Teo Bcc: x, 2 November, 10:00");
  });
});

describe("the beginning of a text", () => {
  test.each([
    ["as it is, where it's short", "Bring  soft\n\tshoes. ", 30, "Bring soft shoes."],
    ["exactly as long as may be", "Bring shoes", 11, "Bring shoes"],
    ["cut between words", "Bring your soft shoes", 12, "Bring your …"],
    ["cut within a word that is too long", "x".repeat(70), 60, `${"x".repeat(30)} …`],
    ["without what it quotes", "> old\n  > older\nNew > old", 30, "New > old"],
    ["on two lines", "Dear all,\r\nsoft shoes", 30, "Dear all, soft shoes"],
  ])("%s", (_, text, most, begins) => expect(beginningOf(text, most)).toBe(begins));
});
