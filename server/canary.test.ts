import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { ALL_ENDPOINTS } from "@amigo/contract/endpoints";
import type { Endpoint } from "@amigo/contract/endpoint";
import { keepGuestsInStep } from "./dates/keepGuestsInStep";
import {
  JUNO,
  ODILE,
  RAVI,
  startTestHouse,
  type Client,
  type TestHouse,
} from "./testing/testHouse";

/**
 * Two sites whose people carry words that stand nowhere else. Every route is asked by everybody about everything, and nobody
 * may find a word of people who aren't theirs in any field of any answer. Then something happens at the other site alone, and
 * every answer must be what it was: a count that has changed would tell of it too.
 */
const HEAD =
  "Student no.,Surname,First name,Site,Class,Coach,Parent 1,Email 1,Student email,Allergies";
const MILL = [
  "ML-1,Oakcanary,Ida,Mill Loft,Trapeze Two,Ravi Lindqvist,Otto Oakcanary,otto.oakcanary@lettr.example,ida.oakcanary@copperwheel.example,nuts",
  "ML-2,Elmcanary,Bram,Mill Loft,Wire Walk,Petra Dunmore,Una Elmcanary,una.elmcanary@lettr.example,bram.elmcanary@copperwheel.example,",
];
const BARN = [
  "BB-1,Pinecanary,Tove,Big Barn,Juggling One,Teo Bramwell,Sven Pinecanary,sven.pinecanary@lettr.example,tove.pinecanary@copperwheel.example,eggs",
  "BB-2,Yewcanary,Per,Big Barn,Juggling One,Teo Bramwell,Hana Yewcanary,hana.yewcanary@lettr.example,per.yewcanary@copperwheel.example,",
];
const ALL = ["oakcanary", "elmcanary", "pinecanary", "yewcanary"];

/** Who asks, and whose words they may meet. */
const CALLERS: Record<string, { email: string; own: readonly string[] }> = {
  "a site coordinator": { email: ODILE, own: ["oakcanary", "elmcanary"] },
  "a lead of one class": { email: RAVI, own: ["oakcanary"] },
  "staff who lead nothing": { email: "marta.okonjo@copperwheel.example", own: [] },
  "a helper of one sheet": { email: "ilse.tamm@copperwheel.example", own: [] },
};

let house: TestHouse;
let juno: Client;
const clients = new Map<string, Client>();
/** What the coordinator finds: the ids that the routes are asked about. */
const ids: Record<string, string[]> = {};
let post = "";
let draft: Record<string, string> = {};

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  for (const [who, { email }] of Object.entries(CALLERS))
    clients.set(who, await house.signIn(email));
  await house.readLines(juno, [HEAD, ...MILL, ...BARN], { name: "Office" });
  await house.step(juno);
  const lists = (
    await juno.ask<{ lists: { id: string; title: string }[] }>("GET", "/api/lists/all")
  ).body.lists;
  ids.lists = lists.map(({ id }) => id);
  ids.people = (
    await house.amigo.context.db.execute<{ id: string }>(
      sql`select distinct subject as id from fact where kind = 'name' and value->>'family' like '%canary'`,
    )
  ).rows.map(({ id }) => id);
  expect(ids.people.length).toBeGreaterThan(7);
  // One post to lists of two sites, so that each lead sees a part of it.
  const to = lists.filter(({ title }) => /^(Trapeze Two|Juggling One), guardians/.test(title));
  expect(to).toHaveLength(2);
  ({ id: post } = (
    await juno.ask<{ id: string }>("POST", "/api/posts", {
      lists: to.map(({ id }) => id),
      subject: "To both",
      text: "Dear families.",
      key: crypto.randomUUID(),
    })
  ).body);
  ids.posts = [post];
  ids.dates = [
    (
      await juno.ask<{ id: string }>("POST", "/api/dates", {
        title: "For both",
        when: { allDay: true, from: "2099-05-01", until: "2099-05-01" },
        lists: to.map(({ id }) => id),
      })
    ).body.id,
  ];
  await keepGuestsInStep(house.amigo.context);
  await setRules(FOUND_BY_STAFF);
  // Forms for all, without a part for classes, made by each who may.
  ids.forms = [];
  for (const [who, client] of clients) {
    const made = await client.ask<{ id: string }>("POST", "/api/forms", formOf(who));
    if (made.status === 200) ids.forms.push(made.body.id);
  }
  expect(ids.forms).toHaveLength(3);
  draft = {};
  for (const [who, client] of clients) {
    const id = crypto.randomUUID();
    const kept = await client.ask("PUT", `/api/drafts/${id}`, {
      to: ids.lists.map((list) => ({ kind: "list", id: list, name: "" })).slice(0, 60),
      subject: "x",
      html: "<p>{name} {children}</p>",
    });
    if (kept.status === 200) draft[who] = id;
  }
});
afterAll(() => house.close());

