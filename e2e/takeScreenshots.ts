import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { sql } from "drizzle-orm";
import { Key } from "selenium-webdriver";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { Person, WAIT } from "./browser";
import { startStack } from "./stack";

/** Takes one picture of each main view, going through the demo house as its coordinator would. */
const folder = new URL("../docs/screenshots/", import.meta.url);
mkdirSync(folder, { recursive: true });
/** What is put on the shelf. */
const papers = mkdtempSync(join(tmpdir(), "amigo-papers-"));
const PAPERS = [
  ["Costume sheet.txt", "Dark trousers, soft shoes, hair tied back.\r\n"],
  ["Rehearsal plan.csv", "Day,What\r\nTuesday,First act\r\nThursday,Second act\r\n"],
  ["Consent form.txt", "My child may be in the photos of the show: yes / no\r\n"],
] as const;
const stack = await startStack();
const juno = await Person.open(stack.url);
const picture = async (name: string): Promise<void> => {
  await juno.driver.executeAsyncScript(
    "const done = arguments[arguments.length - 1]; document.fonts.ready.then(() => requestAnimationFrame(() => requestAnimationFrame(done)));",
  );
  await juno.driver.wait(async () => !(await juno.text()).includes("Loading"), WAIT);
  await juno.picture(new URL(`${name}.png`, folder));
};

