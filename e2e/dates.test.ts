import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { join } from "node:path";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { simpleParser } from "mailparser";
import nodemailer from "nodemailer";
import { Key } from "selenium-webdriver";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { OpenedLetter } from "@amigo/mailtown/mailboxes";
import { Person, WAIT } from "./browser";
import { beginWithRoster, openHouse } from "./openHouse";

const house = openHouse();
const juno = (): Person => house.person;
const CLEO = "cleodunmore89@fernpost.example";
const ANA = "anadarcy17@fernpost.example";
let phone: Person;

beforeAll(async () => {
  phone = await Person.open(house.stack.url);
  await phone.narrow(360, 740);
});
afterAll(() => phone?.close());

/** Waits for a letter whose subject begins with some words. */
async function letter(mailbox: string, subject: string): Promise<OpenedLetter> {
  let found: OpenedLetter | undefined;
  await phone.driver.wait(
    async () => {
      found = (await house.stack.town.boxes.lettersOf(mailbox)).find((one) =>
        one.subject.startsWith(subject),
      );
      return found !== undefined;
    },
    WAIT,
    `no letter in ${mailbox} begins with "${subject}"`,
  );
  if (found === undefined) throw new Error("no letter");
  return found;
}

describe("a rehearsal for two classes", () => {
  test("is made by keys: lists found by a word, the number of addresses on the button", async () => {
    await beginWithRoster(juno());
    await juno().go("/dates");
    await juno().read("No dates in these weeks");
    await juno().tabTo("Make a date");
    await juno().press(Key.ENTER);
    await juno().see("heading", "Make a date");
    await juno().type("Title", "Dress rehearsal");
    await juno().press(Key.TAB);
    for (const words of ["trapeze two guard", "wire walk guard"]) {
      await juno().press(...words);
      await juno().see("option", words.startsWith("trapeze") ? "Trapeze Two" : "Wire Walk");
      await juno().press(Key.ENTER);
    }
    await juno().see("button", "Remove Wire Walk");
    await juno().type("Place", "Mill Loft");
    expect(await juno().findings()).toEqual([]);
    await juno().tabTo("Invite ");
    expect(await juno().focused()).toMatch(/^Invite \d{2,3} addresses$/);
    await juno().press(Key.ENTER);
    await juno().see("heading", "Who comes");
    await juno().see("tab", "Not answered");
    expect(await juno().findings()).toEqual([]);
  });

  test("a family says on a phone that three of them come, without an account", async () => {
    const { text } = await letter(CLEO, "Invitation: Dress rehearsal");
    expect(text).toContain("Mill Loft");
    const [path = ""] = /\/date\/[a-z0-9]+\?answer=yes/.exec(text) ?? [];
    await phone.go(path);
    await phone.see("heading", "Dress rehearsal");
    expect(await phone.findings()).toEqual([]);
    expect(await phone.misfits()).toEqual([]);
    await phone.type("How many of you?", "3");
    await phone.type("A note", "With the twins");
    await phone.click("button", "Send answer");
    await phone.read("Yes, I'll come");
    await juno().see("tab", "Come (1)");
    await juno().click("tab", "Come");
    await juno().read("With the twins");
    await juno().read("3 people");
  });

  test("a calendar program answers by mail, and its answer counts", async () => {
    const { id } = await letter(ANA, "Invitation: Dress rehearsal");
    const { raw } = (await house.stack.town.boxes.letter(id)) ?? {};
    const mail = await simpleParser(Buffer.from(raw ?? ""));
    const calendar = (mail.attachments[0]?.content.toString() ?? "").replace(/\r?\n[ \t]/g, "");
    const [, uid = ""] = /^UID:(.+?)\r?$/m.exec(calendar) ?? [];
    const [, organiser = ""] = /^ORGANIZER.*mailto:(.+?)\r?$/m.exec(calendar) ?? [];
    const transport = nodemailer.createTransport({
      host: "127.0.0.1",
      port: house.stack.amigo.ports.incoming,
      ignoreTLS: true,
    });
    await transport.sendMail({
      from: ANA,
      to: organiser,
      subject: "Declined: Dress rehearsal",
      text: "Ana has declined.",
      icalEvent: {
        method: "REPLY",
        content: `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nMETHOD:REPLY\r\nBEGIN:VEVENT\r\nUID:${uid}\r\nATTENDEE;PARTSTAT=DECLINED:mailto:${ANA}\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n`,
      },
    });
    transport.close();
    await juno().see("tab", "Can't (1)");
  });

  test("moved to another place, it is told to those who were invited", async () => {
    await juno().click("button", "Change");
    await juno().type("Place", "Big Barn");
    await juno().chooseFile(join(SAMPLES_FOLDER, "pasted.txt"));
    await juno().read("pasted.txt");
    await juno().click("button", "Save, and tell");
    await juno().read("Big Barn");
    await juno().see("link", "pasted.txt");
    expect((await letter(CLEO, "Changed: Dress rehearsal")).text).toContain("the place, the files");
  });

  test("has a file, which the family opens by their link", async () => {
    const { text } = await letter(CLEO, "Changed: Dress rehearsal");
    const [path = ""] = /\/date\/[a-z0-9]+/.exec(text) ?? [];
    await phone.go(path);
    const href = await (await phone.see("link", "pasted.txt")).getAttribute("href");
    const [status, size] = await phone.driver.executeAsyncScript<[number, number]>(
      "const [path, done] = arguments; fetch(path).then(async (answer) => done([answer.status, (await answer.text()).length]))",
      href,
    );
    expect([status, size > 100]).toEqual([200, true]);
  });

  test("its list of who comes is printed, and those who haven't answered are asked again", async () => {
    const href = await (await juno().see("link", "Print")).getAttribute("href");
    const type = await juno().driver.executeAsyncScript<string>(
      "const [path, done] = arguments; fetch(path).then((answer) => done(answer.headers.get('content-type')))",
      href,
    );
    expect(type).toBe("application/pdf");
    await juno().click("tab", "Not answered");
    const silent = await juno().driver.executeScript<string>(
      "return /\\S+@\\S+/.exec([...document.querySelectorAll('main li')].at(-1).innerText)[0]",
    );
    await juno().click("button", "Ask ");
    await juno().read("Asked ");
    expect((await letter(silent, "Please answer: Dress rehearsal")).text).toContain("answer=yes");
  });

  test("a child who moves into one of its classes brings it to the family", async () => {
    await juno().go("/sources");
    await juno().read("220 rows");
    await juno().chooseFile(join(SAMPLES_FOLDER, "autumn-roster-week-2.xlsx"));
    await juno().click("button", "Import 221 students");
    await juno().click("button", "Bring ");
    await juno().read("No round is open");
    const { text } = await letter("falth.ilse@fernpost.example", "Invitation: Dress rehearsal");
    expect(text).toContain("Big Barn");
  });

  test("stands in the weeks and the month, and is found on a phone with its answers", async () => {
    await juno().go("/dates");
    await juno().see("link", "Dress rehearsal");
    expect(await juno().findings()).toEqual([]);
    await juno().click("tab", "Month");
    expect(await juno().findings()).toEqual([]);
    await juno().click("tab", "Coming");
    await juno().see("link", "Dress rehearsal");
    await juno().emulate(360, 740, "light");
    expect(await juno().misfits()).toEqual([]);
    expect(await juno().findings()).toEqual([]);
    await juno().emulate(1280, 800, "light");
  });

  test("called off, it tells everybody why", async () => {
    await juno().click("link", "Dress rehearsal");
    await juno().click("button", "Call off");
    await juno().type("Reason", "The roof leaks.");
    await juno().click("button", "Call off and tell");
    await juno().read("This date was called off. The roof leaks.");
    expect((await letter(CLEO, "Called off: Dress rehearsal")).text).toContain("The roof leaks.");
    expect(await juno().findings()).toEqual([]);
  });

  test("brought back, everybody is invited again", async () => {
    const invitations = async (): Promise<number> =>
      (await house.stack.town.boxes.lettersOf(CLEO)).filter(({ subject }) =>
        subject.startsWith("Invitation: Dress rehearsal"),
      ).length;
    const before = await invitations();
    await juno().click("button", "Undo: invite everybody again");
    await juno().see("button", "Call off");
    await juno().driver.wait(async () => (await invitations()) > before, WAIT, "no invitation");
  });
});

