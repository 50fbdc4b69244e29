import { describe, expect, test } from "vitest";
import { addToIndex, indexFacts } from "../facts/indexFacts";
import type { FactIndex } from "../facts/factIndex";
import { origin, smallHouse } from "../testing/smallHouse";
import { isCoachOf, whoLeads } from "./whoLeads";

/** The small house with some people on the staff who have accounts. */
function withStaff(
  ...staff: { id: string; given: string; family: string; site?: string; address?: string }[]
): FactIndex {
  const index = indexFacts(smallHouse());
  for (const { id, given, family, site = "", address } of staff) {
    const subject = `account:${id}`;
    addToIndex(index, { subject, kind: "staff", ref: "", value: "", origin });
    addToIndex(index, { subject, kind: "name", ref: "", value: { given, family }, origin });
    addToIndex(index, { subject, kind: "site", ref: "", value: site, origin });
    if (address !== undefined)
      addToIndex(index, { subject, kind: "address", ref: address, value: "", origin });
  }
  return index;
}

function runners(index: FactIndex, leads: string, helpers = "", cohort = "class:trapeze two") {
  const found = whoLeads(index)({ leads, helpers, cohort });
  return { leads: found.leads.map(({ id }) => id), helpers: found.helpers.map(({ id }) => id) };
}

describe("a list is led", () => {
  test("by the coach of its class, however the sheet writes the name", () => {
    const index = withStaff({ id: "1", given: "Sunniva", family: "Hale" });
    expect(runners(index, "coach")).toEqual({ leads: ["account:1"], helpers: [] });
    expect(runners(index, "coach", "", "class:wire walk").leads).toEqual([]);
  });

  test("by nobody where the coach stands in the sheet alone: without an account nobody leads", () => {
    const index = indexFacts(smallHouse());
    expect(index.people.get("sunniva")?.role).toBe("staff");
    expect(runners(index, "coach").leads).toEqual([]);
  });

  test("by the coach whose address is all that the sheet gives", () => {
    const index = withStaff({
      id: "7",
      given: "Asta",
      family: "Kvist",
      address: "asta@copperwheel.example",
    });
    const value = { name: "Aerial", kind: "class", site: "", coach: "asta@copperwheel.example" };
    addToIndex(index, {
      subject: "class:aerial",
      kind: "cohort",
      ref: "",
      value: { ...value, kind: "class" },
      origin,
    });
    expect(runners(index, "coach", "", "class:aerial").leads).toEqual(["account:7"]);
  });

  test("of two people of the coach's name by the one at the site of the class, else by neither", () => {
    const two = [
      { id: "1", given: "Sunniva", family: "Hale", site: "Mill Loft" },
      { id: "2", given: "Sunniva", family: "Hale", site: "Big Barn" },
    ];
    expect(runners(withStaff(...two), "coach").leads).toEqual(["account:1"]);
    const nowhere = two.map((one) => ({ ...one, site: "" }));
    expect(runners(withStaff(...nowhere), "coach").leads).toEqual([]);
  });

  test("by those who were named, each once, and helped by whoever leads nothing", () => {
    const index = withStaff(
      { id: "1", given: "Sunniva", family: "Hale" },
      { id: "2", given: "Nilo", family: "Baptiste" },
    );
    expect(runners(index, "account:2 account:2 account:9", "account:2 account:1")).toEqual({
      leads: ["account:2"],
      helpers: ["account:1"],
    });
    expect(runners(index, "", "")).toEqual({ leads: [], helpers: [] });
  });
});

test("a dash in place of the coach names nobody, also not somebody on the staff without a name", () => {
  const index = withStaff({ id: "8", given: "", family: "" });
  for (const coach of ["–", "?", "...", " "]) {
    const value = { name: "Aerial", kind: "class" as const, site: "", coach };
    addToIndex(index, { subject: "class:aerial", kind: "cohort", ref: "", value, origin });
    expect(runners(index, "coach", "", "class:aerial").leads).toEqual([]);
    const nameless = index.people.get("account:8");
    expect(nameless !== undefined && isCoachOf(nameless, { coach })).toBe(false);
  }
});

test("only people on the staff coach a class, and a class without a coach is coached by none", () => {
  const index = indexFacts(smallHouse());
  const sunniva = index.people.get("sunniva");
  const halim = index.people.get("halim");
  if (sunniva === undefined || halim === undefined) throw new Error("the small house has changed");
  expect(isCoachOf(sunniva, { coach: "HALE, Sunniva" })).toBe(true);
  expect(isCoachOf(halim, { coach: "Halim Brandt" })).toBe(false);
  expect(isCoachOf(sunniva, { coach: "" })).toBe(false);
  expect(isCoachOf(sunniva, undefined)).toBe(false);
});
