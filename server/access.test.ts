import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { HOUSE_ROLES, may, type HouseRole } from "@amigo/core/access/may";
import { ALL_ENDPOINTS } from "@amigo/contract/endpoints";
import type { Board } from "@amigo/contract/board";
import {
  JUNO,
  ODILE,
  RAVI,
  startTestHouse,
  type Client,
  type TestHouse,
} from "./testing/testHouse";

/** A day on which an API token still works, whenever the tests run. */
const IN_A_YEAR = new Date(Date.now() + 365 * 86_400_000).toISOString().slice(0, 10);

let house: TestHouse;
const clients = new Map<HouseRole | "nobody", Client>();

beforeAll(async () => {
  house = await startTestHouse();
  clients.set("nobody", house.client());
  clients.set("coordinator", await house.signIn(JUNO));
  clients.set("site coordinator", await house.signIn(ODILE));
  clients.set("staff", await house.signIn(RAVI));
  clients.set("helper", await house.signIn("ilse.tamm@copperwheel.example"));
  const juno = of("coordinator");
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  await house.read(juno, "autumn-roster-week-2.xlsx", {
    id: (await juno.ask<{ id: string }[]>("GET", "/api/sources")).body[0]?.id ?? "",
  });
});
afterAll(() => house.close());

function of(role: HouseRole | "nobody"): Client {
  const client = clients.get(role);
  if (client === undefined) throw new Error(`no ${role}`);
  return client;
}

const MISSING = "00000000-0000-4000-8000-000000000000";
const asked = ALL_ENDPOINTS.map((endpoint) => ({
  endpoint,
  name: `${endpoint.method.toUpperCase()} ${endpoint.path}`,
}));

describe("every route against every role", () => {
  test("the OpenAPI document names every route with who may ask", async () => {
    const { body } = await of("nobody").ask<{
      openapi: string;
      paths: Record<string, Record<string, { "x-amigo-who": string }>>;
    }>("GET", "/api/openapi.json");
    expect(body.openapi).toBe("3.1.0");
    expect(
      Object.entries(body.paths)
        .flatMap(([path, methods]) =>
          Object.keys(methods).map((method) => `${method.toUpperCase()} ${path}`),
        )
        .sort(),
    ).toEqual(asked.map(({ name }) => name).sort());
  });

  test.each(asked)("$name", async ({ endpoint }) => {
    const path = endpoint.path.replace("{id}", MISSING).replace(/\{(number|position)\}/g, "999");
    // No body: nobody who may not ask gets as far as having it looked at, and nothing is changed.
    // What one request lets in doesn't help the next: each is asked with the cookies of the sign-in alone.
    const status = async (role: HouseRole | "nobody"): Promise<number> =>
      (await house.client(of(role).cookie).ask(endpoint.method.toUpperCase(), path)).status;
    if (endpoint.who === "anybody") {
      if (endpoint.path === "/api/sign-out") return;
      expect([200, 400, 401, 403]).toContain(await status("nobody"));
      return;
    }
    if (endpoint.who === "member") {
      // A sign-in alone opens no member page: the link that was mailed to its owner does, and asking for that of one's own address.
      for (const role of ["nobody", ...HOUSE_ROLES] as const)
        expect(await status(role), role).toBe(401);
      return;
    }
    expect(await status("nobody")).toBe(401);
    for (const role of HOUSE_ROLES) {
      const got = await status(role);
      if (may(role, endpoint.who)) expect([200, 400, 404], role).toContain(got);
      else expect(got, role).toBe(403);
    }
  });

  test.each(["/api/events", "/api/samples/autumn-roster.xlsx"])(
    "GET %s needs somebody signed in",
    async (path) => {
      expect((await of("nobody").ask("GET", path)).status).toBe(401);
    },
  );
});

