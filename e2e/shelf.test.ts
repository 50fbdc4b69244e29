import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { Key } from "selenium-webdriver";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { Person, WAIT } from "./browser";
import { beginWithRoster, openHouse } from "./openHouse";

const house = openHouse();
const juno = (): Person => house.person;
/** A family whose only child leaves in the second week, and the list that they are on. */
const FAMILY = "sjoberg.ines@fernpost.example";
const LIST = "Juggling One, guardians";
let phone: Person;
let folder = "";

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), "amigo-shelf-"));
  phone = await Person.open(house.stack.url);
  await phone.narrow(360, 740);
});
afterAll(async () => {
  await phone?.close();
  rmSync(folder, { recursive: true, force: true });
});

function paper(name: string, text: string): string {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
}
/** Waits for a letter whose subject begins with some words, and returns its text. */
async function letter(subject: string): Promise<string> {
  let text = "";
  await phone.driver.wait(
    async () => {
      const letters = await house.stack.town.boxes.lettersOf(FAMILY);
      const found = letters.find((one) => one.subject.startsWith(subject));
      text = found?.text ?? "";
      return found !== undefined;
    },
    WAIT,
    `no letter begins with "${subject}"`,
  );
  return text;
}
const isSendable = async (): Promise<boolean> =>
  (await juno().see("button", "Send to ")).isEnabled();
/** Makes a private list of a family's address by the API, as a person does it by typing their name, and returns its id. */
const PRIVATE_LIST = `
  const [address, done] = arguments;
  const ask = (path, body) => fetch(path, body && { method: "POST", body: JSON.stringify(body),
    headers: { "Content-Type": "application/json" } }).then((answer) => answer.json());
  ask("/api/person-hits?q=" + encodeURIComponent(address))
    .then(([person]) => ask("/api/private-lists", { name: "A few families", people: [person.id] }))
    .then(({ id }) => done(id));`;
/** Opens something from the page that is shown, and returns what comes. */
async function openThing(href: string): Promise<[number, string]> {
  return phone.driver.executeAsyncScript<[number, string]>(
    "const [path, done] = arguments; fetch(path).then(async (answer) => done([answer.status, await answer.text()]));",
    href,
  );
}