describe("a calendar at a web address", () => {
  const CALENDAR = [
    "BEGIN:VCALENDAR",
    "VERSION:2.0",
    "BEGIN:VEVENT",
    "UID:1@league.example",
    "DTSTART:20270612T140000Z",
    "DTEND:20270612T160000Z",
    "SUMMARY:Street parade",
    "END:VEVENT",
    "END:VCALENDAR",
  ].join("\r\n");
  let served = "<html>Nothing here</html>";
  const server = createServer((_, response) => response.end(served));
  beforeAll(async () => {
    await new Promise<void>((resolve) => {
      server.listen(0, "127.0.0.1", resolve);
    });
  });
  afterAll(async () => {
    await new Promise((resolve) => {
      server.close(resolve);
      server.closeAllConnections();
    });
  });

  test("is watched once it has dates, and what it has is reviewed before anybody is invited", async () => {
    const { port } = server.address() as AddressInfo;
    await juno().go("/dates/import?from=web");
    await juno().type("Web address", `http://127.0.0.1:${port}/league.ics`);
    await juno().type("What this list is called", "League");
    await juno().click("button", "Dates without a team go to");
    await juno().click("option", "Wire Walk, guardians");
    await juno().click("button", "Watch this address");
    await juno().see("alert", "");
    served = CALENDAR;
    await juno().click("button", "Watch this address");
    await juno().see("cell", "Street parade");
    expect(await juno().findings()).toEqual([]);
    await juno().emulate(360, 740, "light");
    expect(await juno().misfits()).toEqual([]);
    await juno().emulate(1280, 800, "light");
    await juno().click("button", "Import 1 change");
    await juno().click("link", "To the dates");
    await juno().click("tab", "Coming");
    await juno().see("link", "Street parade");
  });
});