function formOf(who: string): unknown {
  return {
    slug: `form-${who.replace(/\W+/g, "-")}`,
    mode: "ask",
    content: {
      parts: [],
      cohorts: [],
      questions: [],
      opensOn: "",
      closesOn: "",
      unknownChild: "ask",
      words: [
        {
          language: "en",
          title: `Form of ${who}`,
          intro: "",
          consent: "Yes.",
          questions: [],
          labels: {},
        },
      ],
    },
  };
}

interface Asked {
  name: string;
  method: string;
  path: string;
  body?: unknown;
}

/** What a path parameter may be about. */
function idsFor(path: string): readonly string[] {
  if (path.includes("{id}") === false) return [""];
  const [, place = ""] = /^\/api\/([a-z-]+)/.exec(path) ?? [];
  const known: Record<string, readonly string[]> = {
    lists: ids.lists ?? [],
    targets: ids.lists ?? [],
    people: ids.people ?? [],
    posts: ids.posts ?? [],
    held: ids.posts ?? [],
    forms: ids.forms ?? [],
    drafts: Object.values(draft),
    dates: ids.dates ?? [],
  };
  return known[place] ?? [];
}

const SEARCHES = ["canary", "pine", "sven.pinecanary@lettr.example", "BB-1"];

/** Every question of the API that can be asked without changing anything. */
function questions(): Asked[] {
  const get = ALL_ENDPOINTS.filter(({ method }) => method === "get").flatMap((endpoint: Endpoint) =>
    idsFor(endpoint.path).flatMap((id) => {
      const path = endpoint.path.replace("{id}", id).replace(/\{(number|position)\}/g, "1");
      const searched = "q" in (endpoint.query?.shape ?? {});
      return (searched ? ["", ...SEARCHES] : [""]).map((q) => ({
        name: `GET ${endpoint.path}${q === "" ? "" : ` q=${q}`}`,
        method: "GET",
        path: q === "" ? path : `${path}?q=${encodeURIComponent(q)}`,
      }));
    }),
  );
  const files = [
    ...(ids.lists ?? []).flatMap((id) => [
      `/api/lists/${id}/archive.mbox`,
      `/api/lists/export/csv?lists=${id}`,
      `/api/lists/export/vcf?lists=${id}`,
    ]),
    ...(ids.forms ?? []).map((id) => `/api/forms/${id}/answers.csv`),
    ...(ids.people ?? []).map((id) => `/api/people/${id}/record`),
    ...(ids.dates ?? []).map((id) => `/api/dates/${id}/guests.csv`),
    ...(ids.lists ?? []).map((id) => `/api/feeds?kind=list&list=${id}`),
    `/api/dates/times?from=${new Date().toISOString().slice(0, 10)}&until=2099-01-01`,
    "/api/journal/export",
  ].map((path) => ({ name: `GET ${path.replace(/[0-9a-f-]{36}/, "{id}")}`, method: "GET", path }));
  const address = "sven.pinecanary@lettr.example";
  const asks: [string, string, unknown][] = [
    ...[
      'person "Tove Pinecanary"',
      "students",
      'guardians of students in "Juggling One"',
      'students where "Allergies" is "eggs"',
      'students at "Big Barn"',
    ].map((text): [string, string, unknown] => ["POST", "/api/audiences/try", { text, each: "" }]),
    ["POST", "/api/lists/try", { address, proof: "dkim" }],
    ...(ids.lists ?? []).flatMap((id): [string, string, unknown][] => [
      ["POST", `/api/lists/${id}/try`, { address, proof: "dkim" }],
      [
        "POST",
        `/api/lists/${id}/pasted`,
        { text: `${address}, per.yewcanary@copperwheel.example` },
      ],
      [
        "POST",
        "/api/welcome/preview",
        { list: id, as: address, text: "{name} {children} {class}" },
      ],
      ["POST", "/api/posts/reckon", { lists: [id] }],
      ["POST", "/api/dates/preview", { lists: [id] }],
      [
        "POST",
        "/api/drafts/reckon",
        { content: { to: [{ kind: "list", id, name: "" }] }, files: 0 },
      ],
    ]),
    ...(ids.people ?? []).map((id): [string, string, unknown] => [
      "POST",
      "/api/drafts/reckon",
      { content: { to: [{ kind: "person", id, name: "" }] }, files: 0 },
    ]),
    ...Object.values(draft).map((id): [string, string, unknown] => [
      "POST",
      `/api/drafts/${id}/preview`,
      { address },
    ]),
    [
      "POST",
      "/api/drafts/reckon",
      { content: { to: [{ kind: "address", id: address, name: address }] }, files: 0 },
    ],
  ];
  return [
    ...get,
    ...files,
    ...asks.map(([method, path, body]) => ({
      name: `${method} ${path.replace(/[0-9a-f-]{36}/, "{id}")} ${JSON.stringify(body).slice(0, 60)}`,
      method,
      path,
      body,
    })),
  ];
}

