import { join } from "node:path";
import { expect, test } from "vitest";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { WAIT } from "./browser";
import { beginWithRoster, openHouse } from "./openHouse";

const house = openHouse();
/** The widths at which a page has a layout of its own, and is looked at by axe-core in both colours. */
const LAYOUTS = [1280, 360] as const;
/** Other windows into which it has to fit: one of 1280 pixels enlarged to 200%, and a large one, which has more room and nothing else. */
const OTHERS = [640, 1920] as const;

/** The first thing of its kind that an endpoint tells, by a value somewhere in its answer. */
async function firstOf(path: string, pattern: RegExp): Promise<string> {
  const answer = await house.person.driver.executeAsyncScript<string>(
    "const done = arguments[arguments.length - 1]; fetch(arguments[0]).then((answer) => answer.text()).then(done);",
    path,
  );
  const found = pattern.exec(answer)?.[1];
  if (found === undefined) throw new Error(`${path} tells nothing like ${pattern}: ${answer}`);
  return found;
}

/** Opens a page and looks at it in every size and colour; what it finds, by the page. */
async function look(path: string, heading: string): Promise<string[]> {
  const { person } = house;
  await person.emulate(1280, 800, "light");
  await person.go(path);
  await person.see("heading", heading);
  await person.driver.wait(async () => !(await person.text()).includes("Loading"), WAIT);
  const found: string[] = [];
  const say = (width: number, faults: string[]): void =>
    void found.push(...faults.map((fault) => `${path} at ${width} px: ${fault}`));
  for (const width of LAYOUTS) {
    await person.emulate(width, 800, "light");
    await person.see("heading", heading);
    say(width, [...(await person.misfits()), ...(await person.findings())]);
    // Other colours change nothing but the contrast, and a narrow page has no colours that a wide one hasn't, but for its frame.
    if (width !== 1280 && path !== "/") continue;
    await person.emulate(width, 800, "dark");
    say(width, await person.findings(["color-contrast"]));
  }
  for (const width of OTHERS) {
    await person.emulate(width, width === 640 ? 400 : 800, "dark");
    say(width, await person.misfits());
  }
  return found;
}

test("the sign-in page and the first pages of an empty house fit every screen", async () => {
  await house.person.read("This is a demo school");
  expect(await look("/", "Copperwheel Circus School")).toEqual([]);
  await house.person.emulate(1280, 800, "light");
  await house.person.click("button", "Juno Abara");
  await house.person.read("Lists come out of your roster");
  for (const [path, heading] of [
    ["/", "Board"],
    ["/changes", "Changes"],
    ["/sources", "Sources"],
    ["/people", "People"],
    ["/mail", "Mail"],
    ["/reach", "Reach"],
  ] as const)
    expect(await look(path, heading)).toEqual([]);
  await house.person.driver.executeAsyncScript(
    "fetch('/api/sign-out', { method: 'POST' }).then(arguments[arguments.length - 1]);",
  );
  await house.person.go("/");
}, 240_000);

test("every page of a house in use fits every screen, without a finding of axe-core", async () => {
  const { person } = house;
  await beginWithRoster(person);
  await person.go("/sources");
  await person.read("220 rows, 2 set aside");
  await person.chooseFile(join(SAMPLES_FOLDER, "contact-form.csv"));
  await person.click("button", "Import 117 students");
  await person.see("heading", "has a new address");
  const list = await firstOf("/api/board", /"list":"([0-9a-f-]{36})"/);
  const source = await firstOf("/api/sources", /"id":"([0-9a-f-]{36})"/);
  const student = await firstOf(
    "/api/people?q=mirela",
    /"id":"(s-[0-9a-f]+)","role":"student","name":"Mirela Achterberg"/,
  );
  await person.go("/forms/new");
  await person.type("Title", "Autumn sign-up");
  await person.click("button", "Make the form");
  await person.read("/f/autumn-sign-up");
  await person.go("/intakes");
  await person.click("button", "Make a sheet");
  await person.type("Name", "Harvest helpers");
  await person.click("checkbox", "Ilse Tamm");
  await person.click("button", "Make the sheet");
  await person.see("heading", "Harvest helpers");
  await person.go(`/mail/write?to=${list}`);
  await person.read("addresses in");
  await person.type("Subject", "Shoes");
  await person.type("Text", "Please bring indoor shoes.");
  await person.click("button", "Send to");
  await person.see("heading", "Shoes");
  await person.go(`/dates/new?list=${list}`);
  await person.type("Title", "Autumn show");
  await person.click("button", "Invite ");
  await person.see("heading", "Who comes");
  const date = await firstOf("/api/dates", /"id":"([0-9a-f-]{36})"/);
  const form = await firstOf("/api/forms", /"id":"([0-9a-f-]{36})"/);
  const intake = await firstOf("/api/intakes", /"id":"([0-9a-f-]{36})"/);
  const post = await firstOf("/api/posts", /"id":"([0-9a-f-]{36})"/);
  const pages: [string, string][] = [
    [`/forms/${form}`, "Autumn sign-up"],
    ["/f/autumn-sign-up", "Autumn sign-up"],
    [`/intakes/${intake}`, "Harvest helpers"],
    [`/mail/${post}`, "Shoes"],
    ["/member", "Your lists"],
    ["/", "Board"],
    ["/changes", "Changes"],
    ["/changes/1", "Changes"],
    ["/changes/past", "Past rounds"],
    ["/people", "People"],
    ["/people?show=questions", "People"],
    ["/people?show=hand", "People"],
    ["/people?show=left", "People"],
    [`/people/${student}`, "Mirela Achterberg"],
    [`/sources/${source}`, "Sources"],
    ["/dates", "Dates"],
    ["/dates/new", "Make a date"],
    ["/dates/import", "Import dates"],
    [`/dates/${date}`, "Autumn show"],
    [`/dates/${date}/change`, "Change"],
    ["/mail?show=drafts", "Mail"],
    ["/mail?show=private", "Mail"],
    ["/mail?show=trace", "Mail"],
    ["/mail/write", "Write"],
    ["/mail/held", "Held mail"],
    ["/requests", "Requests"],
    ["/reach", "Reach"],
    ["/intakes", "Additions"],
    ["/forms", "Sign-up forms"],
    ["/forms/new", "Make a form"],
    ["/lists", "All lists"],
    ["/lists/new", "Make a list"],
    ["/lists/try", "Try an address"],
    [`/lists/${list}`, "Acro Pairs"],
    [`/lists/${list}?tab=posts`, "Acro Pairs"],
    [`/lists/${list}?tab=shelf`, "Acro Pairs"],
    [`/lists/${list}?tab=journal`, "Acro Pairs"],
    ["/account", "Juno Abara"],
    ["/nowhere", "Page not found"],
    ...[
      "",
      "names",
      "rules",
      "guards",
      "places",
      "seasons",
      "people",
      "tokens",
      "retention",
      "mail",
      "journal",
      "jobs",
      "system",
    ].map((tab): [string, string] => [`/house?tab=${tab}`, "Settings"]),
  ];
  const found: string[] = [];
  for (const [path, heading] of pages) found.push(...(await look(path, heading)));
  expect(found).toEqual([]);
}, 600_000);
