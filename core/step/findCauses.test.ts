import { describe, expect, test } from "vitest";
import { factKey, type Fact } from "../facts/fact";
import type { Origin } from "../facts/origin";
import { smallHouse } from "../testing/smallHouse";
import { findCauses } from "./findCauses";

const ROW: Origin = {
  from: "row",
  source: "s",
  reading: "r",
  sheet: 0,
  row: 2,
} as unknown as Origin;
const CORRECTED = { ...ROW, corrected: "c1" } as unknown as Origin;
const HAND: Origin = { from: "hand", by: "Juno", at: "" };

const fact = (
  subject: string,
  kind: Fact["kind"],
  ref: string,
  value: unknown,
  origin: Origin,
): Fact => ({ subject, kind, ref, value, origin }) as Fact;
const HOUSE = [...smallHouse().values()].map((one): Fact => ({ ...one, origin: ROW }));
const mapOf = (facts: readonly Fact[]): Map<string, Fact> =>
  new Map(facts.map((one) => [factKey(one), one]));
/** The house without some facts, and with others. */
const house = (without: (one: Fact) => boolean, more: readonly Fact[] = []): Map<string, Fact> =>
  mapOf([...HOUSE.filter((one) => !without(one)), ...more]);
const NOTHING = (): boolean => false;
const isOf = (subject: string, kind: string) => (one: Fact) =>
  one.subject === subject && one.kind === kind;
const kindsOf = (after: Map<string, Fact>, before = house(NOTHING)): string[] =>
  findCauses(before, after).map(({ kind }) => kind);

describe("a change that somebody has said", () => {
  const enrol = (origin: Origin): Fact => fact("wren", "enrolment", "class:wire walk", "", origin);
  const name = (origin: Origin): Fact =>
    fact("wren", "name", "", { given: "Wren", family: "Eastlake-Holm" }, origin);
  const address = (origin: Origin): Fact =>
    fact("wren", "address", "new@lettr.example", "", origin);
  const detail = (origin: Origin): Fact => fact("wren", "detail", "Stage house", "Copper", origin);
  const changes: [string, string, (origin: Origin) => Map<string, Fact>][] = [
    ["another class", "moved", (by) => house(isOf("wren", "enrolment"), [enrol(by)])],
    ["another name", "name", (by) => house(isOf("wren", "name"), [name(by)])],
    ["another address", "address", (by) => house(isOf("wren", "address"), [address(by)])],
    ["another detail", "detail", (by) => house(isOf("wren", "detail"), [detail(by)])],
  ];

  test.each(changes)("%s of a sheet is told as what it is", (_, kind, after) => {
    expect(kindsOf(after(ROW))).toEqual([kind]);
  });

  test.each(changes)("%s of a correction, or by hand, is told as one", (_, __, after) => {
    expect(kindsOf(after(CORRECTED))).toEqual(["corrected"]);
    expect(kindsOf(after(HAND))).toEqual(["corrected"]);
  });

  test("that only takes something away is told as what it is", () => {
    expect(kindsOf(house(isOf("wren", "detail")))).toEqual(["detail"]);
  });

  test("an address that somebody gives to a person without one, and the last that is gone", () => {
    const before = house(isOf("wren", "address"));
    expect(kindsOf(house(NOTHING), before)).toEqual(["reachable"]);
    const byHand = house(isOf("wren", "address"), [
      fact("wren", "address", "wren@lettr.example", "", HAND),
    ]);
    expect(kindsOf(byHand, before)).toEqual(["corrected"]);
    expect(kindsOf(before, house(NOTHING))).toEqual(["unreachable"]);
  });

  test("somebody new, and somebody who is gone, stay what they are by whomever it is said", () => {
    const isWrens = ({ subject, ref }: Fact): boolean => subject === "wren" || ref === "wren";
    const without = house(isWrens);
    const byHand = mapOf(HOUSE.map((one): Fact => (isWrens(one) ? { ...one, origin: HAND } : one)));
    expect(kindsOf(byHand, without)).toEqual(["joined"]);
    expect(kindsOf(without)).toEqual(["left"]);
  });
});

describe("causes", () => {
  test("are none where only where it stands has changed", () => {
    const moved = mapOf(HOUSE.map((one): Fact => ({ ...one, origin: HAND })));
    expect(findCauses(house(NOTHING), moved)).toEqual([]);
  });

  test("stand in the order of their kinds, then of their classes, then of names, whatever order the facts have", () => {
    const after = house(
      ({ subject, ref, kind }) =>
        subject === "bram" || ref === "bram" || (subject === "ida" && kind === "name"),
      [
        fact("ida", "name", "", { given: "Ida", family: "Zett" }, ROW),
        fact("wren", "detail", "Stage house", "Copper", ROW),
        fact("hana", "detail", "Stage house", "Lead", ROW),
      ],
    );
    const causes = findCauses(house(NOTHING), after);
    const told = causes.map(({ kind, title }) => `${kind} ${String(title)}`);
    const back = new Map([...after].reverse());
    const again = findCauses(new Map([...house(NOTHING)].reverse()), back);
    expect(again.map(({ key }) => key)).toEqual(causes.map(({ key }) => key));
    expect(told[0]).toMatch(/^left Bram/);
    expect(told[1]).toMatch(/^name Ida/);
    expect(told.slice(2).map((one) => one.split(" ")[0])).toEqual(["detail", "detail"]);
    const [first = "", second = ""] = causes.slice(2).map(({ group }) => group);
    expect(first.localeCompare(second, "en")).toBeLessThanOrEqual(0);
  });
});
