import { connect, createServer, type Socket } from "node:net";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, expect, test } from "vitest";
import { JUNO, startTestHouse, until, type TestHouse } from "../testing/testHouse";
import { freePorts } from "../testing/freePorts";
import { Events, notify, TOPICS, type Topic } from "./events";

let house: TestHouse;
let cookie = "";

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  cookie = (await house.signIn(JUNO)).cookie;
});
afterAll(() => house.close());

interface Listener {
  topics: () => string[];
  /** The id of what was told last. */
  id: () => string;
  stop: () => void;
}

async function startListening(query: string, headers: Record<string, string>): Promise<Listener> {
  const stop = new AbortController();
  const response = await fetch(`${house.url}/api/events${query}`, {
    headers: { Cookie: cookie, ...headers },
    signal: stop.signal,
  });
  let told = "";
  const read = async (): Promise<void> => {
    for await (const part of response.body?.pipeThrough(new TextDecoderStream()) ?? [])
      told += part;
  };
  read().catch(() => undefined);
  return {
    topics: () => [...told.matchAll(/event: changed\ndata: (\w+)/g)].map(([, topic = ""]) => topic),
    id: () => /id: (\d+)(?![^]*id: )/.exec(told)?.[1] ?? "",
    stop: () => stop.abort(),
  };
}

/** Listens until a number of topics was told, and returns them with the id of the last. */
async function listen(
  query: string,
  many: number,
  headers: Record<string, string> = {},
): Promise<{ topics: string[]; id: string }> {
  const { topics, id, stop } = await startListening(query, headers);
  await until(`${many} topics`, topics, (told) => told.length >= many);
  stop();
  return { topics: topics(), id: id() };
}

const changed = async (topic: (typeof TOPICS)[number]): Promise<void> => {
  const before = Date.now();
  await notify(house.amigo.context.db, topic);
  await until(
    `${topic} is heard`,
    () => house.amigo.context.events.since(before),
    (topics) => topics.includes(topic),
  );
};

test("a page hears of what changed between its own beginning and its listening, and of what changes then", async () => {
  const began = Date.now();
  await changed("intakes");
  const heard = listen(`?age=${Date.now() - began}`, 2);
  await changed("rounds");
  expect((await heard).topics).toEqual(expect.arrayContaining(["intakes", "rounds"]));
});

test("what changed before a moment is not told of after it", async () => {
  await changed("people");
  await until(
    "a moment later",
    () => Date.now(),
    (
      (before) => (now: number) =>
        now > before + 1
    )(Date.now()),
  );
  const moment = Date.now();
  await changed("sources");
  expect(house.amigo.context.events.since(moment)).toEqual(["sources"]);
});

test("after a broken connection it hears what it missed; of a time before all was heard, everything", async () => {
  const began = Date.now();
  await changed("forms");
  const first = await listen(`?age=${Date.now() - began}`, 1);
  expect(first.topics).toContain("forms");
  await changed("posts");
  expect((await listen("", 1, { "Last-Event-ID": first.id })).topics.length).toBeGreaterThan(0);
  expect((await listen("", TOPICS.length, { "Last-Event-ID": "1000" })).topics.sort()).toEqual(
    [...TOPICS].sort(),
  );
});

test("a page goes on hearing where the database can't say for a while whether it is signed in", async () => {
  const { db } = house.amigo.context;
  const { topics, stop } = await startListening("", { "Last-Event-ID": "1000" });
  await until("everything at first", topics, (told) => told.length >= TOPICS.length);
  const first = topics().length;
  await db.execute(sql`alter table session rename to session_away`);
  try {
    // A change of the house is what makes it look at once.
    await changed("house");
    await until("the house's change", topics, (told) => told.slice(first).includes("house"));
  } finally {
    await db.execute(sql`alter table session_away rename to session`);
  }
  await changed("dates");
  await until("a change afterwards", topics, (told) => told.slice(first).includes("dates"));
  stop();
});

/** A way to the database that can fall silent without breaking, as one behind a proxy does. */
async function silentWay(): Promise<{ url: string; silence: () => void; close: () => void }> {
  const database = new URL(house.amigo.context.settings.databaseUrl);
  const { port: behind, hostname } = database;
  const pairs: { near: Socket; far: Socket }[] = [];
  const server = createServer((near) => {
    const far = connect(Number(behind), hostname);
    pairs.push({ near, far });
    near.pipe(far).pipe(near);
    near.on("error", () => far.destroy()).on("close", () => far.destroy());
    far.on("error", () => near.destroy()).on("close", () => near.destroy());
  });
  const [port = 0] = await freePorts(1);
  await new Promise<void>((resolve) => server.listen(port, "127.0.0.1", resolve));
  database.port = String(port);
  return {
    url: database.href,
    silence: () => {
      for (const { near, far } of pairs.splice(0)) {
        far.unpipe(near);
        far.resume();
      }
    },
    close: () => server.close(),
  };
}

test("a line that has gone silent without breaking is noticed and made anew, and all that was missed is told", async () => {
  const way = await silentWay();
  const warnings: string[] = [];
  const log = { warn: ({ failure }: { failure: string }) => warnings.push(failure) };
  // Long enough that a busy machine isn't taken for a silent line.
  const events = new Events(way.url, house.amigo.context.db, log as never, 1000);
  try {
    await events.start();
    const told: Topic[] = [];
    events.on((topic) => told.push(topic));
    await notify(house.amigo.context.db, "forms");
    await until(
      "the line hears",
      () => told,
      (topics) => topics.includes("forms"),
    );
    way.silence();
    const missedFrom = Date.now();
    await notify(house.amigo.context.db, "dates");
    await until(
      "it is noticed",
      () => events.isHearing(),
      (hears) => !hears,
    );
    expect(warnings.join()).toContain("AMIGO_DATABASE_DIRECT_URL");
    // Nobody may take it that nothing has changed.
    expect(events.since(missedFrom)).toEqual(TOPICS);
    await until(
      "all that may have been missed",
      () => new Set(told),
      (topics) => TOPICS.every((topic) => topics.has(topic)),
    );
    await until(
      "it is heard again",
      () => events.isHearing(),
      (hears) => hears,
    );
    told.length = 0;
    await notify(house.amigo.context.db, "shelf");
    await until(
      "it hears again",
      () => told,
      (topics) => topics.includes("shelf"),
    );
  } finally {
    await events.close();
    way.close();
  }
});

test("open pages are told one after another, and whoever has gone meanwhile isn't", async () => {
  const { db, events } = house.amigo.context;
  const told: string[] = [];
  const leave: (() => void)[] = [];
  const page = (name: string): void => {
    leave.push(
      events.onPage((topic) => {
        if (topic === "shelf") told.push(name);
      }),
    );
  };
  for (const name of ["first", "second", "third", "fourth"]) page(name);
  // Who isn't a page hears at once, when only the first page was told: the others' turn is still to come.
  const heardAfter = new Promise<string[]>((resolve) => {
    leave.push(
      events.on((topic) => {
        if (topic !== "shelf") return;
        leave[2]?.();
        setImmediate(() => resolve([...told]));
      }),
    );
  });
  await notify(db, "shelf");
  expect(await heardAfter).toEqual(["first"]);
  await until(
    "the last is told",
    () => told,
    (names) => names.includes("fourth"),
  );
  expect(told).toEqual(["first", "second", "fourth"]);
  for (const stop of leave) stop();
});
