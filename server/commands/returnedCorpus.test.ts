import { describe, expect, test } from "vitest";
import { readReturned } from "../sandbox/readMail";
import { LATER_SYSTEMS } from "../testing/returned/laterSystems";
import { NOT_RETURNED } from "../testing/returned/notReturned";
import { readReplies } from "../testing/returned/replies";
import { SYSTEMS, type System } from "../testing/returned/systems";
import { effectOf } from "./returned";

const to = "halim.brandt@oakmail.example";
/** Each system is tried with some of the replies, starting at a different one, so that all replies come up. */
const STEP = 27;

/** Whether a reply can be written in the encoding of a system. */
function canWrite({ encoding }: System, reply: string): boolean {
  if (encoding === undefined) return true;
  const decoder = new TextDecoder(encoding);
  const letters = new Set(
    Array.from({ length: 256 }, (_, octet) => decoder.decode(Uint8Array.of(octet))),
  );
  return Array.from(reply).every((letter) => letters.has(letter));
}

const replies = readReplies();
const mails = [...SYSTEMS, ...LATER_SYSTEMS].map((system, at) => ({
  system,
  replies: replies.filter(
    ({ reply }, place) => place % STEP === at % STEP && canWrite(system, reply),
  ),
}));

describe("whole returned mails", () => {
  test("are more than eight hundred, of over thirty manners, and have nearly every reply among them", () => {
    expect(mails.length).toBeGreaterThan(30);
    expect(mails.reduce((sum, { replies: some }) => sum + some.length, 0)).toBeGreaterThan(800);
    const tried = new Set(mails.flatMap(({ replies: some }) => some.map(({ reply }) => reply)));
    expect(tried.size / replies.length).toBeGreaterThan(0.95);
  });

  test.each(mails.map(({ system, replies: some }) => [system.name, system, some] as const))(
    "%s",
    async (_, system, some) => {
      const wrong: string[] = [];
      for (const { kind, reply } of some) {
        const read = await readReturned(system.make({ to, reply }));
        const wanted = `${kind}, ${effectOf({ sort: kind, gaveUp: true })}, ${to}`;
        const found = `${read.sort}, ${effectOf(read)}, ${read.recipient}`;
        if (found !== wanted) wrong.push(`${reply}: ${found}`);
      }
      expect(wrong).toEqual([]);
    },
  );
});

describe("mails to return paths that are no bounces", () => {
  test.each(Object.entries(NOT_RETURNED))("%s", async (_, lines) => {
    const { sort } = await readReturned(Buffer.from(lines.join("\r\n")));
    expect(sort).toBe("not a bounce");
  });
});
