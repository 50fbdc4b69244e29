import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { findTarget as findTargetUnsaid, type Target } from "./findTarget";
import type { IntakeCells } from "./intake";
import { addedNote as addedNoteUnsaid, endsSoonNote as endsSoonNoteUnsaid } from "./intakeNotes";
import { readDay } from "./readDay";
import { isBlank, readIntakeRow as readIntakeRowUnsaid } from "./readIntakeRow";
import { spoken } from "../testing/spoken";

const readIntakeRow = spoken(readIntakeRowUnsaid);
const findTarget = spoken(findTargetUnsaid);

const addedNote = spoken(addedNoteUnsaid);
const endsSoonNote = spoken(endsSoonNoteUnsaid);

const TODAY = "2026-11-27";
const list = (
  title: string,
  name: string,
  cohort: string,
  kind: Target["kind"],
  short = "",
): Target => ({
  id: name,
  title,
  name,
  address: `${name}@lists.copperwheel.example`,
  short,
  cohort,
  kind,
});
const TARGETS: Target[] = [
  list(
    "Trapeze Two, guardians",
    "ml-trapeze2-parents-2627",
    "Trapeze Two",
    "guardians",
    "trap2, tt",
  ),
  list("Trapeze Two, students", "ml-trapeze2-2627", "Trapeze Two", "students"),
  list("Trapeze Two, coaches", "ml-trapeze2-coaches-2627", "Trapeze Two", "staff"),
  list("Wire Walk, guardians", "ml-wire-parents-2627", "Wire Walk", "guardians"),
  list("Friends of the Ring", "friends", "", "other"),
  list("Band", "band-a", "", "other"),
  list("Band", "band-b", "", "other"),
];

describe("the list that is meant", () => {
  test.each<[string, boolean, string]>([
    ["Trapeze Two, guardians", false, "ml-trapeze2-parents-2627"],
    ["  trapeze two   GUARDIANS ", false, "ml-trapeze2-parents-2627"],
    ["ml-trapeze2-2627", false, "ml-trapeze2-2627"],
    ["friends@lists.copperwheel.example", true, "friends"],
    ["TT", false, "ml-trapeze2-parents-2627"],
    ["Trapeze Two", false, "ml-trapeze2-parents-2627"],
    ["Trapeze Two", true, "ml-trapeze2-2627"],
    ["wire walk", false, "ml-wire-parents-2627"],
  ])("%j, inside: %j, is %s", (written, inside, id) =>
    expect(findTarget(written, TARGETS, inside)).toMatchObject({ ok: true, target: { id } }),
  );

  test.each<[string, boolean, RegExp, string | undefined]>([
    ["Wire Walk", true, /could be Wire Walk, guardians/, "Wire Walk, guardians"],
    ["Band", false, /could be Band or Band/, "Band"],
    ["Trapese Two", false, /Did you mean Trapeze Two, guardians\?/, "Trapeze Two, guardians"],
    ["Frie", false, /Did you mean Friends of the Ring\?/, "Friends of the Ring"],
    ["Unicycles", false, /Choose one of those/, undefined],
  ])("%j, inside: %j, is told as %s", (written, inside, sentence, proposal) => {
    const found = findTarget(written, TARGETS, inside);
    expect(found.ok ? found : [found.sentence, found.proposal]).toEqual([
      expect.stringMatching(sentence),
      proposal,
    ]);
  });

  test("whatever a list is called, its title, address and name lead to it", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...TARGETS.filter(({ title }) => title !== "Band")),
        fc.boolean(),
        (target, inside) => {
          for (const written of [
            target.title,
            target.address,
            target.name,
            target.title.toUpperCase(),
          ])
            expect(findTarget(written, TARGETS, inside)).toEqual({ ok: true, target });
        },
      ),
    );
  });
});