describe("a handout for a class", () => {
  let href = "";

  test("is put on the shelf of its list, and its members are told by a mail with a link", async () => {
    await beginWithRoster(juno());
    await juno().goBy(LIST);
    await juno().click("tab", "Shelf");
    await juno().chooseFile(paper("Kit list.txt", "Bring soft shoes."));
    await juno().see("cell", "Kit list.txt");
    await juno().type("A few words with it", "For Saturday.");
    expect(await juno().findings()).toEqual([]);
    await juno().click("button", "Tell ");
    await juno().read("Told ");
    expect(await letter("New on the shelf: Kit list")).toContain("For Saturday.");
  });

  test("is opened by a family on a phone, from the mail and their own page", async () => {
    const [path = ""] = /\/member\/shelf\/[\w-]+/.exec(await letter("New on the shelf")) ?? [];
    await phone.go(path);
    await phone.type("Your address", FAMILY);
    await phone.click("button", "Mail me");
    const [enter = ""] = /\/member\/[\w-]{20,}/.exec(await letter("Your lists at")) ?? [];
    await phone.go(enter);
    await phone.click("button", "Open my page");
    // What they wanted to open is there at once.
    await phone.read("To your page");
    await phone.read("Those who lead a list see who has opened");
    await phone.click("button", "Open Kit list");
    // It is shown in the page, and can have a window of its own.
    const shown = await phone.see("link", "Open in a window");
    href = (await shown.getAttribute("href")) ?? "";
    expect(await phone.misfits()).toEqual([]);
    expect(await phone.findings()).toEqual([]);
    expect(await openThing(href)).toEqual([200, "Bring soft shoes."]);
    await juno().read("1 of ");
    await phone.press(Key.ESCAPE);
  });

  test("is talked about by the family and whoever leads the list", async () => {
    await juno().click("button", "Kit list");
    await juno().click("button", "Members may");
    await juno().click("option", "view and comment");
    await juno().click("button", "Save");
    await juno().see("cell", "view and comment");
    await phone.go("/member");
    await phone.click("button", "Comment");
    await phone.type("Your comment", "Is the belt needed for the small ones, too?");
    await phone.click("button", "Add comment");
    await phone.read("You get a mail when somebody comments");
    expect(await phone.misfits()).toEqual([]);
    expect(await phone.findings()).toEqual([]);
    await juno().read("1 comment");
    await juno().click("button", "Kit list");
    await juno().read("Is the belt needed");
    await juno().type("Your comment", "No, only from level 3.");
    expect(await juno().findings()).toEqual([]);
    await juno().click("button", "Add comment");
    expect(await letter("Juno Abara on Kit list")).toContain("only from level 3");
    await juno().click("button", "Close");
    await phone.go("/member");
    await phone.click("button", "2 comments");
    await phone.read("No, only from level 3.");
  });

  test("that is large comes piece by piece, and a mail to its list takes it as a link", async () => {
    const film = join(folder, "Film of the act.mp4");
    writeFileSync(film, Buffer.alloc(17 * 1024 * 1024, 7));
    await juno().click("button", "Write to ");
    await juno().type("Subject", "The film");
    await juno().type("Text", "See for yourselves.");
    await juno().driver.wait(isSendable, WAIT, "the mail isn't ready");
    await juno().chooseFile(film);
    await juno().read("No mail can carry Film of the act.mp4");
    // Sent now, the mail would go without it.
    expect(await isSendable()).toBe(false);
    expect(await juno().findings()).toEqual([]);
    await juno().click("button", "Put on the shelf of Juggling One, guardians");
    await juno().see("link", "Film of the act");
    await juno().click("button", "Send to ");
    expect(await letter("The film")).toMatch(/Film of the act.*\/member\/shelf\//s);
    await juno().goBy(LIST);
    await juno().click("tab", "Shelf");
    await juno().see("button", "Film of the act");
  });

  test("has a new version, and the one before is kept", async () => {
    await juno().click("button", "Kit list");
    await juno().read("can open it now");
    expect(await juno().findings()).toEqual([]);
    const input = await juno().see("dialog", "");
    await input
      .findElement({ css: "input[type=file]" })
      .sendKeys(paper("Kit list.txt", "Bring soft shoes and a belt."));
    await juno().see("button", "Restore");
    expect(await openThing(href)).toEqual([200, "Bring soft shoes and a belt."]);
    await juno().click("button", "Restore");
    await phone.driver.wait(
      async () => (await openThing(href))[1] === "Bring soft shoes.",
      WAIT,
      "the first version isn't used again",
    );
    await juno().click("button", "Close");
  });

  test("is changed in two browsers at once by the first; the second is told, and loses nothing", async () => {
    const other = await Person.open(house.stack.url);
    try {
      await other.click("button", "Juno Abara");
      await other.read("Sign out");
      await other.goBy(LIST);
      await other.click("tab", "Shelf");
      for (const person of [juno(), other]) {
        await person.click("button", "Kit list");
        await person.read("can open it now");
      }
      await juno().type("Title", "Kit list for the show");
      await juno().click("button", "Save");
      await juno().see("button", "Kit list for the show");
      await other.type("Title", "What to bring");
      await other.click("button", "Save");
      await other.read("has changed it meanwhile");
      expect(await (await other.see("textbox", "Title")).getAttribute("value")).toBe(
        "What to bring",
      );
    } finally {
      await other.close();
    }
  });

  test("comes as a whole folder or is pasted, and a kind that the list's rules don't allow is refused", async () => {
    mkdirSync(join(folder, "Costumes", "Small"), { recursive: true });
    paper(join("Costumes", "Hats.txt"), "hats");
    paper(join("Costumes", "Small", "Sizes.txt"), "sizes");
    paper(join("Costumes", ".hidden"), "of the system");
    await juno().chooseFolder(join(folder, "Costumes"));
    await juno().see("button", "Costumes / Hats");
    await juno().see("button", "Costumes – Small / Sizes");
    await juno().pasteFile("Poster.png", "a picture");
    await juno().see("button", "Poster");
    await juno().pasteFile("Setup.exe", "a program");
    await juno().read('"Setup.exe" can\'t be on the shelf of Juggling One, guardians');
    expect(await juno().text()).not.toContain("hidden");
    expect(await juno().findings()).toEqual([]);
  });

  test("is shared with a few by a private list, of which they learn nothing", async () => {
    await juno().go("/people");
    const id = await juno().driver.executeAsyncScript<string>(PRIVATE_LIST, FAMILY);
    await juno().go(`/mail/private/${id}`);
    await juno().read("They see you as the person who shares them");
    await juno().chooseFile(paper("Only for you.txt", "psst"));
    await juno().click("button", "Tell 1 address");
    await juno().read("Told 1 address");
    expect(await juno().findings()).toEqual([]);
    const text = await letter("New on the shelf: Only for you");
    expect(text).not.toContain("A few families");
    await phone.go("/member");
    await phone.read("Only for you");
    expect(await phone.text()).not.toContain("A few families");
    expect(await phone.misfits()).toEqual([]);
  });

  test("isn't open to the family any more from the moment that their child has left", async () => {
    await juno().go("/sources");
    await juno().read("220 rows");
    await juno().chooseFile(join(SAMPLES_FOLDER, "autumn-roster-week-2.xlsx"));
    await juno().click("button", "Import 221 students");
    await juno().click("button", "Bring ");
    await juno().read("No round is open");
    expect((await openThing(href))[0]).toBe(404);
    await phone.go("/member");
    await phone.read("You are on no list");
    expect((await phone.text()).includes("Kit list")).toBe(false);
  });
});
