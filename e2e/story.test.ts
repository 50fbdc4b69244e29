import { join } from "node:path";
import { Key } from "selenium-webdriver";
import { describe, expect, test } from "vitest";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { mailboxesOf } from "@amigo/server/testing/truth";
import { until } from "@amigo/server/testing/testHouse";
import { openHouse } from "./openHouse";
import { startStack } from "./stack";

const house = openHouse();

const sample = (file: string): string => join(SAMPLES_FOLDER, file);

/** The letters in a mailbox of Mailtown whose subject ends with some words. */
async function lettersAbout(address: string, words: string) {
  return (await house.stack.town.boxes.lettersOf(address)).filter(({ subject }) =>
    subject.endsWith(words),
  );
}

describe("from a roster sheet to an announcement in the families' mailboxes", () => {
  test("she signs in by one click in the demo house", async () => {
    await house.person.read("This is a demo school");
    expect(await house.person.findings()).toEqual([]);
    await house.person.click("button", "Juno Abara");
    await house.person.read("Lists come out of your roster");
  });

  test("a file that is none is told in a sentence, and nothing is kept", async () => {
    await house.person.click("link", "Sources");
    await house.person.read("Drop the roster here");
    await house.person.chooseFile(sample("truth.json"));
    await house.person.see("alert", "This file isn't a spreadsheet");
    await house.person.click("button", "Close");
    await house.person.read("Drop the roster here");
  });

  test("the roster is shown as a sheet with its meanings, its faults stepped through by keys", async () => {
    await house.person.chooseFile(sample("autumn-roster.xlsx"));
    await house.person.see("button", "Import 220 students");
    await house.person.read("222 rows, 2 set aside");
    await house.person.see("button", 'Column "Class(es)" holds Classes');
    await house.person.press("n");
    await house.person.see("status", "Row 11, column H: there is no domain after the @");
    await house.person.press("n");
    await house.person.see("status", "column J: there is no @");
    await house.person.press("p");
    await house.person.see("status", "Row 11, column H");
    expect(await house.person.findings()).toEqual([]);
  });

  test("a meaning can be changed, and taken back", async () => {
    await house.person.click("button", 'Column "Email 2" holds Guardian 2address');
    await house.person.click("option", "Not used");
    await house.person.see("button", 'Column "Email 2" holds Not used');
    await house.person.click("button", 'Column "Email 2" holds Not used');
    await house.person.click("option", "Guardian 2, address");
    await house.person.see("button", 'Column "Email 2" holds Guardian 2address');
  });

  test("the first round gathers 220 students by class and is carried out by one button", async () => {
    await house.person.click("button", "Import 220 students");
    await house.person.read("32 students, 50 parents, 3 new lists");
    expect(await house.person.findings()).toEqual([]);
    await house.person.click("button", "Bring 30 lists in step");
    await house.person.see("status", "30 lists brought in step: 671 addresses joined, 0 left.");
    await house.person.read("No round is open");
  });

  test("the board shows every class with its lists in step, and is gone through by keys", async () => {
    await house.person.click("link", "Board");
    await house.person.read("31 lists, all in step");
    const cell = await house.person.see("link", "Acro Pairs, Students: 20 members");
    await house.person.driver.executeScript("arguments[0].focus()", cell);
    await house.person.press(Key.ARROW_RIGHT, Key.ARROW_DOWN);
    const focused = await house.person.driver.switchTo().activeElement();
    expect(await focused.getText()).toContain("bb-jugg1-parents-2627");
    expect(await house.person.findings()).toEqual([]);
    await house.person.press(Key.ENTER);
    await house.person.see("heading", "Juggling One, guardians");
  });

  test("a list has its address, its rules and its members with the reason", async () => {
    await house.person.read("bb-jugg1-parents-2627@lists.copperwheel.example");
    await house.person.read("mail from anyone else is returned with a reason");
    await house.person.type("Find a member", "halim achterberg");
    await house.person.read("1 of 38 found");
    await house.person.see("row", "guardian of Lumi AchterbergAutumn roster, row 7");
    await house.person.type("Address to try", "stranger@oakmail.example");
    await house.person.click("button", "Try", true);
    await house.person.see("status", "Returned. stranger@oakmail.example would be told why.");
    expect(await house.person.findings()).toEqual([]);
  });

  test("week two shows exactly what changed, with the cells before and after", async () => {
    await house.person.click("link", "Sources");
    await house.person.read("220 rows, 2 set aside");
    await house.person.chooseFile(sample("autumn-roster-week-2.xlsx"));
    await house.person.see("button", "Import 221 students");
    await house.person.read('Classes: the column is now called "Class group"; it was "Class(es)".');
    await house.person.read('Coach: the column "Coach" has moved.');
    await house.person.click("button", "Import 221 students");
    await house.person.read("14 changes: 14 accepted, 0 on hold");
    for (const [group, count] of [
      ["Moved class", 3],
      ["Joined", 4],
      ["Left", 3],
      ["Address changed", 3],
      ["Name changed", 1],
    ] as const)
      await house.person.read(`${group} ${count}`);
    await house.person.read("Amara Jansone moved from Stilts & Clowning to Acro Pairs");
    await house.person.read("− Stilts & Clowning");
    await house.person.read("+ Acro Pairs");
  });

  test("one cause is held by keys, the rest accepted", async () => {
    await house.person.press("j");
    await house.person.see(
      "heading",
      "Hana Kettering moved from Aerial Silks Start to Tumbling Seeds",
    );
    await house.person.press("h");
    await house.person.read("14 changes: 13 accepted, 1 on hold");
    await house.person.click("button", "lists in step");
    await house.person.see("status", "Changes on hold are listed here.");
    await house.person.see(
      "heading",
      "Hana Kettering moved from Aerial Silks Start to Tumbling Seeds",
    );
    await house.person.read("Held in round 2 by Juno Abara.");
    await house.person.read("1 change: 0 accepted, 1 on hold");
    expect(await house.person.seesNot("button", "Bring")).toBe(true);
  });

  test("a list is found by the start of its name, and written to", async () => {
    await house.person.chord(Key.CONTROL, "k");
    await house.person.type("Find", "write");
    await house.person.see("option", "Write a mail");
    await house.person.press(Key.ENTER);
    await house.person.see("heading", "Write");
    await house.person.type("To", "hoops gua");
    await house.person.see("option", "Hoops and Staff, guardians");
    await house.person.press(Key.ENTER);
    await house.person.read("31 addresses in");
    await house.person.type("Subject", "Grips & <b>gloves</b>");
    await house.person.type("Text", "Dear families,\nplease bring grips.");
    expect(await house.person.findings()).toEqual([]);
    await house.person.chord(Key.CONTROL, Key.ENTER);
    await house.person.read("✓ 31 delivered");
    expect(await house.person.findings()).toEqual([]);
  });

  test("the mail lies in each family's mailbox in Mailtown, once", async () => {
    // Leads may have had their daily note meanwhile.
    const all = await Promise.all(
      house.stack.town.boxes.all().map(async ({ address }) => ({
        address,
        letters: (await lettersAbout(address, "Grips & <b>gloves</b>")).length,
      })),
    );
    const boxes = all.filter(({ letters }) => letters > 0);
    expect(boxes.every(({ letters }) => letters === 1)).toBe(true);
    expect(boxes).toHaveLength(31);
    const before = mailboxesOf("Hoops and Staff").filter(
      (address) => address !== "mwojcik@brightpost.example",
    );
    expect(boxes.map(({ address }) => address)).toEqual(expect.arrayContaining(before));
    const town = `http://localhost:${house.stack.town.ports.page}`;
    await house.person.driver.get(`${town}/mailbox/egreaves%40oakmail.example`);
    await house.person.click("link", "Grips & <b>gloves</b>");
    await house.person.read("please bring grips.");
  });

  test("an answer from Mailtown to the list is returned, and reaches nobody", async () => {
    const answers = async (): Promise<string[]> =>
      (
        await Promise.all(
          house.stack.town.boxes.all().map(async ({ address }) => {
            const letters = await lettersAbout(address, "Re: Grips & <b>gloves</b>");
            return letters.map(() => address);
          }),
        )
      ).flat();
    await house.person.type("To", "ml-hoops-parents-2627@lists.copperwheel.example");
    await house.person.type("Text", "To all of you!");
    await house.person.click("button", "Send");
    await house.person.see("status", "Sent to ml-hoops-parents-2627@lists.copperwheel.example.");
    expect(await until("the note", answers, (found) => found.length > 0)).toEqual([
      "egreaves@oakmail.example",
    ]);
    const [note] = await house.stack.town.boxes.lettersOf("egreaves@oakmail.example");
    expect(note?.subject).toBe("Returned: Re: Grips & <b>gloves</b>");
  });

  test("a coach's sheet is taken for a source of its own, not for the roster", async () => {
    await house.person.go("/sources");
    await house.person.read("221 rows, 2 set aside");
    await house.person.chooseFile(sample("troupes.ods"));
    await house.person.see("button", "Import into: As a new source");
    await house.person.click("button", "Import into");
    await house.person.click("option", "Into Autumn roster");
    await house.person.read("If you import it there, it replaces that sheet.");
    await house.person.read("No column holds Surname any more");
    await house.person.click("button", "Cancel import");
    await house.person.read("221 rows, 2 set aside");
  });

  test("the same file once more is told, and nothing is kept twice", async () => {
    await house.person.chooseFile(sample("autumn-roster-week-2.xlsx"));
    await house.person.click("button", "Import 221 students");
    await house.person.see(
      "heading",
      "Hana Kettering moved from Aerial Silks Start to Tumbling Seeds",
    );
    await house.person.read("Held in round 2 by Juno Abara.");
  });

  test("a coach sees only what is theirs", async () => {
    await house.person.go("/");
    await house.person.click("button", "Sign out");
    await house.person.click("button", "Petra Dunmore");
    await house.person.see("link", "Hoops and Staff, Guardians");
    expect(await house.person.seesNot("link", "Juggling One")).toBe(true);
    expect(await house.person.seesNot("link", "Changes")).toBe(true);
    await house.person.go("/changes");
    await house.person.read("Page not found");
  });
});

describe("an empty house", () => {
  test("is set up on its first page", async () => {
    const empty = await startStack({ demo: false });
    try {
      await house.person.driver.get(empty.url);
      await house.person.read("Set up your school");
      await house.person.type("Name of the school", "Copperwheel Circus School");
      await house.person.type("Inside domain", "copperwheel.example");
      await house.person.type("Your name", "Juno Abara");
      await house.person.type("Your email address", "house.person.abara@copperwheel.example");
      await house.person.type("Password", "a long password");
      expect(await house.person.findings()).toEqual([]);
      await house.person.click("button", "Set up and sign in");
      await house.person.read("Lists come out of your roster");
      expect(await house.person.seesNot("link", "Mailtown")).toBe(true);
    } finally {
      await house.person.driver.get("about:blank");
      await empty.close();
    }
  });
});