/** What changes by itself from one moment to the next. */
function still(text: string): string {
  return text
    .replace(/\d{4}-\d\d-\d\dT[\d:.]+Z/g, "(time)")
    .replace(/"(lastUsed|lastSeen|seen)[A-Za-z]*":[^,}]+/g, "");
}

/** Lists that the staff find and write to, but whose members only their leads may see; and those that only their leads find. */
const FOUND_BY_STAFF = JSON.stringify({
  findable: "staff",
  roster: "leads",
  writers: "inside",
  other: "held",
});
const FOUND_BY_LEADS = JSON.stringify({ ...JSON.parse(FOUND_BY_STAFF), findable: "leads" });

/** Sets rules of all lists, also after a round has given them those of their recipes again. */
async function setRules(rules: string): Promise<void> {
  await house.amigo.context.db.execute(sql`update list set rules = rules || ${rules}::jsonb`);
}

/** An export is written into the journal, and would be a change of their own. */
const isPure = ({ path }: Asked): boolean => !/archive\.mbox$|\/export|\.csv$|\/record$/.test(path);

async function walk(
  client: Client,
  isAsked: (asked: Asked) => boolean = () => true,
): Promise<Map<string, { asked: Asked; said: string }>> {
  const said = new Map<string, { asked: Asked; said: string }>();
  for (const asked of questions().filter(isAsked)) {
    const { body } = await client.ask(asked.method, asked.path, asked.body);
    said.set(`${asked.name} ${asked.path}`, {
      asked,
      said: typeof body === "string" ? body : JSON.stringify(body),
    });
  }
  return said;
}

describe.each(Object.entries(CALLERS))("%s", (who, { own: item }) => {
  const client = (): Client => clients.get(who) as Client;

  test("finds nobody's words in any answer but those of their own people", async () => {
    const leaks: string[] = [];
    for (const { asked, said } of (await walk(client())).values()) {
      // What somebody has typed themselves may come back to them.
      const typed = `${asked.path} ${JSON.stringify(asked.body ?? "")}`.toLowerCase();
      const told =
        typed.includes("pinecanary") || typed.includes("yewcanary")
          ? said
              .toLowerCase()
              .replaceAll("sven.pinecanary@lettr.example", "")
              .replaceAll("per.yewcanary@copperwheel.example", "")
              .replaceAll("tove pinecanary", "")
          : said.toLowerCase();
      const found = ALL.filter((word) => !item.includes(word) && told.includes(word));
      if (found.length > 0) leaks.push(`${asked.name}: ${found.join(", ")}`);
    }
    expect([...new Set(leaks)]).toEqual([]);
  });

  test("can't tell from any answer that something has happened at the other site", async () => {
    // How many members a list has is told to whoever finds it and may write to it; here they don't find the others'.
    await setRules(FOUND_BY_LEADS);
    const before = await walk(client(), isPure);
    await house.readLines(
      juno,
      [
        HEAD,
        ...MILL,
        ...BARN,
        `BB-9,Firecanary,${who.length},Big Barn,Juggling One,Teo Bramwell,Mats Firecanary,mats.${who.length}@lettr.example,,`,
      ],
      { id: (await juno.ask<{ id: string }[]>("GET", "/api/sources")).body[0]?.id ?? "" },
    );
    await house.step(juno);
    await house.amigo.context.db.execute(sql`
      insert into address_trouble (address, state, sort, words) values (${`mats.${who.length}@lettr.example`}, 'stopped', 'no mailbox', 'gone') on conflict do nothing`);
    await setRules(FOUND_BY_LEADS);
    const after = await walk(client(), isPure);
    const told = [...before].flatMap(([key, { asked, said }]) =>
      still(after.get(key)?.said ?? "") === still(said) ? [] : [asked.name],
    );
    expect([...new Set(told)]).toEqual([]);
  });
});
