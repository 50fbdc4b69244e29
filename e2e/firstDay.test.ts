import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Key } from "selenium-webdriver";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { Person, WAIT } from "./browser";
import { startStack, type Stack } from "./stack";

const folder = mkdtempSync(join(tmpdir(), "amigo-first-day-"));
const sheet = (name: string, lines: string[]): string => {
  const path = join(folder, name);
  writeFileSync(path, lines.join("\n"));
  return path;
};

/** A club's sheet: rows that are counted again for each squad, the coach's address beside every child, no address for one. */
const SQUADS = sheet("squads.csv", [
  "No.;Player;Squad;Coach;Coach e-mail;Parent;Parent e-mail",
  ...["Mia Berg", "Tom Ash", "Una Lind", "Pia Roth", "Jo Marsh", "Kit Orme"].map(
    (name, at) =>
      `${at + 1};${name};U8;Sol Reyes;sol@rowers.example;Kim ${name.split(" ")[1]};k${at}@lettr.example`,
  ),
  ...["Jon Vale", "Lea Berg", "Kai Moor", "Ada Holm", "Ben Kerr", "Dov Nash"].map(
    (name, at) =>
      `${at + 1};${name};U10;Tam Ivory;tam@rowers.example;Kim ${name.split(" ")[1]};${at === 2 ? "n/a" : `m${at}@oakmail.example`}`,
  ),
]);
const ANSWERS = sheet("answers.csv", [
  "Submitted;Player;Squad;Parent;E-mail",
  "03/09/2026;Mia Berg;U8;Per Berg;per@brightpost.example",
  "04/09/2026;Kai Moor;U10;Ana Moor;ana.moor@brightpost.example",
]);

/** A sheet in which only the order could tell whose address is whose. */
const BOATS = sheet("boats.csv", [
  "Player;Squad;Mum;Dad;Mail;Mail",
  "Ida Vale;U12;Rosa Vale;Halim Vale;r1@lettr.example;h1@lettr.example",
  "Una Moor;U12;Petra Moor;Otto Moor;p2@lettr.example;o2@lettr.example",
  "Bram Roth;U12;Ana Roth;Luis Roth;a3@lettr.example;l3@lettr.example",
]);

let stack: Stack;
let person: Person;
beforeAll(async () => {
  stack = await startStack({ demo: false });
  person = await Person.open(stack.url);
});
afterAll(async () => {
  await person?.close();
  await stack?.close();
  rmSync(folder, { recursive: true, force: true });
});

