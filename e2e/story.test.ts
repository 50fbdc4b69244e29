import { join } from "node:path";
import axe from "axe-core";
import { Key } from "selenium-webdriver";
import { afterAll, afterEach, beforeAll, describe, expect, test } from "vitest";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { mailboxesOf } from "@amigo/server/testing/truth";
import { until } from "@amigo/server/testing/testHouse";
import { Person } from "./browser";
import { startStack, type Stack } from "./stack";

let stack: Stack;
let juno: Person;

beforeAll(async () => {
  stack = await startStack();
  juno = await Person.open(stack.url);
});
afterAll(async () => {
  await juno?.close();
  await stack?.close();
});
afterEach(async ({ task }) => {
  if (task.result?.state === "fail") await juno.leaveEvidence(task.name.replace(/\W+/g, "-").slice(0, 60));
  else expect(await juno.errors()).toEqual([]);
});

const sample = (file: string): string => join(SAMPLES_FOLDER, file);

/** What axe-core finds serious on the page as it is. */
async function seriousFindings(): Promise<string[]> {
  await juno.driver.executeScript(axe.source);
  const found = await juno.driver.executeAsyncScript<{ violations: { id: string; impact: string; nodes: { html: string }[] }[] }>("const done = arguments[arguments.length - 1]; axe.run(document, { resultTypes: ['violations'] }).then(done);");
  return found.violations.filter(({ impact }) => impact === "serious" || impact === "critical").map(({ id, nodes }) => `${id}: ${nodes[0]?.html.slice(0, 160) ?? ""}`);
}

