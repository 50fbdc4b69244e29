import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { readCard } from "./readCard";
import { CARD_VERSIONS, writeCard, type Contact } from "./writeCard";

const LIST: Contact = {
  uid: "11111111-1111-4111-8111-111111111111",
  kind: "group",
  name: "Trapeze Two, guardians; all",
  given: "",
  family: "",
  addresses: ["ml-trapeze2-parents-2627@lists.copperwheel.example"],
  note: "Two lines\nof it",
  category: "Lists",
  members: [],
};
const MEMBER = { uid: "22222222-2222-4222-8222-222222222222", address: "a@oakmail.example" };

describe("a list as a card", () => {
  test("is a group with its address in 4.0, and a contact that every program completes in 3.0", () => {
    const four = writeCard(LIST, "4.0");
    expect(four).toContain("VERSION:4.0\r\n");
    expect(four).toContain("KIND:group\r\n");
    expect(four).toContain("FN:Trapeze Two\\, guardians; all\r\n");
    expect(four).toContain("UID:urn:uuid:11111111-1111-4111-8111-111111111111\r\n");
    const three = writeCard(LIST, "3.0");
    expect(three).toContain("VERSION:3.0\r\n");
    expect(three).not.toMatch(/KIND/);
    expect(three).toMatch(/^N:;Trapeze Two/m);
    expect(three).toContain("ml-trapeze2-parents-2627@lists.copperwheel.example");
  });

  test("with members names them in the manner of each version", () => {
    const list = { ...LIST, addresses: [], members: [MEMBER] };
    expect(writeCard(list, "4.0")).toContain(`MEMBER:urn:uuid:${MEMBER.uid}`);
    expect(writeCard(list, "3.0")).toContain("X-ADDRESSBOOKSERVER-KIND:group");
    for (const version of CARD_VERSIONS)
      expect(readCard(writeCard(list, version))).toMatchObject({
        isGroup: true,
        uid: LIST.uid,
        members: [MEMBER.uid],
      });
  });

  test("of people that is empty stays a group, so that a program can put people on it", () => {
    for (const version of CARD_VERSIONS)
      expect(readCard(writeCard({ ...LIST, addresses: [] }, version))?.isGroup).toBe(true);
  });

  test("has an id of another program as it is", () => {
    expect(writeCard({ ...LIST, uid: "group-1" }, "4.0")).toContain("UID:group-1\r\n");
  });

  test("is read as it was written, whatever its name is, and no line is added by it", () => {
    fc.assert(
      fc.property(
        fc.string({ minLength: 1, unit: "grapheme" }),
        fc.constantFrom(...CARD_VERSIONS),
        (text, version) => {
          const name = `N${text.replace(/[\p{Cc}\p{Cs}\\]/gu, "")}`.trim();
          const card = writeCard({ ...LIST, name }, version);
          expect(readCard(card)?.name).toBe(name);
          expect(card.match(/^EMAIL/gm)).toHaveLength(1);
        },
      ),
    );
    expect(writeCard({ ...LIST, name: "A\r\nEMAIL:evil@oakmail.example" }, "3.0")).not.toMatch(
      /^EMAIL:evil/m,
    );
  });

  test.each(["", "BEGIN:VCALENDAR\r\nEND:VCALENDAR", "BEGIN:VCARD", "x".repeat(300_000)])(
    "isn't read where it is none",
    (text) => {
      expect(readCard(text)).toBeUndefined();
    },
  );
});