describe("the first day of a club", () => {
  test("it is set up with its time zone, and says club wherever people read it", async () => {
    await person.read("Set up your school");
    await person.driver.findElement({ css: "input[name=kind]:not(:checked)" }).click();
    await person.read("Set up your club");
    await person.type("Name of the club", "Lakeside Rowers");
    await person.type("Inside domain", "rowers.example");
    await person.type("Time zone", "Europe/Helsinki");
    await person.type("Your name", "Noor Ellis");
    await person.type("Your email address", "noor@rowers.example");
    await person.type("Password", "a long password");
    expect(await person.findings()).toEqual([]);
    await person.click("button", "Set up and sign in");
    await person.read("Lists come out of your roster");
  });

  test("its sheet is imported: counted rows tell nobody apart, and coaches are no guardians", async () => {
    await person.go("/sources");
    await person.read("Drop the roster here");
    await person.chooseFile(SQUADS);
    await person.read("12 rows: 12 children.");
    await person.read('"No." isn\'t used to tell students apart');
    await person.read("It lists everybody");
    expect(await person.findings()).toEqual([]);
    await person.click("button", "Import 12 students");
    await person.see("status", "12 rows: 12 children");
    await person.read("new team");
    await person.click("button", "in step");
    await person.read("No round is open");
  }, 120_000);

  test("answers whose dates can be read both ways are asked about, and make nobody leave", async () => {
    await person.go("/sources");
    await person.read("12 rows, 0 set aside");
    await person.chooseFile(ANSWERS);
    await person.see("group", 'Which day is "03/09/2026"');
    await person.click("button", "September");
    await person.read("It only adds people");
    await person.click("button", "Import 2 students");
    await person.see("status", "2 rows: 2 children");
    await person.read("Per Berg");
    const text = await person.text();
    expect(text).not.toMatch(/\bLeft\b/);
    await person.click("button", "in step");
    await person.read("No round is open");
  });

  test("what titles leave open is one question, answered by a key and remembered for the sheet", async () => {
    const mails =
      'E Column "Mail" holds Guardian 2 address F Column "Mail" holds Guardian 1 address';
    await person.go("/sources");
    await person.read("12 rows, 0 set aside");
    await person.chooseFile(BOATS);
    await person.see("heading", 'Whose address is "Mail" (column E)?');
    await person.read("For example, mail for Rosa Vale goes to r1@lettr.example.");
    expect(await person.findings()).toEqual([]);
    await person.see("button", '"Dad" (column D)');
    await person.press("2");
    await person.read(mails);
    expect(await person.text()).not.toContain("Amigo isn't sure");
    await person.click("button", "Import 3 students");
    await person.see("status", "3 rows: 3 children");
    await person.go("/sources");
    await person.read("Boats 3 rows");
    await person.chooseFile(BOATS);
    await person.read(mails);
    expect(await person.text()).not.toContain("Amigo isn't sure");
    await person.click("button", "Cancel import");
  });

  test("a mail to a child goes to the family; what is typed last is never lost", async () => {
    await person.go("/mail/write");
    await person.type("To", "mia");
    await person.see("option", "Mia Berg");
    await person.press(Key.ENTER);
    await person.read("their guardians");
    await person.press("nobody-at-all", Key.TAB);
    await person.type("Subject", "Boats are here");
    await person.see("alert", "isn't a recipient yet");
    await person.press(Key.TAB, "Come and see them.");
    await person.chord(Key.CONTROL, Key.ENTER);
    await person.see("alert", "Nothing was sent");
    await person.type("To", "dock@oakmail.example");
    await person.press(Key.TAB);
    await person.see("button", "Remove dock@oakmail.example");
    await person.see("button", "Send to 3 addresses");
  });

  test("who leaves while a draft is being kept isn't brought back to it", async () => {
    await person.go("/mail/write");
    await person.tabTo("Subject");
    await person.driver.executeScript(
      `const own = window.fetch;
       window.kept = "not yet";
       window.fetch = async (...asked) => {
         const answer = await own(...asked);
         if (!String(asked[0].url ?? asked[0]).includes("/api/drafts")) return answer;
         const text = await answer.text();
         window.kept = "held up";
         await new Promise((go) => { window.letGo = go; });
         return new Response(text, answer);
       };`,
    );
    await person.press("Half a mail");
    await person.driver.wait(
      () => person.driver.executeScript<boolean>("return window.kept === 'held up'"),
      WAIT,
    );
    await person.click("link", "Reach");
    await person.see("heading", "Reach");
    // The answer is at hand: a few frames later the page has made of it what it makes.
    await person.driver.executeAsyncScript(
      "window.letGo(); const done = arguments[arguments.length - 1]; let frames = 6; const next = () => (frames-- === 0 ? done() : requestAnimationFrame(next)); next();",
    );
    expect(new URL(await person.driver.getCurrentUrl()).pathname).toBe("/reach");
    await person.go("/mail?show=drafts");
    await person.read("Half a mail");
  });

  test("a form half filled in is asked about before Esc discards it", async () => {
    await person.go("/sources");
    await person.read("12 rows, 0 set aside");
    await person.click("button", "Paste a sheet");
    await person.see("dialog", "Paste a sheet");
    await person.press("Name;Class", Key.ESCAPE);
    await person.see("alert", "Discard what you typed?");
    await person.press(Key.ESCAPE);
    await person.see("dialog", "Paste a sheet");
    await person.press(Key.ESCAPE);
    await person.click("button", "Discard");
    expect(await person.seesNot("dialog", "Paste a sheet")).toBe(true);
  });

  test("any cell is corrected by keys, and the family's lists follow", async () => {
    await person.go("/sources");
    await person.read("12 rows, 0 set aside");
    await person.click("link", "Squads");
    await person.read("12 rows, 0 set aside");
    const table = await person.see("table", "The sheet");
    await person.driver.executeScript("arguments[0].focus()", table);
    await person.press(Key.ARROW_DOWN, Key.ARROW_RIGHT);
    await person.see("heading", "Row 2, column B: correct this cell");
  });
});
