import { afterAll, beforeAll, expect, test } from "vitest";
import { JUNO, startTestHouse, until, type TestHouse } from "../testing/testHouse";
import { notify, TOPICS } from "./events";

let house: TestHouse;
let cookie = "";

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  cookie = (await house.signIn(JUNO)).cookie;
});
afterAll(() => house.close());

/** Listens until a number of topics was told, and returns them with the id of the last. */
async function listen(
  query: string,
  many: number,
  headers: Record<string, string> = {},
): Promise<{ topics: string[]; id: string }> {
  const stop = new AbortController();
  const response = await fetch(`${house.url}/api/events${query}`, {
    headers: { Cookie: cookie, ...headers },
    signal: stop.signal,
  });
  const reader = response.body?.pipeThrough(new TextDecoderStream()).getReader();
  let told = "";
  const topics = (): string[] =>
    [...told.matchAll(/event: changed\ndata: (\w+)/g)].map(([, topic = ""]) => topic);
  while (topics().length < many) told += (await reader?.read())?.value ?? "";
  stop.abort();
  return { topics: topics(), id: /id: (\d+)(?![^]*id: )/.exec(told)?.[1] ?? "" };
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
