import { say } from "@amigo/language/say";
import { randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { planOf } from "@amigo/core/sheet/readingPlan";
import { readTables } from "@amigo/core/sheet/readTable";
import { readWorkbook } from "@amigo/core/sheet/readWorkbook";
import { makeDates } from "./makeDates";
import { makeShelves } from "./makeShelves";
import { SAMPLES_FOLDER } from "./samples";
import { until, type Ask, type DemoHouse } from "./running";

const FULL = "aholloway@mailhaven.example";
const GONE = "cingleby@lettr.example";

const POSTS: readonly { list: string; subject: string; text: string }[] = [
  {
    list: "Trapeze Two, guardians",
    subject: "Welcome to Trapeze Two",
    text: "Dear families,\n\nwe start on Monday at four in the Mill Loft. Please bring long sleeves and a bottle of water.\n\nPetra",
  },
  {
    list: "Juggling One, guardians",
    subject: "Three balls each",
    text: "Dear families,\n\nevery child gets a set of three balls this week. Please write the name on each of them.\n\nTeo",
  },
  {
    list: "Trapeze Two, guardians",
    subject: "No class on Friday",
    text: "Dear families,\n\nthe loft is closed on Friday while the rigging is checked. Trapeze Two meets again on Monday at four.\n\nJuno Abara",
  },
  {
    list: "Night Parade, guardians",
    subject: "Lanterns for the parade",
    text: "Dear families,\n\nwe build lanterns on Saturday from ten. Old jam jars are welcome.\n\nMarta",
  },
];

const FORM = {
  parts: ["class", "relationship", "consent"],
  cohorts: [],
  questions: [{ required: false }],
  unknownChild: "ask",
  opensOn: "",
  closesOn: "",
  words: [
    {
      language: "en",
      title: "Autumn sign-up",
      intro: "Once a year we ask where our mail reaches you.",
      consent: "The school may keep my address for mail about my child's classes.",
      labels: {},
      questions: [{ title: "Costume size", choices: ["small", "medium", "large"] }],
    },
  ],
};

const ADDITIONS = [
  ["Quincy Vanstone", "quincy@mailhaven.example", "Harvest Show Crew, guardians", "", "31 Mar"],
  ["Otto Bellweather", "otto.b@fernpost.example", "Harvest Show Crew, guardians", "", "31 Mar"],
  ["Rosa Nuñez", "rosa.nunez@mailhaven.example", "Trapeze Two, guardians", "", ""],
  ["Una Holm", "una.holm@lettr,example", "Harvest Show Crew, guardians", "", ""],
];

/**
 * Lets the demo house live through the first weeks of its season, by the same requests that its people would make: a roster
 * in step, posts with their deliveries, an address that is full and one that is gone, dates with answers, a held mail, a sheet of
 * additions, a form with answers, and at last a week's changes that wait to be reviewed.
 *
 * @param tell hears what is being done, in a few words
 */
export async function liveIn(house: DemoHouse, tell: (what: string) => void): Promise<void> {
  const juno = await signIn(house, "juno.abara@copperwheel.example");
  if ((await juno<unknown[]>("GET", "/api/sources")).length > 0) return;
  tell("The office imports its roster");
  const { source } = await importFile(juno, "autumn-roster.xlsx", { name: "Autumn roster" });
  await step(juno);
  tell("A coach's sheet of the troupes comes in");
  await importFile(juno, "troupes.ods", { name: "Troupes" });
  await step(juno);
  const listOf = async (title: string): Promise<string> => {
    const found = await juno<{ id: string; title: string }[]>(
      "GET",
      `/api/lists?q=${encodeURIComponent(title)}`,
    );
    const sheet = found.find((one) => one.title === title);
    if (sheet === undefined) throw new Error(`There is no list "${title}".`);
    return sheet.id;
  };
  await behave(house, FULL, "full");
  await behave(house, GONE, "refuses");
  tell("Coaches write to their families");
  for (const { list, subject, text } of POSTS)
    await juno("POST", "/api/posts", {
      lists: [await listOf(list)],
      subject,
      text,
      key: randomUUID(),
    });
  tell("Families are invited to dates");
  await makeDates(house, juno, listOf);
  tell("Coaches share papers");
  await makeShelves(house, juno, listOf);
  tell("Families answer a form");
  await fillForm(house, juno);
  tell("Colleagues propose people");
  await proposePeople(
    juno,
    await Promise.all(["Harvest Show Crew, guardians", "Trapeze Two, guardians"].map(listOf)),
  );
  await writeAsTeo(house);
  tell("The office imports the next week");
  await importFile(juno, "autumn-roster-week-2.xlsx", { id: source });
  await until(async () => {
    const held = await juno<unknown[]>("GET", "/api/held");
    return held.length > 0 ? true : undefined;
  });
}

/** Whether a body goes as it is. */
function isRaw(body: unknown): body is FormData | Blob {
  return body instanceof FormData || body instanceof Blob;
}

async function signIn({ url }: DemoHouse, email: string): Promise<Ask> {
  let cookie = "";
  const ask: Ask = async (method, path, body) => {
    const response = await fetch(`${url}${path}`, {
      method,
      headers: {
        ...(cookie === "" ? {} : { Cookie: cookie }),
        ...(body === undefined || isRaw(body) ? {} : { "Content-Type": "application/json" }),
      },
      ...(body === undefined ? {} : { body: isRaw(body) ? body : JSON.stringify(body) }),
    });
    const text = await response.text();
    if (!response.ok)
      throw new Error(`${method} ${path}: ${response.status} ${text.slice(0, 300)}`);
    cookie = response.headers.get("set-cookie")?.split(";")[0] ?? cookie;
    return JSON.parse(text) as never;
  };
  await ask("POST", "/api/sign-in/demo", { email });
  return ask;
}

async function importFile(
  ask: Ask,
  file: string,
  into: { name: string } | { id: string },
): Promise<{ source: string }> {
  const bytes = new Uint8Array(readFileSync(join(SAMPLES_FOLDER, file)));
  const book = readWorkbook(bytes);
  const found = book.ok ? readTables(book.workbook) : book;
  if (!found.ok) throw new Error(say(found.fault.sentence));
  const [first, ...others] = found.tables;
  if (first === undefined) throw new Error(`${file} has no sheet`);
  const form = new FormData();
  form.set("file", new File([bytes], file));
  form.set(
    "plan",
    JSON.stringify(
      planOf(
        first.table,
        others.map(({ sheet }) => sheet.name),
      ),
    ),
  );
  if ("name" in into) form.set("name", into.name);
  return ask("POST", "name" in into ? "/api/sources" : `/api/sources/${into.id}/readings`, form);
}

async function step(ask: Ask): Promise<void> {
  const round = await ask<{
    number: number;
    version: number;
    guards: { id: string; count: number }[];
  }>("GET", "/api/rounds/open");
  await ask("POST", "/api/rounds/open/step", {
    round: round.number,
    version: round.version,
    passed: Object.fromEntries(round.guards.map(({ id, count }) => [id, count])),
  });
}

async function fillForm(house: DemoHouse, ask: Ask): Promise<void> {
  await ask("POST", "/api/forms", { slug: "autumn", content: FORM, mode: "ask" });
  const { families } = await ask<{
    families: { people: { name: string; role: string; detail: string }[] }[];
  }>("GET", "/api/people?only=unreachable");
  // Two whom no mail reaches yet, and one whom no sheet has, so that a person decides.
  const children = [
    ...families
      .flatMap(({ people }) => people.filter(({ role }) => role === "student"))
      .slice(0, 2),
    { name: "Robin Larkspur", detail: "Wire Walk" },
  ];
  for (const [at, { name, detail }] of children.entries()) {
    // One look at the form serves for one answer, and nobody fills it in within a moment.
    const page = await (await fetch(`${house.url}/f/autumn`)).text();
    const begun = /name="begun" value="([^"]*)"/.exec(page)?.[1] ?? "";
    const ready = Date.now() + 2000;
    await until(() => Promise.resolve(Date.now() > ready ? true : undefined));
    const [given = "", ...family] = name.split(" ");
    const address = `family${at + 1}.${(family[0] ?? "").toLowerCase().replace(/[^a-z]/g, "")}@brightpost.example`;
    await fetch(`${house.url}/f/autumn`, {
      method: "POST",
      headers: { "Accept-Language": "en" },
      body: new URLSearchParams({
        begun,
        language: "en",
        given,
        family: family.join(" "),
        class: detail.split(",")[0] ?? "",
        name: `Kim ${family.join(" ")}`,
        address,
        relationship: "guardian",
        "question.0": "medium",
        consent: "yes",
      }),
    });
    await fetch(await linkTo(house, address), { method: "POST" });
  }
}

