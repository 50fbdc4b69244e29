import { until, type Ask, type DemoHouse } from "./running";

/** The classes whose families find papers on their list's shelf, with what they are asked to bring. */
const CLASSES: readonly [name: string, kit: readonly string[]][] = [
  ["Tumbling Seeds", ["soft shoes", "a water bottle"]],
  ["Tumbling Sprouts", ["soft shoes", "long socks"]],
  ["Juggling One", ["three beanbags", "a long-sleeved top"]],
  ["Juggling Two", ["three rings or clubs"]],
  ["Acro Pairs", ["bare feet or soft shoes", "hair tied back"]],
  ["Aerial Silks Start", ["leggings that cover the knee", "no jewellery"]],
  ["Trapeze Two", ["leggings that cover the knee", "a belt", "tape for the hands"]],
  ["Stilts & Clowning", ["knee pads", "a hat you can lose"]],
  ["Wire Walk", ["soft shoes with a thin sole"]],
  ["Hoops and Staff", ["two hoops", "a scarf"]],
];

/** How many families of one class open its papers. */
const OPEN = 4;

/** Puts a few made-up papers on the shelf of each class, and lets some families of one class open them. */
export async function makeShelves(
  house: DemoHouse,
  ask: Ask,
  listOf: (title: string) => Promise<string>,
): Promise<void> {
  for (const [name, kit] of CLASSES) {
    const list = await listOf(`${name}, guardians`);
    await put(
      ask,
      list,
      "Kit list.txt",
      `${name}: what to bring\r\n\r\n${kit.map((what) => `- ${what}`).join("\r\n")}\r\n`,
    );
    await put(ask, list, "Term plan.csv", termPlan(name));
  }
  const trapeze = await listOf("Trapeze Two, guardians");
  await ask("POST", `/api/lists/${trapeze}/shelf/links`, {
    title: "Photos of the harvest show",
    link: "https://photos.brightpost.example/copperwheel/harvest",
  });
  await put(ask, trapeze, "Lift shares to the fair.txt", LIFTS);
  await letMembers(ask, trapeze, "Term plan", "comment");
  await letMembers(ask, trapeze, "Lift shares to the fair", "change");
  await openAsFamilies(house, ask, trapeze);
}

const LIFTS =
  "Who has seats to the fair on Saturday?\r\n\r\nOkonjo: 2 seats, from the Mill Loft\r\n";

/** Says what members may do with a thing beside opening it. */
async function letMembers(
  ask: Ask,
  list: string,
  title: string,
  membersMay: "comment" | "change",
): Promise<void> {
  const thing = await thingOf(ask, list, title);
  const { folder, untilDay, changes } = thing;
  const body = { title, folder, untilDay, changes, membersMay, lists: [list] };
  await ask("PUT", `/api/shelf/${thing.id}`, body);
}

interface Thing {
  id: string;
  title: string;
  folder: string;
  untilDay: string;
  changes: number;
}
async function thingOf(ask: Ask, list: string, title: string): Promise<Thing> {
  const { things } = await ask<{ things: Thing[] }>("GET", `/api/lists/${list}/shelf`);
  const found = things.find((thing) => thing.title === title);
  if (found === undefined) throw new Error(`${title} is not on the shelf`);
  return found;
}

async function put(ask: Ask, list: string, name: string, text: string): Promise<void> {
  await ask(
    "POST",
    `/api/lists/${list}/shelf/files?name=${encodeURIComponent(name)}`,
    new Blob([text]),
  );
}

function termPlan(name: string): string {
  const weeks = ["Warm-ups and falling", "New figures", "Small groups", "A short act", "Showing"];
  return [
    "Week,What we do",
    ...weeks.map((what, week) => `${week + 1},${what}`),
    `,${name}`,
    "",
  ].join("\r\n");
}

/** Lets families open what is on a list's shelf and use it, each by the link to their page that is mailed to them. */
async function openAsFamilies(house: DemoHouse, ask: Ask, list: string): Promise<void> {
  const [kit, plan, lifts] = [
    await thingOf(ask, list, "Kit list"),
    await thingOf(ask, list, "Term plan"),
    await thingOf(ask, list, "Lift shares to the fair"),
  ];
  const boxes = (await (await fetch(`${house.mailtown}/api/mailboxes`)).json()) as {
    address: string;
    behaviour: string;
  }[];
  const takes = new Set(
    boxes.filter(({ behaviour }) => behaviour === "takes").map(({ address }) => address),
  );
  const { openers } = await ask<{ openers: { address: string }[] }>("GET", `/api/shelf/${kit.id}`);
  const families = openers.filter(({ address }) => takes.has(address)).slice(0, OPEN);
  for (const [at, { address }] of families.entries()) {
    const as = await pageOf(house, address);
    await as("GET", `/api/member/shelf/${kit.id}/files/open`);
    if (at === 0) {
      await as("GET", `/api/member/shelf/${plan.id}/files/open`);
      await as("POST", `/api/member/shelf/${plan.id}/comments`, {
        text: "Is week 5 open to grandparents, too?",
        follow: true,
      });
      await ask("POST", `/api/shelf/${plan.id}/comments`, {
        text: "Yes, bring everybody. Doors open at half past five.",
        follow: true,
      });
    }
    if (at === 1)
      await as(
        "POST",
        `/api/member/shelf/${lifts.id}/versions?name=Lift+shares+to+the+fair.txt&version=1`,
        `${LIFTS}We have 3 seats, from the station\r\n`,
      );
  }
}

/** Opens a member's page, and returns how requests are sent from it. */
async function pageOf({ url, mailtown }: DemoHouse, address: string) {
  const post = (path: string, body: unknown): Promise<Response> =>
    fetch(`${url}${path}`, {
      method: "POST",
      headers: { "Content-Type": "application/json", Origin: url },
      body: JSON.stringify(body),
    });
  await post("/api/member/link", { address });
  const token = await until(async () => {
    const letters = (await (
      await fetch(`${mailtown}/api/mailboxes/${encodeURIComponent(address)}`)
    ).json()) as { text: string }[];
    return letters
      .map(({ text }) => /\/member\/([\w-]{20,})/.exec(text)?.[1])
      .find((found) => found !== undefined);
  });
  const entered = await post("/api/member/enter", { token });
  const cookie = (entered.headers.get("set-cookie") ?? "").split(";")[0] ?? "";
  return (method: string, path: string, body?: unknown): Promise<Response> =>
    fetch(`${url}${path}`, {
      method,
      headers: {
        Cookie: cookie,
        Origin: url,
        ...(typeof body === "object" ? { "Content-Type": "application/json" } : {}),
      },
      ...(body === undefined
        ? {}
        : { body: typeof body === "string" ? body : JSON.stringify(body) }),
    });
}
