import nodemailer from "nodemailer";
import { join } from "node:path";
import { By, Key, until } from "selenium-webdriver";
import { afterAll, describe, expect, test } from "vitest";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { Person, WAIT } from "./browser";
import { openHouse } from "./openHouse";

const house = openHouse();
const PAVEL = "pbellweather@fernpost.example";
const opened: Person[] = [];
afterAll(async () => {
  for (const person of opened) await person.close();
});

async function as(name: string): Promise<Person> {
  const person = await Person.open(house.stack.url);
  opened.push(person);
  await person.click("button", name);
  await person.read("Sign out");
  return person;
}

/** The address of a link in the newest letters of a mailbox in Mailtown. */
async function linkIn(mailbox: string, place: string, words = ""): Promise<string> {
  const pattern = new RegExp(`/${place}/[\\w/-]+`);
  let found = "";
  await house.person.driver.wait(
    async () => {
      const letters = await house.stack.town.boxes.lettersOf(mailbox);
      found =
        letters
          .filter(({ text }) => text.includes(words))
          .flatMap(({ text }) => pattern.exec(text)?.[0] ?? [])[0] ?? "";
      return found !== "";
    },
    WAIT,
    `no letter in ${mailbox} has a link to ${place}`,
  );
  return found;
}

async function forge(subject: string): Promise<void> {
  const transport = nodemailer.createTransport({
    host: "127.0.0.1",
    port: house.stack.amigo.ports.incoming,
    ignoreTLS: true,
  });
  try {
    await transport.sendMail({
      envelope: {
        from: "somebody@lettr.example",
        to: "bb-jugg1-parents-2627@lists.copperwheel.example",
      },
      from: "Teo Bramwell <teo.bramwell@copperwheel.example>",
      to: "bb-jugg1-parents-2627@lists.copperwheel.example",
      subject,
      text: "Please bring black shoes.",
      html: "<p>Please bring <b>black shoes</b>.</p><script>document.title = 'harm'</script><img src=\"http://tracker.example/x.png\">",
    });
  } finally {
    transport.close();
  }
}