/** The link by which an answer is confirmed, from the family's mailbox in Mailtown. */
function linkTo({ mailtown, url }: DemoHouse, address: string): Promise<string> {
  return until(async () => {
    const box = await (await fetch(`${mailtown}/mailbox/${encodeURIComponent(address)}`)).text();
    const letter = /href="(\/letter\/[^"]+|\/mailbox\/[^"]+\/\d+)"/.exec(box)?.[1];
    const text = letter === undefined ? box : await (await fetch(`${mailtown}${letter}`)).text();
    const path = /\/f\/mine\/[\w-]+/.exec(text)?.[0];
    return path === undefined ? undefined : `${url}${path}`;
  });
}

async function proposePeople(ask: Ask, lists: readonly string[]): Promise<void> {
  const { accounts } = await ask<{ accounts: { id: string; name: string }[] }>(
    "GET",
    "/api/intakes/choices",
  );
  const ilse = accounts.find(({ name }) => name === "Ilse Tamm");
  const { id } = await ask<{ id: string }>("POST", "/api/intakes", {
    content: {
      name: "Harvest Show helpers",
      how: "welcome",
      welcome: "",
      lists,
      times: null,
    },
    people: ilse === undefined ? [] : [{ account: ilse.id, role: "helper" }],
  });
  const columns = ["person", "address", "to", "from", "until"];
  await ask("POST", `/api/intakes/${id}/cells`, {
    changes: ADDITIONS.flatMap((cells) => {
      const row = randomUUID();
      return columns.flatMap((column, at) =>
        (cells[at] ?? "") === "" ? [] : [{ row, column, was: "", is: cells[at] }],
      );
    }),
  });
}

/** A mail that claims to come from a coach, and comes from elsewhere: it is held. */
async function writeAsTeo({ mailtown }: DemoHouse): Promise<void> {
  await fetch(`${mailtown}/mailbox/${encodeURIComponent("una@lettr.example")}/write`, {
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
}

async function behave({ mailtown }: DemoHouse, address: string, behaviour: string): Promise<void> {
  await fetch(`${mailtown}/mailbox/${encodeURIComponent(address)}/behaviour`, {
    method: "POST",
    redirect: "manual",
    body: new URLSearchParams({ behaviour }),
  });
}