describe("what a role sees is narrowed", () => {
  test("a site coordinator sees the lists of her site only, a lead those that he leads", async () => {
    const names = async (role: HouseRole): Promise<string[]> =>
      (await of(role).ask<Board>("GET", "/api/board")).body.sites.flatMap(({ rows }) =>
        rows.flatMap(({ cells }) =>
          cells.flatMap(({ list, name }) => (list === null ? [] : [name])),
        ),
      );
    expect(await names("coordinator")).toHaveLength(30);
    expect((await names("site coordinator")).every((name) => name.startsWith("ml-"))).toBe(true);
    expect(await names("site coordinator")).toHaveLength(15);
    expect((await names("staff")).sort()).toEqual([
      "bb-seeds-2627",
      "bb-seeds-coaches-2627",
      "bb-seeds-parents-2627",
      "ml-trapeze2-2627",
      "ml-trapeze2-coaches-2627",
      "ml-trapeze2-parents-2627",
    ]);
  });

  test("another site's list can't be opened, tried, written to or found", async () => {
    const { body } = await of("coordinator").ask<{ id: string }[]>(
      "GET",
      "/api/lists?q=juggling one guardians",
    );
    const id = body[0]?.id ?? "";
    expect((await of("coordinator").ask("GET", `/api/lists/${id}`)).status).toBe(200);
    for (const role of ["site coordinator", "staff"] as const) {
      const client = of(role);
      expect((await client.ask("GET", `/api/lists/${id}`)).status).toBe(404);
      expect((await client.ask("GET", `/api/lists/${id}/members`)).status).toBe(404);
      expect((await client.ask("GET", `/api/posts?list=${id}`)).status).toBe(404);
      expect((await client.ask("POST", `/api/lists/${id}/try`, { address: JUNO })).status).toBe(
        404,
      );
      expect(
        (
          await client.ask("POST", `/api/lists/${id}/members`, {
            addresses: [JUNO],
            how: "quietly",
            reason: "x",
          })
        ).status,
      ).toBe(404);
      expect(
        (await client.ask("POST", `/api/lists/${id}/agree`, { ids: [MISSING], agree: true }))
          .status,
      ).toBe(404);
      expect((await client.ask("POST", "/api/posts/reckon", { lists: [id] })).status).toBe(404);
      expect(
        (
          await client.ask("POST", "/api/posts", {
            lists: [id],
            subject: "x",
            text: "x",
            key: crypto.randomUUID(),
          })
        ).status,
      ).toBe(404);
      expect((await client.ask<unknown[]>("GET", "/api/lists?q=juggling")).body).toEqual([]);
      expect((await client.ask<unknown[]>("GET", "/api/find?q=juggling")).body).toEqual([]);
    }
  });
});