describe("rules, permission and members", () => {
  let teo: Person;

  test("a coach makes the parent list that he wants, and asks where a house rule stands in the way", async () => {
    const juno = house.person;
    await juno.click("button", "Juno Abara");
    await juno.see("link", "Changes");
    await juno.go("/sources");
    await juno.read("Drop the roster here");
    await juno.chooseFile(join(SAMPLES_FOLDER, "autumn-roster.xlsx"));
    await juno.click("button", "Import 220 students");
    await juno.click("button", "Bring 30 lists in step");
    await juno.read("No round is open");
    teo = await as("Teo Bramwell");
    await teo.goBy("Make a list", "Make a list");
    await teo.see("heading", "Make a list");
    await teo.press("Show families");
    await teo.tabTo("Addresses to add by hand");
    await teo.press(`aholloway@mailhaven.example; ${PAVEL}, cingleby@lettr.example`);
    await teo.read("3 addresses, 3 to add");
    await teo.read("Replies go to the leads");
    await teo.read("You can ask a coordinator to allow it for this list");
    expect(await teo.findings()).toEqual([]);
    await teo.tabTo("Preview");
    await teo.press(Key.ENTER);
    await teo.read('House rule: for other lists, outside addresses: "none"');
    await teo.type("What it is for", "families answer from their own addresses");
    await teo.click("button", "Ask for it");
    await teo.see("status", "Asked Juno Abara");
  });

  test("the coordinator sees what a yes does, and says it; the list is there with the addresses that waited", async () => {
    const juno = house.person;
    await juno.click("link", "1 request");
    await juno.read("3 addresses wait for it");
    await juno.read("The list Show families is made as show-families");
    expect(await juno.findings()).toEqual([]);
    await juno.read("3 addresses wait for approval");
    await juno.click("button", "Approve", true);
    await juno.see("status", "Show families");
    await teo.goBy("show families", "Show families");
    await teo.read("3 addresses, announcement-only");
    await teo.read("Allowed by Juno Abara");
    await teo.read("The list can be found by its leads");
    await teo.type("Address to try", PAVEL);
    await teo.click("button", "Try", true);
    await teo.see("status", "Returned");
    await teo.read("is a member of this list, not a lead or helper");
  });

  test("mail that only claims to be his is held, shown without harm, and let out", async () => {
    await forge("Shoes for the show");
    await teo.click("link", "1 mail");
    await teo.read("Nothing proves who sent this mail");
    expect(await teo.findings()).toEqual([]);
    await teo.click("link", "Shoes for the show");
    await teo.click("button", "Show formatting");
    const frame = await teo.driver.wait(until.elementLocated(By.css("iframe")), WAIT);
    expect(await frame.getAttribute("srcdoc")).not.toMatch(/script|tracker/);
    await teo.driver.executeScript("window.scrollTo(0, 0)");
    await teo.click("button", "Send it out");
    await teo.read("Teo Bramwell decided");
    await house.person.driver.wait(
      async () =>
        (await house.stack.town.boxes.lettersOf(PAVEL)).some(
          ({ subject }) => subject === "Shoes for the show",
        ),
      WAIT,
    );
  });

  test("its claimed sender may say by the mailed link that it is his", async () => {
    await forge("A second pair");
    await teo.go(await linkIn("teo.bramwell@copperwheel.example", "mine", "A second pair"));
    await teo.read("Did you write this?");
    await teo.click("button", "Yes, I wrote it");
    await teo.read("Your mail is on its way");
  });

  test("a changed house rule shows beforehand which lists change", async () => {
    const juno = house.person;
    await juno.go("/house?tab=rules");
    await juno.read("Rules that depend on each other");
    expect(await juno.findings()).toEqual([]);
    await juno.click("checkbox", "discarded");
    await juno.click("button", "Preview 1 change");
    await juno.read("This is carried out at once");
    await juno.click("button", "Back");
    await juno.go("/lists/try?address=teo.bramwell%40copperwheel.example&proof=signed-in");
    await juno.read("goes out on 7");
    expect(await juno.findings()).toEqual([]);
  });

  test("a member opens their page by a mailed link, on a phone: lists and why, a pause, what was written", async () => {
    const pavel = await Person.open(house.stack.url, { width: 500 });
    opened.push(pavel);
    await pavel.narrow(360, 740);
    await pavel.go("/member");
    await pavel.type("Your address", PAVEL);
    await pavel.press(Key.ENTER);
    await pavel.see("status", "a link is on its way");
    await pavel.go(await linkIn(PAVEL, "member"));
    await pavel.click("button", "Open my page");
    await pavel.read("guardian of Freya Bellweather");
    expect(await pavel.findings()).toEqual([]);
    expect(
      await pavel.driver.executeScript(
        "return document.documentElement.scrollWidth <= window.innerWidth",
      ),
    ).toBe(true);
    await pavel.click("link", "What was written to Juggling One, guardians");
    await pavel.read("Please bring black shoes");
    await pavel.click("link", "All my lists");
    await pavel.click("button", "Leave … Show families");
    await pavel.click("button", "Leave Show families", true);
    await pavel.driver.wait(async () => !(await pavel.text()).includes("Show families"), WAIT);
    await teo.go("/");
    await teo.read("Sign out");
    await teo.goBy("show families", "Show families");
    await teo.read("left on the member page");
  });

  test("somebody is invited, chooses a password, and is signed in", async () => {
    const juno = house.person;
    await juno.go("/house?tab=people");
    await juno.click("button", "Invite somebody");
    await juno.type("Name", "Nadia Petrov");
    await juno.type("Address", "nadia.petrov@copperwheel.example");
    await juno.click("button", "Mail the invitation");
    await juno.see("status", "Nadia Petrov was mailed an invitation");
    expect(await juno.findings()).toEqual([]);
    const nadia = await Person.open(house.stack.url);
    opened.push(nadia);
    await nadia.go(await linkIn("nadia.petrov@copperwheel.example", "password"));
    await nadia.read("Welcome, Nadia Petrov");
    await nadia.type("Password", "nadia nadia");
    await nadia.press(Key.ENTER);
    await nadia.see("alert", "tried first");
    await nadia.press(" in wet boots");
    await nadia.press(Key.ENTER);
    await nadia.read("Sign out");
    await nadia.click("link", "Nadia Petrov");
    await nadia.read("Where you are signed in");
    expect(await nadia.findings()).toEqual([]);
  });

  test("how long things are kept is changed with what goes; settings that somebody else changed are not overwritten", async () => {
    const juno = house.person;
    await juno.go("/house?tab=retention");
    await juno.type("Days to keep: Who got which post", "30");
    await juno.click("button", "Save", true);
    await juno.see("alert", "keep them for at least 366 days");
    await juno.type("Days to keep: Who got which post", "500");
    await juno.click("button", "Save", true);
    await juno.see("status", "Saved");
    expect(await juno.findings()).toEqual([]);
    const other = await Person.open(house.stack.url);
    opened.push(other);
    await other.click("button", "Juno Abara");
    await other.read("Sign out");
    await other.go("/house?tab=retention");
    await other.type("Days to keep: Journal", "700");
    await juno.type("Days to keep: Journal", "900");
    await juno.click("button", "Save", true);
    await juno.see("status", "Saved");
    await other.click("button", "Save", true);
    await other.see("alert", "Somebody else changed this");
    await other.click("button", "Show the current settings");
    await other.driver.wait(
      async () =>
        // The form is made anew: the field that was just found may be gone.
        (await (
          await other.see("textbox", "Days to keep: Journal")
        )
          .getAttribute("value")
          .catch(() => "")) === "900",
      WAIT,
      "the current settings are not shown",
    );
  });
});
