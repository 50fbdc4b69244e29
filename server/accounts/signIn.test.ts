import { scryptSync } from "node:crypto";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { networkOf } from "../http/networkAddress";
import { JUNO, ODILE, RAVI, startTestHouse, until, type TestHouse } from "../testing/testHouse";

/** A day on which an API token still works, whenever the tests run. */
const IN_A_YEAR = new Date(Date.now() + 365 * 86_400_000).toISOString().slice(0, 10);

const PETRA = "petra.dunmore@copperwheel.example";
const DEMO_PASSWORD = "copperwheel-demo";
let house: TestHouse;

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
});
afterAll(() => house.close());

const signIn = (email: string, password: string) =>
  house.client().ask("POST", "/api/sign-in", { email, password });
const run = (query: ReturnType<typeof sql>) => house.amigo.context.db.execute(query);

test("of many guesses at once no more are judged than of as many one after the other", async () => {
  const answers = await Promise.all(
    Array.from({ length: 35 }, (_, at) => signIn(PETRA, `guess ${at}`)),
  );
  const of = (status: number): number =>
    answers.filter((answer) => answer.status === status).length;
  expect([of(401), of(429)]).toEqual([8, 27]);
  expect((await signIn(PETRA, DEMO_PASSWORD)).status).toBe(429);
  const { rows } = await run(
    sql`select count(*)::int as count from journal where action = 'failed sign-in'`,
  );
  expect(rows[0]?.count).toBe(8);
});

test.each([
  ["192.0.2.7", "192.0.2.7"],
  ["192.0.2.7:51000", "192.0.2.7"],
  ["::ffff:192.0.2.7", "192.0.2.7"],
  ["[2001:db8:1:2:3:4:5:6]:51000", "2001:db8:1:2::/64"],
  ["2001:db8:1:2:ffff::1", "2001:db8:1:2::/64"],
  ["2001:db8:1:2::9%eth0", "2001:db8:1:2::/64"],
  ["", "unknown"],
  ["nonsense", "unknown"],
])("%j is of the network %s", (address, network) => expect(networkOf(address)).toBe(network));

test("a hash of an older kind still opens, and is made again with it", async () => {
  const salt = Buffer.from("0123456789abcdef");
  const key = scryptSync("an older password", salt, 32, { N: 8192, r: 8, p: 1 });
  await run(
    sql`update account set password_hash = ${`scrypt$8192$8$1$${salt.toString("base64")}$${key.toString("base64")}`} where email = ${RAVI}`,
  );
  expect((await signIn(RAVI, "another password")).status).toBe(401);
  expect((await signIn(RAVI, "an older password")).status).toBe(200);
  const { rows } = await run(sql`select password_hash as hash from account where email = ${RAVI}`);
  expect(rows[0]?.hash).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
  expect((await signIn(RAVI, "an older password")).status).toBe(200);
});

describe("a session", () => {
  test("ends when nobody has asked for anything for days", async () => {
    const juno = await house.signIn(JUNO);
    expect((await juno.ask("GET", "/api/me")).status).toBe(200);
    await run(sql`update session set last_seen_at = now() - interval '4 days'`);
    expect((await juno.ask("GET", "/api/me")).status).toBe(401);
  });

  test("that ends elsewhere takes its event stream along", async () => {
    const here = await house.signIn(ODILE);
    const there = await house.signIn(ODILE);
    const stream = await fetch(`${house.url}/api/events`, { headers: { Cookie: there.cookie } });
    const reader = stream.body?.getReader();
    let ended = false;
    void (async () => {
      for (;;) {
        const piece = await reader?.read();
        if (piece === undefined || piece.done) break;
      }
      ended = true;
    })();
    await here.ask("POST", "/api/account/sessions/end-others");
    await until(
      "the stream to end",
      () => ended,
      (is) => is,
    );
    expect((await there.ask("GET", "/api/me")).status).toBe(401);
    expect((await here.ask("GET", "/api/me")).status).toBe(200);
  });

  test("and every link and token ends with a change of the password", async () => {
    const juno = await house.signIn(JUNO);
    const { body } = await juno.ask<{ token: string }>("POST", "/api/tokens", {
      name: "nightly",
      scopes: ["read settings"],
      lastDay: IN_A_YEAR,
    });
    await house.client().ask("POST", "/api/sign-in/link", { email: JUNO, what: "sign-in" });
    const links = async (): Promise<number> =>
      Number(
        (
          await run(
            sql`select count(*) as count from mailed_link where address = ${JUNO} and used_at is null`,
          )
        ).rows[0]?.count,
      );
    await until("the link", links, (count) => count === 1);
    expect(
      (
        await juno.ask("POST", "/api/account/password", {
          current: DEMO_PASSWORD,
          password: "four dry umbrellas",
        })
      ).status,
    ).toBe(200);
    expect(await links()).toBe(0);
    expect(
      (
        await house
          .client()
          .ask("GET", "/api/house", undefined, { Authorization: `Bearer ${body.token}` })
      ).status,
    ).toBe(401);
    expect((await juno.ask("GET", "/api/me")).status).toBe(200);
  });
});

test("under https a session's cookie belongs to this very host", async () => {
  const { settings } = house.amigo.context;
  const before = settings.url;
  settings.url = "https://lists.copperwheel.example";
  try {
    const answer = await fetch(`${house.url}/api/sign-in`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ email: ODILE, password: DEMO_PASSWORD }),
    });
    expect(answer.headers.get("set-cookie")).toMatch(
      /^__Host-amigo_session=[^;]+; (?=.*Path=\/)(?=.*HttpOnly)(?=.*Secure)(?!.*Domain)/,
    );
    const [cookie = ""] = (answer.headers.get("set-cookie") ?? "").split(";");
    expect((await house.client(cookie).ask("GET", "/api/me")).status).toBe(200);
    expect((await house.client(cookie.replace("__Host-", "")).ask("GET", "/api/me")).status).toBe(
      401,
    );
  } finally {
    settings.url = before;
  }
});