await juno.read("This is a demo school");
await juno.click("button", "Juno Abara");
await juno.read("Lists come out of your roster");
await juno.go("/sources");
await juno.read("Drop the roster here");
await juno.chooseFile(join(SAMPLES_FOLDER, "autumn-roster.xlsx"));
await juno.see("button", "Import 220 students");
for (let step = 0; step < 3; step++) await juno.press("n");
await juno.see("status", "column");
await picture("sources-new-sheet");
await juno.click("button", "Import 220 students");
await juno.see("button", "Bring 30 lists in step");
await juno.click("button", "Trapeze Two: 32 students");
await juno.click("button", "Mirela Achterberg");
await juno.see("heading", "Mirela Achterberg joined");
await juno.click("button", "Bring 30 lists in step");
await juno.read("No round is open");
await juno.go("/sources");
await juno.read("220 rows, 2 set aside");
await juno.chooseFile(join(SAMPLES_FOLDER, "contact-form.csv"));
await juno.click("button", "Import 117 students");
await juno.see("heading", "has a new address");
await juno.go("/people?show=questions");
await juno.read("Which one is right?");
await picture("questions");
await juno.click("button", "new.openhaligon@fernpost.example", true);
await juno.read("1 question");
await juno.click("button", "Both");
await juno.read("No question is open");
await juno.click("link", "Changes");
await juno.click("button", "lists in step");
await juno.read("No round is open");
await juno.go("/people");
await juno.see("status", "families");
await picture("people");
await juno.type("Find people", "oona penh");
await juno.see("status", "families");
await juno.click("link", "Oona Penhaligon");
await juno.read("History");
await juno.go("/sources");
await juno.read("220 rows, 2 set aside");
for (let step = 0; step < 8; step++) await juno.press("n");
await juno.see("button", "Save correction");
await juno.go("/sources");
await juno.read("220 rows, 2 set aside");
await juno.chooseFile(join(SAMPLES_FOLDER, "autumn-roster-week-2.xlsx"));
await juno.click("button", "Import 221 students");
await juno.see("heading", "Amara Jansone moved");
await juno.press("j");
await juno.see("heading", "Hana Kettering moved");
await juno.read("ml-silks-parents-2627");
await picture("changes");
await juno.click("link", "Board");
await juno.read("31 lists");
await picture("board");
await juno.click("link", "Trapeze Two, Guardians");
await juno.read("Reason");
await juno.type("Address to try", "chloestonebridge51@oakmail.example");
await juno.click("button", "Try", true);
await juno.see("status", "Returned");
await picture("list");
await juno.click("tab", "Shelf");
for (const [name, text] of PAPERS) {
  writeFileSync(join(papers, name), text);
  await juno.chooseFile(join(papers, name));
  await juno.see("cell", name);
}
await juno.click("button", "Tell nobody");
await juno.click("button", "Rehearsal plan");
await juno.click("button", "Members may");
await juno.click("option", "view and comment");
await juno.click("button", "Save");
await juno.see("cell", "view and comment");
await juno.click("button", "Rehearsal plan");
await juno.type("Your comment", "The second act begins at half past five now.");
await juno.click("button", "Add comment");
await juno.read("You get a mail when somebody comments");
await picture("shelf");
await juno.click("button", "Close");
rmSync(papers, { recursive: true, force: true });
await juno.click("button", "Write to");
await juno.read("addresses in");
await juno.type("Subject", "No class on Friday");
await juno.type(
  "Text",
  "Dear families,\n\nthe loft is closed on Friday while the rigging is checked.\nTrapeze Two meets again on Monday at four.\n\nJuno Abara",
);
await picture("write");
stack.town.boxes.setBehaviour("aholloway@mailhaven.example", "full");
stack.town.boxes.setBehaviour("cingleby@lettr.example", "refuses");
await juno.chord(Key.CONTROL, Key.ENTER);
await juno.read("delivered");
await juno.driver.wait(async () => /\d\d delivered/.test(await juno.text()), 20_000);
await picture("post");
await juno.go("/dates/new");
await juno.type("Title", "Dress rehearsal");
for (const words of ["trapeze two guard", "wire walk guard"]) {
  await juno.type("Lists and people to invite", words);
  await juno.see("option", words.startsWith("trapeze") ? "Trapeze Two" : "Wire Walk");
  await juno.press(Key.ENTER);
}
await juno.type("Place", "Mill Loft");
await juno.type("Description", "Please come in costume. Doors open a quarter of an hour before.");
await juno.click("button", "Invite ");
await juno.driver.wait(async () => /[5-9]\d not answered/.test(await juno.text()), 30_000);
await answerInvitations();
await juno.see("tab", "Maybe (5)");
await juno.click("tab", "Come");
await juno.read("With grandparents");
await picture("date");
await juno.go("/reach");
await juno.read("mail has stopped");
await picture("reach");
await juno.go("/house");
await juno.read("Guardians of each class");
await juno.click("button", "Edit Guardians of each class");
await juno.see("dialog", "Guardians of each class");
await juno.type("Who belongs on it", "guardians of students in this class + coaches of this cla");
await juno.see("option", "class");
await picture("recipe");
await juno.press(Key.ESCAPE, Key.ESCAPE);
await juno.click("button", "Discard");
await juno.go("/house?tab=names");
await juno.type("Guardians of each class", "{site}-{class}-families");
await juno.type("Coaches of each class", "{class:initials}");
await juno.read("Several lists would be called");
await juno.see("button", "Preview: rename 20 lists");
await picture("names");
await juno.go("/house?tab=seasons");
await juno.click("button", "Open the next season");
await juno.read("Everybody in the roster");
await juno.go("/lists");
await juno.click("checkbox", "Tick Acro Pairs, guardians");
await juno.read("1 ticked");
await juno.click("link", "Acro Pairs, guardians");
await juno.click("button", "Add members");
await juno.see("dialog", "Add members");
await juno.press(
  "Quincy <quincy@mailhaven.example>; rosa@lettr,example and nobody@@oakmail, some words",
);
await juno.read("3 addresses");
await juno.press(Key.ESCAPE);
await juno.click("button", "Discard");
const teo = await Person.open(stack.url);
await teo.click("button", "Teo Bramwell");
await teo.read("Sign out");
await teo.go("/lists/new");
await teo.type("Display name", "Show families");
await teo.type(
  "Addresses to add by hand",
  "aholloway@mailhaven.example; pbellweather@fernpost.example, cingleby@lettr.example",
);
await teo.read("3 addresses, 3 to add");
await teo.click("button", "Preview");
await teo.type("What it is for", "families answer from their own addresses");
await teo.click("button", "Ask for it");
await teo.see("status", "Asked Juno Abara");
await juno.go("/requests");
await juno.read("If you approve:");
await juno.click("button", "Approve", true);
await juno.see("status", "Show families");
await juno.go("/house?tab=rules");
await juno.read("What is allowed");
await picture("house-rules");
await fetch(`http://127.0.0.1:${stack.town.ports.page}/mailbox/una%40lettr.example/write`, {
  method: "POST",
  redirect: "manual",
  body: new URLSearchParams({
    to: "bb-jugg1-parents-2627@lists.copperwheel.example",
    subject: "Shoes for the show",
    text: "Dear families,\n\nplease bring black shoes on Friday.\n\nTeo",
    inReplyTo: "",
    from: "teo.bramwell@copperwheel.example",
  }),
});
await teo.go("/mail/held");
await teo.read("Shoes for the show");
await teo.driver.executeScript("document.activeElement?.blur()");
await teo.click("button", "Send it out");
await teo.read("No mail is held");
await teo.close();
await juno.go("/intakes");
await juno.click("button", "Make a sheet");
await juno.type("Name", "Harvest Show helpers");
await juno.click("checkbox", "Ilse Tamm");
await juno.click("button", "Make the sheet");
await juno.see("heading", "Harvest Show helpers");
const ilse = await Person.open(stack.url);
await ilse.click("button", "Ilse Tamm");
await ilse.click("link", "Additions");
await ilse.click("link", "Harvest Show helpers");
const goTo = async (person: Person, cell: string): Promise<void> => {
  const found = await person.see("gridcell", cell);
  await person.driver.actions().move({ origin: found }).click().perform();
};
await goTo(ilse, "Person, row 1: empty");
await ilse.paste(
  "Quincy Vanstone\tquincy@mailhaven.example\tShow families\t\t31 Mar\nOtto Bellweather\totto.b@fernpost.example\tShow families\t\t31 Mar\nAnouk Holloway\taholloway@mailhaven.example\tShow families\t\t\nRosa Nuñez\trosa.nunez@mailhaven.example\tTrapeze Two\t\t\nUna Holm\tuna.holm@lettr,example\tShow families\t1 Dec\t20 Dec",
);
await juno.read("5 rows, 5 to approve");
await goTo(juno, "Person, row 1: Quincy Vanstone");
await juno.driver
  .actions()
  .keyDown(Key.SHIFT)
  .sendKeys(Key.ARROW_DOWN, Key.ARROW_DOWN, Key.ARROW_DOWN)
  .keyUp(Key.SHIFT)
  .perform();
