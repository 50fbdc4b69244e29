import { Hono } from "hono";
import pino from "pino";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { startTestHouse, type TestHouse } from "../testing/testHouse";
import { logRequests } from "../http/logRequests";
import { Traffic } from "../http/traffic";

let house: TestHouse;
beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
});
afterAll(() => house.close());

describe("a process that is watched", () => {
  const ask = async (path: string, headers = {}): Promise<[number, string]> => {
    const response = await fetch(`${house.url}${path}`, { headers });
    return [response.status, await response.text()];
  };

  test("says that it lives and is ready, and why not", async () => {
    expect(await ask("/livez")).toEqual([200, "ok"]);
    expect(await ask("/readyz")).toEqual([200, "ok"]);
    const { context } = house.amigo;
    const { db } = context;
    context.db = {
      ...db,
      execute: () => Promise.reject(new Error("away")),
    } as unknown as typeof db;
    expect(await ask("/readyz")).toEqual([503, "the database doesn't answer"]);
    expect(await ask("/livez")).toEqual([200, "ok"]);
    context.db = db;
    expect(await ask("/readyz")).toEqual([200, "ok"]);
  });

  test("answers 404 where there is no page, also with the page that says so", async () => {
    for (const path of ["/metrics", "/healthz", "/wp-login.php", "/.env"])
      expect((await ask(path))[0], path).toBe(404);
    for (const path of ["/", "/lists", "/mail/write", "/member/some.token"])
      expect((await ask(path))[0], path).toBe(200);
  });

  test("gives each answer an id, the proxy's where it gave one that is one", async () => {
    const id = async (given?: string): Promise<string> =>
      (
        await fetch(`${house.url}/api/start`, {
          ...(given === undefined ? {} : { headers: { "X-Request-Id": given } }),
        })
      ).headers.get("X-Request-Id") ?? "";
    expect(await id("proxy-4711:a")).toBe("proxy-4711:a");
    expect(await id("<script>")).toMatch(/^[\w-]{12}$/);
    expect(await id()).not.toBe(await id());
  });
});

test("the log names the route of a request, and nothing of what stands in its path", async () => {
  const lines: string[] = [];
  const app = new Hono();
  app.use(logRequests(pino({}, { write: (line: string) => void lines.push(line) })));
  app.use("/api/*", async (_, next) => next());
  app.get("/leave/:token", (http) => http.text("ok"));
  await app.request("/leave/secret.token", { headers: { "X-Request-Id": "r1" } });
  await app.request("/nowhere/secret");
  expect(lines.map((line) => JSON.parse(line) as object)).toMatchObject([
    { request: "r1", method: "GET", route: "/leave/:token", status: 200 },
    { route: "/*", status: 404 },
  ]);
  expect(lines.join()).not.toContain("secret");
});

test("a stop lets requests finish and takes no new ones", async () => {
  const traffic = new Traffic();
  const app = new Hono();
  app.use(traffic.count);
  let finish = (): void => undefined;
  app.get("/slow", async (http) => {
    await new Promise<void>((resolve) => {
      finish = resolve;
    });
    return http.text("done");
  });
  app.get("/quick", (http) => http.text("done"));
  const slow = app.request("/slow");
  let stopped = false;
  const stop = traffic.stop().then(() => {
    stopped = true;
  });
  const refused = await app.request("/quick");
  expect([refused.status, refused.headers.get("Retry-After")]).toEqual([503, "5"]);
  expect(stopped).toBe(false);
  finish();
  expect((await slow).status).toBe(200);
  await stop;
  expect(stopped).toBe(true);
});
