import fc from "fast-check";
import { expect, test } from "vitest";
import type { Fact } from "./fact";
import type { Origin } from "./origin";
import { packFacts, packOrigin, unpackFacts, unpackOrigin } from "./packFacts";

const word = fc.stringMatching(/^[\p{L}"\\, ]{0,12}$/u);
const row = fc.record({
  from: fc.constant("row" as const),
  source: fc.constantFrom("s1", "s2"),
  reading: fc.constantFrom("r1", "r2"),
  sheet: word,
  row: fc.nat(200_000),
  meaning: fc.constantFrom("guardian.address" as const, "classes" as const),
  slot: fc.nat(14),
});
const origin: fc.Arbitrary<Origin> = fc.oneof(
  row,
  fc.tuple(row, fc.uuid()).map(([item, corrected]) => ({ ...item, corrected })),
  fc.record({ from: fc.constant("hand" as const), by: word, at: word }),
  fc.constant<Origin>({ from: "rule", rule: "student-address" }),
);
const fact = fc
  .tuple(word, word, origin, fc.constantFrom("address", "name", "level"))
  .map(
    ([subject, text, factOrigin, kind]) =>
      (kind === "name"
        ? { subject, kind, ref: "", value: { given: text, family: subject }, origin: factOrigin }
        : kind === "level"
          ? { subject, kind, ref: "", value: text, origin: factOrigin }
          : { subject, kind, ref: text, value: "", origin: factOrigin }) as Fact,
  );

test("facts and origins come back as they were written, in fewer letters", () => {
  fc.assert(
    fc.property(fc.array(fact, { maxLength: 12 }), origin, (facts, sample) => {
      expect(unpackFacts(packFacts(facts))).toEqual(facts);
      expect(unpackOrigin(packOrigin(sample))).toEqual(sample);
    }),
  );
  const many = Array.from({ length: 9 }, (_, at): Fact => ({
    subject: "s-0123456789abcdef",
    kind: "address",
    ref: `a${at}@lettr.example`,
    value: "",
    origin: {
      from: "row",
      source: "00000000-0000-4000-8000-000000000000",
      reading: "00000000-0000-4000-8000-000000000001",
      sheet: "Roster",
      row: 41,
      meaning: "guardian.address",
      slot: 1,
    },
  }));
  expect(packFacts(many).length * 3).toBeLessThan(JSON.stringify(many).length);
});