describe("from a roster sheet to an announcement in the families' mailboxes", () => {
  test("she signs in by one click in the demo house", async () => {
    await juno.read("This is the demo house");
    expect(await seriousFindings()).toEqual([]);
    await juno.click("button", "Juno Abara");
    await juno.read("Lists come out of your roster");
  });

  test("a file that is none is told in a sentence, and nothing is kept", async () => {
    await juno.click("link", "Sources");
    await juno.read("Drop the roster here");
    await juno.chooseFile(sample("truth.json"));
    await juno.see("alert", "This file is no spreadsheet");
    await juno.click("button", "Close");
    await juno.read("Drop the roster here");
  });

  test("the roster is shown as a sheet with its meanings, its faults stepped through by keys", async () => {
    await juno.chooseFile(sample("autumn-roster.xlsx"));
    await juno.see("button", "Read 220 students");
    await juno.read("220 rows, 2 set aside");
    await juno.see("button", "Column \"Class(es)\" holds Classes");
    await juno.press("n");
    await juno.see("status", "Row 11, column H: there is no domain after the @");
    await juno.press("n");
    await juno.see("status", "column J: there is no @");
    await juno.press("p");
    await juno.see("status", "Row 11, column H");
    expect(await seriousFindings()).toEqual([]);
  });

  test("a meaning can be changed, and taken back", async () => {
    await juno.click("button", "Column \"Email 2\" holds Guardian 2address");
    await juno.click("option", "Not read");
    await juno.see("button", "Column \"Email 2\" holds Not read");
    await juno.click("button", "Column \"Email 2\" holds Not read");
    await juno.click("option", "Guardian 2, address");
    await juno.see("button", "Column \"Email 2\" holds Guardian 2address");
  });

  test("the first round gathers 220 students by class and is carried out by one button", async () => {
    await juno.click("button", "Read 220 students");
    await juno.read("32 students, Trapeze Two");
    expect(await seriousFindings()).toEqual([]);
    await juno.click("button", "Bring 20 lists in step");
    await juno.see("status", "20 lists brought in step: 661 addresses joined, 0 left.");
    await juno.read("No round is open");
  });

  test("the board shows every class with its lists in step, and is gone through by keys", async () => {
    await juno.click("link", "Board");
    await juno.read("20 lists, all in step");
    const cell = await juno.see("link", "Acro Pairs, Students: 20 members");
    await juno.driver.executeScript("arguments[0].focus()", cell);
    await juno.press(Key.ARROW_RIGHT, Key.ARROW_DOWN);
    const focused = await juno.driver.switchTo().activeElement();
    expect(await focused.getText()).toContain("bb-jugg1-parents-2627");
    expect(await seriousFindings()).toEqual([]);
    await juno.press(Key.ENTER);
    await juno.see("heading", "Juggling One, guardians");
  });

  test("a list has its address, its rules and its members with the reason", async () => {
    await juno.read("bb-jugg1-parents-2627@lists.copperwheel.example");
    await juno.read("Leads, helpers and coordinators may write; mail of anybody else is returned with a reason");
    await juno.type("Find a member", "halim achterberg");
    await juno.read("1 of 38 found");
    await juno.see("row", "guardian of Lumi AchterbergAutumn roster, row 7");
    await juno.type("Address to try", "stranger@oakmail.example");
    await juno.click("button", "Try", true);
    await juno.see("status", "Returned. stranger@oakmail.example would be told why.");
    expect(await seriousFindings()).toEqual([]);
  });

  test("week two shows exactly what changed, with the cells before and after", async () => {
    await juno.click("link", "Sources");
    await juno.read("220 rows read");
    await juno.chooseFile(sample("autumn-roster-week-2.xlsx"));
    await juno.see("button", "Read 221 students");
    await juno.read("Classes: the column is called \"Class group\" now, it was \"Class(es)\".");
    await juno.read("Coach: the column \"Coach\" has moved.");
    await juno.click("button", "Read 221 students");
    await juno.read("14 causes: 14 accepted, 0 held");
    for (const [group, count] of [["Moved class", 3], ["Joined", 4], ["Left", 3], ["Address changed", 3], ["Name changed", 1]] as const) await juno.read(`${group} ${count}`);
    await juno.read("Amara Jansone moved from Stilts & Clowning to Acro Pairs");
    await juno.read("− Stilts & Clowning");
    await juno.read("+ Acro Pairs");
  });

  test("one cause is held by keys, the rest accepted", async () => {
    await juno.press("j");
    await juno.see("heading", "Hana Kettering moved from Aerial Silks Start to Tumbling Seeds");
    await juno.press("h");
    await juno.read("14 causes: 13 accepted, 1 held");
    await juno.click("button", "lists in step");
    await juno.see("status", "What was held waits here.");
    await juno.see("heading", "Hana Kettering moved from Aerial Silks Start to Tumbling Seeds");
    await juno.read("Held in round 2 by Juno Abara.");
    await juno.read("1 cause: 0 accepted, 1 held");
    expect(await juno.seesNot("button", "Bring")).toBe(true);
  });

  test("a list is found by the start of its name, and written to", async () => {
    await juno.chord(Key.CONTROL, "k");
    await juno.type("Find", "write");
    await juno.see("option", "Write a mail");
    await juno.press(Key.ENTER);
    await juno.see("heading", "Write");
    await juno.type("To", "hoops gua");
    await juno.see("option", "Hoops and Staff, guardians");
    await juno.press(Key.ENTER);
    await juno.read("31 addresses in");
    await juno.type("Subject", "Grips & <b>gloves</b>");
    await juno.type("Text", "Dear families,\nplease bring grips.");
    expect(await seriousFindings()).toEqual([]);
    await juno.chord(Key.CONTROL, Key.ENTER);
    await juno.read("✓ 31 delivered");
    expect(await seriousFindings()).toEqual([]);
  });

  test("the mail lies in each family's mailbox in Mailtown, once", async () => {
    const boxes = stack.town.boxes.all().filter(({ letters }) => letters > 0);
    expect(boxes.every(({ letters }) => letters === 1)).toBe(true);
    expect(boxes).toHaveLength(31);
    const before = mailboxesOf("Hoops and Staff").filter((address) => address !== "mwojcik@brightpost.example");
    expect(boxes.map(({ address }) => address)).toEqual(expect.arrayContaining(before));
    const town = `http://localhost:${stack.town.ports.page}`;
    await juno.driver.get(`${town}/mailbox/egreaves%40oakmail.example`);
    await juno.click("link", "Grips & <b>gloves</b>");
    await juno.read("please bring grips.");
  });

  test("an answer from Mailtown to the list is returned, and reaches nobody", async () => {
    const count = (): number => stack.town.boxes.all().reduce((sum, { letters }) => sum + letters, 0);
    const before = count();
    await juno.type("To", "ml-hoops-parents-2627@lists.copperwheel.example");
    await juno.type("Text", "To all of you!");
    await juno.click("button", "Send");
    await juno.see("status", "Sent to ml-hoops-parents-2627@lists.copperwheel.example.");
    await until("the note", count, (now) => now === before + 1);
    const [note] = await stack.town.boxes.lettersOf("egreaves@oakmail.example");
    expect(note?.subject).toBe("Returned: Re: Grips & <b>gloves</b>");
  });

  test("a coach's sheet is taken for a source of its own, not for the roster", async () => {
    await juno.go("/sources");
    await juno.read("221 rows read");
    await juno.chooseFile(sample("troupes.ods"));
    await juno.read("Its columns are not those of Autumn roster, so it is taken for a source of its own.");
    await juno.see("button", "Read into: As a new source");
    await juno.click("button", "Read into");
    await juno.click("option", "Into Autumn roster");
    await juno.read("Read into it, it takes the place of that sheet.");
    await juno.read("No column holds Surname any more");
    await juno.click("button", "Leave it unread");
    await juno.read("221 rows read");
  });

  test("the same file once more is told, and nothing is kept twice", async () => {
    await juno.chooseFile(sample("autumn-roster-week-2.xlsx"));
    await juno.click("button", "Read 221 students");
    await juno.see("heading", "Hana Kettering moved from Aerial Silks Start to Tumbling Seeds");
    await juno.read("Held in round 2 by Juno Abara.");
  });

  test("a coach sees only what is theirs", async () => {
    await juno.go("/");
    await juno.click("button", "Sign out");
    await juno.click("button", "Petra Dunmore");
    await juno.see("link", "Hoops and Staff, Guardians");
    expect(await juno.seesNot("link", "Juggling One")).toBe(true);
    expect(await juno.seesNot("link", "Changes")).toBe(true);
    await juno.go("/changes");
    await juno.read("There is no such page");
  });
});

describe("an empty house", () => {
  test("is set up on its first page", async () => {
    const empty = await startStack({ demo: false });
    try {
      await juno.driver.get(empty.url);
      await juno.read("Set up your house");
      await juno.type("Name of the house", "Copperwheel Circus School");
      await juno.type("Inside domain", "copperwheel.example");
      await juno.type("Your name", "Juno Abara");
      await juno.type("Your address", "juno.abara@copperwheel.example");
      await juno.type("Password", "a long password");
      expect(await seriousFindings()).toEqual([]);
      await juno.click("button", "Set up and sign in");
      await juno.read("Lists come out of your roster");
      expect(await juno.seesNot("link", "Mailtown")).toBe(true);
    } finally {
      await juno.driver.get("about:blank");
      await empty.close();
    }
  });
});

