import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Key } from "selenium-webdriver";
import { describe, expect, test } from "vitest";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { openHouse } from "./openHouse";

const house = openHouse();
const HEAD = "Student no.,Surname,First name,Site,Class,Parent 1,Email 1";
const circus = (count: number): string =>
  [
    HEAD,
    ...Array.from(
      { length: count },
      (_, at) =>
        `CX-${at},Holm,Child${at},Mill Loft,Evening Ropes,Otto Holm${at},otto${at}@lettr.example`,
    ),
  ].join("\n");

describe("a coordinator keeps a house in step", () => {
  test("a roster and a form are read, and what differs is a question with both sides", async () => {
    const { person } = house;
    await person.click("button", "Juno Abara");
    await person.see("link", "Changes");
    await person.go("/sources");
    await person.read("Drop the roster here");
    await person.chooseFile(join(SAMPLES_FOLDER, "autumn-roster.xlsx"));
    await person.click("button", "Import 220 students");
    await person.click("button", "Bring 30 lists in step");
    await person.read("No round is open");
    await person.go("/sources");
    await person.read("220 rows, 2 set aside");
    await person.chooseFile(join(SAMPLES_FOLDER, "contact-form.csv"));
    await person.click("button", "Import 117 students");
    await person.see("heading", "has a new address");
    await person.click("link", "2 questions");
    await person.read(
      "Oona Penhaligon gave different addresses for different children. Which one is right?",
    );
    await person.read("Contact form, row 31, column B");
    expect(await person.findings()).toEqual([]);
    await person.click("button", "new.openhaligon@fernpost.example", true);
    await person.read("1 question to answer");
    await person.click("tab", "Manual changes");
    await person.read("Which one is right? new.openhaligon@fernpost.example");
  });

  test("causes are shown by kind, class and source, and the rest come back", async () => {
    const { person } = house;
    await person.click("link", "Changes");
    await person.click("button", "Show only sources");
    await person.click("option", "Contact form");
    await person.read("shown");
    await person.click("button", "Show all");
    await person.click("button", "lists in step");
    await person.read("No round is open");
  });

  test("a faulty cell is put right by keys, and its family is reached by the next round", async () => {
    const { person } = house;
    await person.click("link", "Sources");
    await person.read("220 rows, 2 set aside");
    await person.press("n");
    await person.see("heading", "Row 11, column H: there is no domain after the @");
    expect(await person.findings()).toEqual([]);
    await person.press(Key.ENTER);
    await person.type("Another address", "not yet");
    await person.press(Key.ENTER);
    await person.see("alert", "is not an address");
    await person.type("Another address", "ashdown.marek@lettr.example");
    await person.press(Key.ENTER);
    await person.read("12 to decide, 26 fixed");
    await person.press(Key.ESCAPE);
    await person.press("n");
    await person.click("button", "Corrections");
    await person.see("dialog", "Corrections of Autumn roster");
    await person.read("ashdown.marek@ → ashdown.marek@lettr.example");
    await person.click("button", "Close");
  });

  test("a family is found by a part of a name, and each of them has a page with lists, reasons and what became known", async () => {
    const { person } = house;
    await person.click("link", "People");
    await person.type("Find people", "penhal");
    await person.see("status", "5 families");
    await person.type("Find people", "CW-4508");
    await person.see("status", "1 family");
    expect(await person.findings()).toEqual([]);
    await person.click("link", "Åsa Penhaligon");
    await person.read("On 2 lists");
    expect(await person.findings()).toEqual([]);
    await person.read("joined as a student");
    await person.read("Autumn roster, row 148");
  });

  test("somebody is kept on a list until a day, and the list can be seen as of another", async () => {
    const { person } = house;
    await person.click("link", "Board");
    await person.click("link", "Trapeze Two, Guardians");
    await person.click("button", "Add a manual exception");
    await person.type(
      "Addresses",
      "Gran <grandmother@lettr.example>, bus line; coachbus@lettr.example",
    );
    await person.read("Not an address: bus line");
    await person.see("button", "Keep 2 addresses on");
    await person.type("Addresses", "grandmother@lettr.example");
    await person.type("Reason", "drives Mirela home");
    await person.click("button", "Keep it on");
    await person.read("+ on grandmother@lettr.example drives Mirela home");
    expect(await person.findings()).toEqual([]);
    await person.type("Find a member", "grandmother");
    await person.read("always on this list, set by Juno Abara: drives Mirela home");
    await person.go(`${new URL(await person.driver.getCurrentUrl()).pathname}?on=2026-01-01`);
    await person.read("Nobody was on this list on 1 Jan 2026");
    await person.click("button", "Today", true);
    await person.click("button", "Remove grandmother@lettr.example");
    await person.read("The roster alone decides who is on this list.");
  });

  test("the sheet is wrong: a cause is corrected by its key, and a round is taken back", async () => {
    const { person } = house;
    await person.go("/sources");
    await person.read("220 rows, 2 set aside");
    await person.chooseFile(join(SAMPLES_FOLDER, "autumn-roster-week-2.xlsx"));
    await person.click("button", "Import 221 students");
    await person.see("heading", "Amara Jansone moved");
    await person.press("c");
    await person.see("dialog", "The sheet is wrong");
    await person.type("Classes", "Stilts & Clowning");
    await person.click("button", "Save correction");
    await person.see("status", "Correction saved.");
    await person.see("heading", "Hana Kettering moved");
    await person.click("button", "lists in step");
    await person.see("status", "brought in step");
    await person.click("button", "Undo … round 3");
    await person.see("dialog", "Undo round 3");
    await person.read("Hana Kettering");
    expect(await person.findings()).toEqual([]);
    await person.click("button", "Undo 1");
    await person.see("status", "Round 3 was undone by round");
    await person.read("Undone in round");
    await person.click("button", "Accept all");
    await person.see("button", "lists in step");
    await person.go("/changes/past");
    await person.read("undone by round");
  });

  test("a file in the watched folder is looked at, read when it changes, and what it could not do is told", async () => {
    const { person, stack } = house;
    writeFileSync(join(stack.watched, "evening.csv"), circus(4));
    await person.go("/sources");
    await person.click("button", "Connect a file or web address");
    await person.click("button", "Where it is");
    await person.click("option", "In the watched folder");
    await person.click("button", "File:");
    await person.click("option", "evening.csv");
    await person.click("button", "Look at it");
    await person.click("button", "Import 4 students");
    await person.see("heading", "Evening Ropes is a new class");
    await person.click("link", "Sources");
    await person.click("link", "Evening");
    await person.read("a file in the watched folder");
    await person.click("button", "Where and when");
    await person.see("dialog", "Import settings of Evening");
    expect(await person.findings()).toEqual([]);
    await person.click("button", "It is read");
    await person.click("option", "On days and times");
    await person.read("Read Monday to Friday at 07:30.");
    await person.click("button", "Save");
    await person.read("Monday to Friday at 07:30");
    writeFileSync(join(stack.watched, "evening.csv"), circus(5));
    await person.click("button", "Read now");
    await person.read("5 students imported");
    expect(await person.seesNot("alert", "")).toBe(true);
  });

  test("one sheet a class is read as one source, class by class", async () => {
    const { person } = house;
    await person.chooseFile(join(SAMPLES_FOLDER, "one-sheet-a-class.xlsx"));
    await person.read("All 10 sheets are imported, one for each class");
    await person.see("button", "Import 220 students");
    await person.click("button", "Cancel import");
  });

  test("the limits of guards are the house's own, and whom Amigo believes is said in one place", async () => {
    const { person } = house;
    await person.go("/house?tab=guards");
    await person.read("what somebody here decided by hand");
    expect(await person.findings()).toEqual([]);
    await person.type("Check when one address belongs to more families than", "5");
    await person.click("button", "Save safety checks");
    await person.see("status", "Saved.");
  });
});