describe("sessions and tokens", () => {
  test("a request from another site is not carried out, whatever the cookie", async () => {
    const juno = of("coordinator");
    const others: Record<string, string>[] = [
      { Origin: "https://evil.example" },
      { "Sec-Fetch-Site": "cross-site" },
    ];
    for (const headers of others) {
      const { status, body } = await juno.ask<{ type: string }>(
        "POST",
        "/api/tokens",
        { name: "theft" },
        headers,
      );
      expect([status, body.type]).toEqual([403, "urn:amigo:fault:other-site"]);
    }
  });

  test("a token does what its maker may do until it is revoked, and is not stored as it is", async () => {
    const juno = of("coordinator");
    const { body } = await juno.ask<{ id: string; token: string }>("POST", "/api/tokens", {
      name: "nightly",
      scopes: ["read settings"],
      lastDay: IN_A_YEAR,
    });
    const script = house.client();
    const bearer = { Authorization: `Bearer ${body.token}` };
    expect((await script.ask("GET", "/api/house", undefined, bearer)).status).toBe(200);
    const dump = await house.amigo.context.connection.pool.query(
      "select token_hash from api_token",
    );
    expect(JSON.stringify(dump.rows)).not.toContain(body.token);
    expect(JSON.stringify((await juno.ask("GET", "/api/tokens")).body)).not.toContain(body.token);
    await juno.ask("DELETE", `/api/tokens/${body.id}`);
    expect((await script.ask("GET", "/api/house", undefined, bearer)).status).toBe(401);
  });

  test("a token does what its scopes say, until its last day, and makes no other token", async () => {
    const juno = of("coordinator");
    const make = (scopes: string[], lastDay: string) =>
      juno.ask<{ id: string; token: string }>("POST", "/api/tokens", {
        name: "reader",
        scopes,
        lastDay,
      });
    for (const [scopes, lastDay] of [
      [[], IN_A_YEAR],
      [["manage tokens"], IN_A_YEAR],
      [["read lists"], "2026-01-01"],
      [["read lists"], "2099-01-01"],
      [["read lists"], "soon"],
    ] as const)
      expect([400, 422]).toContain((await make([...scopes], lastDay)).status);
    const { body } = await make(["read lists"], IN_A_YEAR);
    const bearer = { Authorization: `Bearer ${body.token}` };
    const ask = (method: string, path: string, given?: unknown) =>
      house.client().ask<{ type: string }>(method, path, given, bearer);
    expect((await ask("GET", "/api/lists/all")).status).toBe(200);
    for (const [method, path] of [
      ["GET", "/api/people"],
      ["GET", "/api/house"],
      ["GET", "/api/tokens"],
      ["POST", "/api/tokens"],
      ["POST", "/api/accounts"],
      ["POST", "/api/posts"],
      ["GET", "/api/journal/export"],
      ["POST", "/api/account/password"],
    ] as const)
      expect([path, (await ask(method, path)).status]).toEqual([path, 403]);
    expect((await ask("GET", "/api/people")).body.type).toBe("urn:amigo:fault:token/scope");
    await house.amigo.context.connection.pool.query(
      "update api_token set last_day = current_date - 2 where id = $1",
      [body.id],
    );
    expect((await ask("GET", "/api/lists/all")).status).toBe(401);
  });

  test("cookies are HttpOnly and SameSite, and signing out ends the session", async () => {
    const response = await fetch(`${house.url}/api/sign-in`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ email: RAVI.toUpperCase(), password: "copperwheel-demo" }),
    });
    const cookie = response.headers.get("set-cookie") ?? "";
    expect(cookie).toMatch(/HttpOnly/i);
    expect(cookie).toMatch(/SameSite=Lax/i);
    const ravi = house.client(cookie.split(";")[0]);
    expect((await ravi.ask("GET", "/api/me")).status).toBe(200);
    const kept = ravi.cookie;
    await ravi.ask("POST", "/api/sign-out");
    expect((await house.client(kept).ask("GET", "/api/me")).status).toBe(401);
  });

  test("attempts are limited, and unknown and wrong are told alike", async () => {
    const nobody = house.client();
    const attempt = (email: string) =>
      nobody.ask<{ detail: string }>("POST", "/api/sign-in", { email, password: "guess" });
    const unknown = await attempt("nobody@copperwheel.example");
    const wrong = await attempt("petra.dunmore@copperwheel.example");
    expect([unknown.status, unknown.body.detail]).toEqual([wrong.status, wrong.body.detail]);
    for (let turn = 0; turn < 7; turn++) await attempt("petra.dunmore@copperwheel.example");
    expect((await attempt("petra.dunmore@copperwheel.example")).status).toBe(429);
    expect(
      (
        await nobody.ask("POST", "/api/sign-in", {
          email: "petra.dunmore@copperwheel.example",
          password: "copperwheel-demo",
        })
      ).status,
    ).toBe(429);
  });

  test("pages carry a strict policy: no inline script, no framing", async () => {
    const response = await fetch(`${house.url}/api/health`);
    const policy = response.headers.get("content-security-policy") ?? "";
    expect(policy).toContain("script-src 'self'");
    expect(policy).toContain("frame-ancestors 'none'");
    expect(response.headers.get("x-content-type-options")).toBe("nosniff");
  });
});
