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
  await openAsFamilies(house, ask, trapeze);
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

/** Lets families open what is on a list's shelf, each by the link to their page that is mailed to them. */
async function openAsFamilies(house: DemoHouse, ask: Ask, list: string): Promise<void> {
  const { things } = await ask<{ things: { id: string }[] }>("GET", `/api/lists/${list}/shelf`);
  const [thing] = things;
  if (thing === undefined) return;
  const boxes = (await (await fetch(`${house.mailtown}/api/mailboxes`)).json()) as {
    address: string;
    behaviour: string;
  }[];
  const takes = new Set(
    boxes.filter(({ behaviour }) => behaviour === "takes").map(({ address }) => address),
  );
  const { openers } = await ask<{ openers: { address: string }[] }>(
    "GET",
    `/api/shelf/${thing.id}`,
  );
  const families = openers.filter(({ address }) => takes.has(address)).slice(0, OPEN);
  for (const { address } of families) await openAs(house, address, thing.id);
}

async function openAs({ url, mailtown }: DemoHouse, address: string, thing: string): Promise<void> {
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
  await fetch(`${url}/api/member/shelf/${thing}/files/open`, { headers: { Cookie: cookie } });
}
