import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { fold } from "../text/fold";
import { listName } from "./listName";
import { proposeShortForm, proposeSiteCode } from "./shortForm";

const none = (): boolean => false;
const PARTS = { site: "ML", cohort: "Trapeze Two", season: "2026-27" };

describe("list names", () => {
  test.each([
    ["{site}-{class}-parents-{season}", PARTS, "ml-trapeze2-parents-2627"],
    ["{class}-{season}", { ...PARTS, cohort: "Stilts & Clowning" }, "stiltsclowning-2627"],
    ["{site}-{class}", { ...PARTS, site: "" }, "trapeze2"],
    ["Friends of {class}!", { ...PARTS, cohort: "Łódź Ørsted" }, "friends-of-lodzorsted"],
    ["{class}", { ...PARTS, cohort: "Juggling for the Very Young and Old One" }, "jugglingvyo1"],
  ])("%s gives a name", (pattern, parts, name) => {
    expect(listName(pattern, parts, new Map(), none)).toEqual({ ok: true, name });
  });

  test("the house's own short forms come first", () => {
    expect(listName("{class}", PARTS, new Map([[fold("Trapeze Two"), "trap"]]), none)).toEqual({ ok: true, name: "trap" });
  });

  test.each([
    ["{class}-list", (name: string) => name === "trapeze2-list", "taken", "trapeze2-list-2"],
    ["postmaster", none, "reserved", "postmaster-list"],
    ["{class}-request", none, "reserved", "trapeze2-request-list"],
    ["{moon}", none, "unknown-part", undefined],
    ["---", none, "empty", undefined],
  ])("%s is refused with a way out", (pattern, taken, fault, proposal) => {
    expect(listName(pattern, PARTS, new Map(), taken)).toMatchObject({ ok: false, fault, proposal, sentence: expect.stringMatching(/\.$/) });
  });

  test("whatever a class is called, its name is a valid mailbox, and the proposal for a taken one is free", () => {
    fc.assert(fc.property(fc.string({ unit: "grapheme", maxLength: 80 }), fc.string({ unit: "grapheme", maxLength: 20 }), (cohort, site) => {
      const named = listName("{site}-{class}-{season}", { site, cohort, season: "2026-27" }, new Map(), none);
      const name = named.ok ? named.name : named.proposal;
      expect(name).toMatch(/^[a-z0-9]([a-z0-9.-]*[a-z0-9])?$/);
      expect((name ?? "").length).toBeLessThanOrEqual(64);
      const again = listName("{site}-{class}-{season}", { site, cohort, season: "2026-27" }, new Map(), (other) => other === name);
      expect(again.ok).toBe(false);
      if (!again.ok) expect(again.proposal).not.toBe(name);
    }));
  });

  test("short forms and site codes are proposed from the words", () => {
    expect(["Tumbling Seeds", "Aerial Silks Start", "Hoops and Staff", "Juggling One"].map(proposeShortForm)).toEqual(["tumblingseeds", "aerialss", "hoopsstaff", "juggling1"]);
    expect(["Big Barn", "Mill Loft", "Annexe"].map(proposeSiteCode)).toEqual(["BB", "ML", "AN"]);
  });
});
