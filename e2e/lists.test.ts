import { Key } from "selenium-webdriver";
import { describe, expect, test } from "vitest";
import { until } from "@amigo/server/testing/testHouse";
import { openHouse } from "./openHouse";

const house = openHouse();
const person = (): typeof house.person => house.person;

/** Carries out what a dialog shows: its button has the focus already. */
async function carryOut(): Promise<void> {
  await person().see("button", "Carry it out");
  await until(
    "the button in focus",
    () => person().focused(),
    (name) => name.includes("Carry it out"),
  );
  await person().press(Key.ENTER);
  await person().see("status", "Done in round");
}

describe("lists, recipes, names and seasons without a mouse", () => {
  test("the roster is read and brought in step", async () => {
    await person().read("This is a demo school");
    await person().press(Key.ENTER);
    await person().read("Lists come out of your roster");
    await person().read("Other lists");
    await person().goBy("Sources", "Sources");
    await person().read("Drop the roster here");
    await person().tabTo("autumn-roster.xlsx");
    await person().press(Key.ENTER);
    await person().see("button", "Import 220 students");
    await person().tabTo("Import 220 students");
    await person().press(Key.ENTER);
    await person().read("32 students, 50 parents, 3 new lists");
    await person().press("s");
    await until(
      "the button in focus",
      () => person().focused(),
      (name) => name.includes("Bring 30 lists"),
    );
    await person().press(Key.ENTER);
    await person().see("status", "30 lists brought in step");
  });

  test("the board is gone through by arrows, filtered and searched", async () => {
    await person().goBy("Board", "Board");
    await person().read("31 lists, all in step");
    await person().tabTo("Acro Pairs, Students");
    await person().press(Key.ARROW_RIGHT, Key.ARROW_DOWN, Key.ARROW_DOWN);
    expect(await person().focused()).toContain("Juggling Two, Guardians");
    await person().press(Key.END);
    await until(
      "the last row",
      () => person().focused(),
      (name) => name.includes("Wire Walk, Guardians"),
    );
    await person().press(Key.HOME);
    await until(
      "the first row",
      () => person().focused(),
      (name) => name.includes("Acro Pairs, Guardians"),
    );
    await person().type("Search the board", "silks");
    await until(
      "one row",
      () => person().text(),
      (text) => text.includes("Aerial Silks Start") && !text.includes("Wire Walk"),
    );
    await person().click("button", "Show everything");
    await person().go("/?only=unreached");
    await person().read("not reached");
    expect(await person().text()).not.toContain("Tumbling Sprouts");
    expect(await person().findings()).toEqual([]);
  });

  test("a recipe's audience is typed with completions and told what it would change, carried out, and taken back", async () => {
    await person().goBy("Settings", "Settings");
    await person().tabTo("Edit Guardians of each class");
    await person().press(Key.ENTER);
    await until(
      "the audience in focus",
      () => person().focused(),
      (name) => name.includes("Who belongs on it"),
    );
    expect(await person().findings()).toEqual([]);
    await person().press(Key.END, " + coa");
    await person().see("option", "coaches");
    await person().press(Key.ENTER, "of this cla");
    await person().see("option", "class");
    await person().press(Key.ENTER);
    await person().read(
      "The guardians of the students in this class and the coaches of this class.",
    );
    await person().tabTo("Preview");
    await person().press(Key.ENTER);
    await person().read("10 lists changed");
    await carryOut();
    await person().go("/changes/past");
    await person().read("Round 2");
    await person().click("button", "Undo … round 2");
    await person().see("dialog", "Undo round 2");
    await person().read("Guardians of each class");
    for (const field of await person().driver.executeScript<string[]>(
      "return [...document.querySelectorAll('[role=dialog] input[inputmode=numeric]')].map((input) => input.getAttribute('aria-label'))",
    ))
      await person().type(field, /Type (\d+)/.exec(field)?.[1] ?? "");
    await person().click("button", "Undo 1 change");
    await person().read("was undone by round 3");
  });

  test("a typing error is told at its place with a way out", async () => {
    await person().goBy("Make a list", "Make a list");
    await person().see("heading", "Make a list");
    await person().press("Van drivers");
    await person().tabTo("Who belongs on it");
    await person().press('guardians of students in "Trapeze Tow"', Key.ESCAPE);
    await person().read('No class, team, committee or site is called "Trapeze Tow"');
    await person().tabTo('Write "Trapeze Two"');
    await person().press(Key.ENTER);
    await person().read("The guardians of the students in Trapeze Two.");
    await person().tabTo("Addresses to add by hand");
    await person().press("quincy@mailhaven.example; nonsense");
    await person().read("These can't be used: nonsense");
    await person().tabTo("Preview");
    await person().press(Key.ENTER);
    await person().read("1 list made");
    await person().see("button", "Carry it out");
    await until(
      "the button in focus",
      () => person().focused(),
      (name) => name.includes("Carry it out"),
    );
    await person().press(Key.ENTER);
    await person().see("heading", "Van drivers");
    await person().read("van-drivers@lists.copperwheel.example");
    await person().read("added when the list was made");
  });

  test("members are pasted in, each with its answer, and a mail to the list reaches them", async () => {
    await person().tabTo("Add members");
    await person().press(Key.ENTER);
    await until(
      "the box in focus",
      () => person().focused(),
      (name) => name.includes("Paste addresses"),
    );
    await person().press(
      "quincy@mailhaven.example; rosa@lettr,example, rosa@lettr.example no-address-at-all",
    );
    await person().read(": 1 to add");
    await person().read("repaired");
    expect(await person().findings()).toEqual([]);
    await person().tabTo("Reason");
    await person().press("drives the van");
    await person().tabTo("Add 1 address");
    await person().press(Key.ENTER);
    await person().see("status", "1 added");
    await person().read("drives the van");
    await person().click("button", "Write to");
    await until(
      "the subject in focus",
      () => person().focused(),
      (name) => name.includes("Subject"),
    );
    await person().read("addresses in");
    await person().press("Who drives", Key.TAB, "On Saturday.");
    await person().chord(Key.CONTROL, Key.ENTER);
    await person().read("delivered");
    await until(
      "the letter in Mailtown",
      () =>
        house.stack.town.boxes.all().find(({ address }) => address === "rosa@lettr.example")
          ?.letters ?? 0,
      (letters) => letters === 1,
    );
  });

  test("many lists are changed in one round, and one returns to its recipe", async () => {
    await person().goBy("All lists", "All lists");
    await person().type("Search the lists", "trapeze two");
    await person().tabTo("Tick all 3 shown");
    await person().press(Key.SPACE);
    await person().tabTo("Change 3 lists");
    await person().press(Key.ENTER);
    await person().see("dialog", "Change 3 lists");
    await person().tabTo("To what");
    await person().press(Key.SPACE);
    await person().see("option", "Marta Okonjo");
    await person().press("Marta", Key.ENTER);
    await until(
      "the lead chosen",
      () => person().text(),
      (text) => text.includes("Marta Okonjo"),
    );
    await person().tabTo("Preview");
    await person().press(Key.ENTER);
    await person().read("3 lists changed");
    await carryOut();
    await person().goBy("trapeze two guardians", "Trapeze Two, guardians");
    await person().read("Changed from its recipe");
    await person().tabTo("Return to the recipe");
    await person().press(Key.ENTER);
    await carryOut();
    await person().read("From the preset Announcement-only, by the recipe.");
  });

  test("the naming workshop shows old and new side by side and renames all at once", async () => {
    await person().goBy("Naming", "Naming workshop");
    await person().read("Naming rules");
    expect(await person().findings()).toEqual([]);
    await person().type("Coaches of each class", "{class:initials}");
    await person().read("Several lists would be called");
    await person().type("Coaches of each class", "{site}-{class}-team");
    await person().see("button", "Preview: rename 10 lists");
    await person().tabTo("Preview: rename 10 lists");
    await person().press(Key.ENTER);
    await person().read("10 lists renamed");
    await carryOut();
    await person().goBy("acro coaches", "Acro Pairs, coaches");
    await person().read("bb-acro-team@lists.copperwheel.example");
    await person().read("bb-acro-coaches-2627@lists.copperwheel.example works until");
  });

  test("a private list is made of people of one's own choice and written to", async () => {
    await person().goBy("Private", "Private lists");
    await person().tabTo("Name of a new private list");
    await person().press("Stage hands", Key.ENTER);
    await person().see("heading", "Stage hands");
    await person().tabTo("Add somebody");
    await person().press("teo bram");
    await person().see("option", "Teo Bramwell");
    await person().press(Key.ENTER);
    await person().read("1 person");
    expect(await person().findings()).toEqual([]);
    await person().click("link", "Mail");
    await person().click("button", "Write a mail");
    await person().type("To", "stage");
    await person().see("option", "Stage hands");
    await person().press(Key.ENTER);
    await person().read("1 address in 1 family");
    await person().read("one mail to each person");
    await person().read("Saved as a draft");
  });

  test("the next season is shown, opened, and last season's list says which there is now", async () => {
    await person().goBy("Seasons", "Seasons");
    await person().tabTo("Open the next season");
    await person().press(Key.ENTER);
    await person().read("Everybody in the roster is carried over");
    expect(await person().findings()).toEqual([]);
    await person().tabTo("Preview: open 2027-28");
    await person().press(Key.ENTER);
    await person().read("31 lists made");
    await until(
      "the button in focus",
      () => person().focused(),
      (name) => name.includes("Open 2027-28 and close 31 lists"),
    );
    await person().press(Key.ENTER);
    await person().see("status", "2027-28 is the current season");
    await person().go("/lists?season=2026-27");
    await person().read("season over");
    await person().click("link", "Wire Walk, guardians");
    await person().read("The season 2026-27 is over.");
    expect(await person().findings()).toEqual([]);
    await person().click("link", "Wire Walk, guardians");
    await person().read("ml-wire-parents-2728@lists.copperwheel.example");
    expect(await person().errors()).toEqual([]);
  });
});