await juno.click("button", "Approve 4 rows");
await juno.read("Outside your domains");
await goTo(juno, "Address, row 5");
await goTo(ilse, "Person, row 6: empty");
await ilse.press("Per Holm", Key.TAB);
await juno.read("Ilse Tamm edited row 6");
await picture("intake");
await ilse.close();
await juno.go("/forms/new");
await juno.see("heading", "Make a form");
await juno.click("button", "Add a question");
await juno.type("Question 1", "Costume size");
await juno.type("Choices", "small, medium, large");
await juno.driver.wait(
  async () =>
    juno.driver.executeScript(
      "return (document.querySelector('iframe').contentDocument?.body?.innerText ?? '').includes('Costume size')",
    ),
  20_000,
);
await picture("form");
await juno.close();

// The same house on a phone, with another sheet to review.
const phone = await Person.open(stack.url);
await phone.narrow(390, 780);
const onPhone = async (name: string): Promise<void> =>
  phone.picture(new URL(`phone-${name}.png`, folder));
await phone.click("button", "Juno Abara");
await phone.see("heading", "Trapeze Two");
await phone.go("/changes");
await phone.click("button", "Hana Kettering");
await phone.see("heading", "Hana Kettering moved");
await phone.read("ml-silks-parents-2627");
await onPhone("change");
// The same account in German.
await phone.go("/account");
await phone.click("button", "Language");
await phone.click("option", "Deutsch");
await phone.see("heading", "Anmeldung in zwei Schritten");
await phone.go("/");
await phone.see("heading", "Trapeze Two");
await onPhone("board");
await phone.close();

const pavel = await Person.open(stack.url);
await pavel.narrow(390, 780);
// A family that reads Arabic.
await pavel.reads("ar");
await pavel.go("/member");
await pavel.type("عنوانكم لرسائل القوائم", "pbellweather@fernpost.example");
await pavel.press(Key.ENTER);
let link = "";
await pavel.driver.wait(async () => {
  link =
    /\/member\/[\w-]+/.exec(
      (await stack.town.boxes.lettersOf("pbellweather@fernpost.example"))
        .map(({ text }) => text)
        .join("\n"),
    )?.[0] ?? "";
  return link !== "";
}, 20_000);
await pavel.go(link);
await pavel.click("button", "فتح صفحتي");
await pavel.read("قوائمي");
await pavel.picture(new URL("member.png", folder));
await pavel.close();

await stack.close();

/** Answers invitations as families do: most come, some with a word. */
async function answerInvitations(): Promise<void> {
  const { rows } = await stack.amigo.context.db.execute<{ token: string }>(
    sql`select token from calendar_guest order by address limit 38`,
  );
  for (const [index, { token }] of rows.entries())
    await fetch(`${stack.url}/date/${token}`, {
      method: "POST",
      body: new URLSearchParams({
        answer: index % 7 === 3 ? "no" : index % 7 === 5 ? "maybe" : "yes",
        people: String((index % 4) + 1),
        word:
          index === 1 ? "With grandparents" : index === 8 ? "We come straight from school." : "",
      }),
    });
}