describe("days", () => {
  test.each<[string, string | undefined]>([
    ["2027-03-31", "2027-03-31"],
    ["2027-3-1", "2027-03-01"],
    ["31.3.2027", "2027-03-31"],
    ["31/03/27", "2027-03-31"],
    ["31 Mar 2027", "2027-03-31"],
    ["31 March", "2027-03-31"],
    ["1 Dec", "2026-12-01"],
    ["27.11.", "2026-11-27"],
    ["26.11.", "2027-11-26"],
    [" 5 . 1 . 2027 ", "2027-01-05"],
    ["31.2.2027", undefined],
    ["2027-13-01", undefined],
    ["soon", undefined],
    ["3", undefined],
    ["31 Foo 2027", undefined],
    ["1.1.1900", undefined],
    ["", undefined],
  ])("%j is %s", (written, day) => expect(readDay(written, TODAY)).toBe(day));

  test("every day that there is is read in each of the ways to write it", () => {
    fc.assert(
      fc.property(
        fc.date({ min: new Date("2000-01-01"), max: new Date("2199-12-31"), noInvalidDate: true }),
        (date) => {
          const iso = date.toISOString().slice(0, 10);
          const [year, month, day] = iso.split("-");
          for (const written of [
            iso,
            `${day}.${month}.${year}`,
            `${Number(day)}/${Number(month)}/${year}`,
          ])
            expect(readDay(written, TODAY)).toBe(iso);
        },
      ),
    );
  });

  test("a day without its year is never over", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 28 }),
        fc.integer({ min: 1, max: 12 }),
        (day, month) => {
          const read = readDay(`${day}.${month}.`, TODAY) ?? "";
          expect(read >= TODAY && read < "2027-11-28").toBe(true);
        },
      ),
    );
  });
});

describe("a row", () => {
  const READS = {
    targets: TARGETS,
    insideDomains: ["copperwheel.example"],
    known: new Map([["lettr.example", 40]]),
    today: TODAY,
  };
  const FULL: IntakeCells = {
    person: " Otto  Bell ",
    address: "Otto@Fernpost.example",
    to: "Trapeze Two",
    from: "",
    until: "31.3.2027",
  };

  test("is read as what it asks for", () =>
    expect(readIntakeRow(FULL, READS)).toMatchObject({
      ok: true,
      wish: {
        person: "Otto Bell",
        address: "otto@fernpost.example",
        target: { title: "Trapeze Two, guardians" },
        from: "",
        until: "2027-03-31",
      },
    }));

  test.each<[Partial<IntakeCells>, string, RegExp]>([
    [{ person: " " }, "person", /Who is it/],
    [{ address: "" }, "address", /Write the address/],
    [{ address: "otto" }, "address", /no @/],
    [{ address: "otto@letr.example" }, "address", /Did you mean otto@lettr.example/],
    [{ to: "" }, "to", /list or the class/],
    [{ to: "Nowhere" }, "to", /No list or class/],
    [{ from: "soon" }, "from", /not a day/],
    [{ until: "2026-11-26" }, "until", /is over/],
    [{ from: "2027-04-01" }, "until", /before the first day/],
  ])("with %j is told at %s", (over, column, sentence) => {
    const read = readIntakeRow({ ...FULL, ...over }, READS);
    expect(read.ok ? [] : read.faults.map((fault) => [fault.column, fault.sentence])).toEqual([
      [column, expect.stringMatching(sentence)],
    ]);
  });

  test("whatever stands in it, it is read or told what is wrong, never both nor neither", () => {
    const cell = fc.oneof(
      fc.string(),
      fc.constantFrom(
        "Trapeze Two",
        "a@lettr.example",
        "1.1.2027",
        "",
        "\u0000",
        "=cmd|' /C calc'!A0",
      ),
    );
    fc.assert(
      fc.property(
        fc.record({ person: cell, address: cell, to: cell, from: cell, until: cell }),
        (cells) => {
          const read = readIntakeRow(cells, READS);
          if (!read.ok) expect(read.faults.length).toBeGreaterThan(0);
          else expect(read.wish.until === "" || read.wish.until >= TODAY).toBe(true);
          if (isBlank(cells)) expect(read.ok).toBe(false);
        },
      ),
    );
  });
});

test("notes keep a hostile name out of their header and name nobody who was added", () => {
  const note = addedNote("Copperwheel Circus School", [
    { title: "Wire\r\nBcc: all@lettr.example", added: 1, url: "http://x" },
  ]);
  expect(note.subject).toBe("Wire Bcc: all@lettr.example: 1 address added");
  expect(
    addedNote("C", [
      { title: "A", added: 1, url: "a" },
      { title: "B", added: 2, url: "b" },
    ]).subject,
  ).toBe("3 addresses added to what you watch");
  const ends = endsSoonNote("C", { title: "Wire Walk", url: "http://x" }, [
    { person: "Mia\nBell", address: "mia@lettr.example", until: "2027-03-31", intake: "Helpers" },
  ]);
  expect([ends.subject, ends.text]).toEqual([
    "Wire Walk: 1 person leaves within a week",
    expect.stringContaining('Mia Bell (mia@lettr.example), last day 31 Mar 2027, by "Helpers"'),
  ]);
});