describe("a round of many changes", () => {
  const at = (index: number): string => String(index).padStart(3, "0");
  const children = (count: number, className: (index: number) => string): string[] =>
    Array.from(
      { length: count },
      (_, index) =>
        `MC-${className(index).slice(-2)}${at(index)},Quist,Kid${at(index)},Mill Loft,${className(index)},Ana Quist,ana.${at(index)}.${className(index).slice(-2)}@oakmail.example`,
    );

  test("is read class by class, a page at a time, by mouse and by keys", async () => {
    const { person } = house;
    await person.go("/sources");
    const file = join(mkdtempSync(join(tmpdir(), "amigo-many-")), "many.csv");
    writeFileSync(
      file,
      [
        HEAD,
        ...children(130, () => "Great Hall"),
        ...children(45, (index) => `Ring ${at(index)}`),
      ].join("\n"),
    );
    await person.chooseFile(file);
    await person.click("button", "Import 175 students");
    await person.click("button", "Great Hall");
    await person.see("button", "Kid098");
    await person.see("button", "Show more changes (31 left)");
    expect(await person.seesNot("button", "Kid129")).toBe(true);
    expect(await person.findings()).toEqual([]);
    await person.click("button", "Show more changes");
    await person.see("button", "Kid129");
    await person.click("checkbox", "Great Hall");
    await person.read("131 on hold");
    await person.click("button", "Accept all 131");
    await person.read("0 on hold");
  });

  test("leaves the one class that somebody types", async () => {
    const { person } = house;
    await person.click("combobox", "Show only classes");
    await person.type("Show only classes", "ring 04");
    await person.see("option", "Ring 044");
    // The options hang below their field, outside of the regions of the page.
    const findings = await person.findings();
    expect(findings.filter((finding) => !finding.startsWith("region:"))).toEqual([]);
    await person.press(Key.ARROW_DOWN, Key.ENTER);
    await person.read("2 of ");
    await person.read("Ring 041");
  });
});
