import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { AccountLine, SessionLine } from "@amigo/contract/staff";
import {
  JUNO,
  ODILE,
  startTestHouse,
  until,
  type Client,
  type TestHouse,
} from "../testing/testHouse";
import { roundOf } from "../testing/roundOf";

const NADIA = "nadia.petrov@copperwheel.example";
const PASSWORD = "three wet umbrellas";

let house: TestHouse;
let juno: Client;

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
});
afterAll(() => house.close());

const accounts = async (client = juno): Promise<AccountLine[]> =>
  (await client.ask<{ accounts: AccountLine[] }>("GET", "/api/accounts")).body.accounts;
const account = async (email: string): Promise<AccountLine> => {
  const found = (await accounts()).find((candidate) => candidate.email === email);
  if (found === undefined) throw new Error(`no account ${email}`);
  return found;
};
const linkIn = (mail: string, place: string): string =>
  new RegExp(`/${place}/([\\w-]+)`).exec(mail)?.[1] ?? "";
const staffList = async (): Promise<string[]> => {
  const { body } = await juno.ask<{ id: string }[]>("GET", "/api/lists?q=everybody staff");
  const all = await juno.ask<{ lists: { id: string; recipe: string }[] }>("GET", "/api/lists/all");
  const id =
    body[0]?.id ??
    all.body.lists.find(({ recipe }) => recipe === "Everybody on the staff")?.id ??
    "";
  return (
    await juno.ask<{ members: { address: string }[] }>("GET", `/api/lists/${id}/members`)
  ).body.members.map(({ address }) => address);
};

describe("an invitation", () => {
  test("is mailed; its link is good once, and who takes it is signed in and on the staff's list", async () => {
    expect(
      (
        await juno.ask("POST", "/api/accounts", {
          name: "Nadia Petrov",
          email: NADIA,
          role: "staff",
        })
      ).status,
    ).toBe(200);
    expect(await account(NADIA)).toMatchObject({ state: "invited", role: "staff" });
    expect(await staffList()).toContain(NADIA);
    expect(
      (await house.client().ask("POST", "/api/sign-in", { email: NADIA, password: "" })).status,
    ).toBe(401);
    const token = linkIn(await house.mailTo(NADIA, "invites you"), "password");
    const nadia = house.client();
    expect((await nadia.ask("POST", "/api/sign-in/look", { token })).body).toMatchObject({
      name: "Nadia Petrov",
      what: "invitation",
    });
    const weak = await nadia.ask<{ detail: string }>("POST", "/api/sign-in/password", {
      token,
      password: "nadia.petrov",
    });
    expect([weak.status, weak.body.detail]).toEqual([422, expect.stringContaining("tried first")]);
    expect(
      (await nadia.ask("POST", "/api/sign-in/password", { token, password: PASSWORD })).status,
    ).toBe(200);
    expect((await nadia.ask("GET", "/api/me")).body).toMatchObject({
      name: "Nadia Petrov",
      role: "staff",
    });
    expect(
      (await house.client().ask("POST", "/api/sign-in/password", { token, password: PASSWORD }))
        .status,
    ).toBe(422);
    expect((await house.client().ask("POST", "/api/sign-in/look", { token })).status).toBe(422);
    expect(await account(NADIA)).toMatchObject({ state: "in use" });
  });

  test("to an address that has an account is refused; a second one replaces the first", async () => {
    expect(
      (await juno.ask("POST", "/api/accounts", { name: "Nadia", email: NADIA, role: "staff" }))
        .status,
    ).toBe(409);
    const { body } = await juno.ask<{ id: string }>("POST", "/api/accounts", {
      name: "Kofi Asare",
      email: "kofi.asare@copperwheel.example",
      role: "staff",
    });
    const first = linkIn(
      await house.mailTo("kofi.asare@copperwheel.example", "invites you"),
      "password",
    );
    house.sink.mails.length = 0;
    await juno.ask("POST", `/api/accounts/${body.id}/invite`);
    const second = linkIn(
      await house.mailTo("kofi.asare@copperwheel.example", "invites you"),
      "password",
    );
    expect((await house.client().ask("POST", "/api/sign-in/look", { token: first })).status).toBe(
      422,
    );
    expect((await house.client().ask("POST", "/api/sign-in/look", { token: second })).status).toBe(
      200,
    );
  });

  test.each<[string, object, number]>([
    ["a site coordinator of no site", { role: "site coordinator", site: "" }, 422],
    ["a site that there is not", { role: "staff", site: "Moon Base" }, 422],
    ["no address", { role: "staff", email: "nobody" }, 400],
    ["a role that there is not", { role: "king" }, 400],
  ])("for %s is refused", async (_what, more, status) => {
    expect(
      (
        await juno.ask("POST", "/api/accounts", {
          name: "X",
          email: "x@copperwheel.example",
          ...more,
        })
      ).status,
    ).toBe(status);
  });
});

describe("a role", () => {
  test("of the last coordinator can't be taken away, nor can they end", async () => {
    const foundAccount = await account(JUNO);
    const change = (body: object) =>
      juno.ask<{ detail: string }>("PUT", `/api/accounts/${foundAccount.id}`, body);
    expect((await change({ role: "staff" })).body.detail).toContain("No coordinator would be left");
    expect((await change({ role: "coordinator", lastDay: "2099-01-01" })).status).toBe(409);
    expect(
      (await juno.ask("POST", `/api/accounts/${foundAccount.id}/end`, { ended: true })).status,
    ).toBe(409);
    expect((await juno.ask("GET", "/api/house")).status).toBe(200);
  });

  test("ends on its day: the session is over, and the staff's list is left by a round", async () => {
    const nadia = house.client();
    await nadia.ask("POST", "/api/sign-in", { email: NADIA, password: PASSWORD });
    const { id } = await account(NADIA);
    expect(
      (await juno.ask("PUT", `/api/accounts/${id}`, { role: "staff", lastDay: "2099-06-30" }))
        .status,
    ).toBe(200);
    expect(await account(NADIA)).toMatchObject({ lastDay: "2099-06-30", state: "in use" });
    expect((await nadia.ask("GET", "/api/me")).status).toBe(200);
    await house.amigo.context.connection.pool.query(
      "update account set ended_at = now() - interval '1 minute' where email = $1",
      [NADIA],
    );
    expect((await nadia.ask("GET", "/api/me")).status).toBe(401);
    expect(await house.amigo.context.desk.run("endStaff", undefined)).toBe(1);
    expect(await staffList()).not.toContain(NADIA);
    expect(await house.amigo.context.desk.run("endStaff", undefined)).toBe(0);
    expect((await juno.ask("POST", `/api/accounts/${id}/end`, { ended: false })).status).toBe(200);
    expect(await staffList()).toContain(NADIA);
  });

  test("a site coordinator invites staff of her site, sees nobody else, and gives no other role", async () => {
    const odile = await house.signIn(ODILE);
    expect((await accounts(odile)).map(({ name }) => name)).toEqual(["Odile Marchetti"]);
    const invite = (body: object) =>
      odile.ask("POST", "/api/accounts", {
        name: "Zoe Lund",
        email: "zoe.lund@copperwheel.example",
        ...body,
      });
    expect((await invite({ role: "coordinator", site: "Mill Loft" })).status).toBe(403);
    expect((await invite({ role: "staff", site: "Big Barn" })).status).toBe(403);
    expect((await invite({ role: "staff", site: "Mill Loft" })).status).toBe(200);
    expect(
      (await odile.ask("POST", `/api/accounts/${(await account(JUNO)).id}/end`, { ended: true }))
        .status,
    ).toBe(404);
  });
});

describe("passwords, links and sessions", () => {
  const enter = async (): Promise<Client> => {
    const client = house.client();
    await client.ask("POST", "/api/sign-in", { email: NADIA, password: PASSWORD });
    return client;
  };

  test("a changed password ends every other session", async () => {
    const [here, there] = [await enter(), await enter()];
    expect(
      (
        await here.ask("POST", "/api/account/password", {
          current: "not it at all",
          password: "four dry umbrellas",
        })
      ).status,
    ).toBe(422);
    expect(
      (await here.ask("POST", "/api/account/password", { current: PASSWORD, password: "short" }))
        .status,
    ).toBe(422);
    expect(
      (
        await here.ask("POST", "/api/account/password", {
          current: PASSWORD,
          password: "four dry umbrellas",
        })
      ).status,
    ).toBe(200);
    expect((await there.ask("GET", "/api/me")).status).toBe(401);
    expect((await here.ask("GET", "/api/me")).status).toBe(200);
    await here.ask("POST", "/api/account/password", {
      current: "four dry umbrellas",
      password: PASSWORD,
    });
  });

  test("sessions are listed and ended one by one, and only one's own", async () => {
    const [here, there] = [await enter(), await enter()];
    const sessions = (await here.ask<SessionLine[]>("GET", "/api/account/sessions")).body;
    expect(sessions.filter(({ mine }) => mine)).toHaveLength(1);
    const other = sessions[sessions.length - 1];
    expect((await juno.ask("DELETE", `/api/account/sessions/${other?.id ?? ""}`)).status).toBe(404);
    expect((await here.ask("DELETE", `/api/account/sessions/${other?.id ?? ""}`)).status).toBe(200);
    expect((await there.ask("GET", "/api/me")).status).toBe(401);
    const again = await enter();
    expect(
      (await here.ask<{ ended: number }>("POST", "/api/account/sessions/end-others")).body.ended,
    ).toBeGreaterThan(0);
    expect((await again.ask("GET", "/api/me")).status).toBe(401);
    expect(JSON.stringify(sessions)).not.toContain(here.cookie.split("=")[1] ?? "-");
  });

  test("a sign-in link works once; a link for one thing is good for no other", async () => {
    house.sink.mails.length = 0;
    await house.client().ask("POST", "/api/sign-in/link", { email: NADIA, what: "sign-in" });
    const token = linkIn(await house.mailTo(NADIA, "Sign in to"), "enter");
    expect(
      (await house.client().ask("POST", "/api/sign-in/password", { token, password: PASSWORD }))
        .status,
    ).toBe(422);
    expect((await house.client().ask("POST", "/api/member/enter", { token })).status).toBe(422);
    const client = house.client();
    expect((await client.ask("POST", "/api/sign-in/by-link", { token })).status).toBe(200);
    expect((await client.ask("GET", "/api/me")).body).toMatchObject({ email: NADIA });
    expect((await house.client().ask("POST", "/api/sign-in/by-link", { token })).status).toBe(422);
    const dump = await house.amigo.context.connection.pool.query(
      "select token_hash from mailed_link",
    );
    expect(JSON.stringify(dump.rows)).not.toContain(token);
  });

  test("a forgotten password is chosen again by a link; one that has run out is not", async () => {
    house.sink.mails.length = 0;
    const there = await enter();
    await house.client().ask("POST", "/api/sign-in/link", { email: NADIA, what: "new password" });
    const token = linkIn(await house.mailTo(NADIA, "A new password"), "password");
    expect(
      (
        await house
          .client()
          .ask("POST", "/api/sign-in/password", { token, password: "six green umbrellas" })
      ).status,
    ).toBe(200);
    expect((await there.ask("GET", "/api/me")).status).toBe(401);
    house.sink.mails.length = 0;
    await house.client().ask("POST", "/api/sign-in/link", { email: NADIA, what: "new password" });
    const late = linkIn(await house.mailTo(NADIA, "A new password"), "password");
    await house.amigo.context.connection.pool.query(
      "update mailed_link set expires_at = now() - interval '1 second'",
    );
    expect(
      (
        await house
          .client()
          .ask("POST", "/api/sign-in/password", { token: late, password: PASSWORD })
      ).status,
    ).toBe(422);
  });

  test("nobody learns who has an account: known and unknown are answered alike, and nobody is flooded", async () => {
    house.sink.mails.length = 0;
    const ask = (email: string) =>
      house.client().ask("POST", "/api/sign-in/link", { email, what: "sign-in" });
    const [known, unknown] = [await ask(ODILE), await ask("nobody@copperwheel.example")];
    expect([unknown.status, unknown.body]).toEqual([known.status, known.body]);
    for (let turn = 0; turn < 8; turn++) await ask(ODILE);
    await until(
      "the links",
      () => house.sink.mails.filter(({ to }) => to === ODILE).length,
      (count) => count >= 4,
    );
    expect(house.sink.mails.filter(({ to }) => to === ODILE)).toHaveLength(4);
    expect(house.sink.mails.some(({ to }) => to === "nobody@copperwheel.example")).toBe(false);
  });
});

describe("a helper of single sheets", () => {
  test("adds rows to the sheets that were given to them, sees no others' rows, and a coordinator decides", async () => {
    const sheet = await house.readLines(
      juno,
      [
        "Student no.,Surname,First name,Class,Parent 1,Email 1",
        "CW-9001,Brandt,Ida,Wire Walk,Halim Brandt,hbrandt@oakmail.example",
      ],
      { name: "Late comers" },
    );
    await house.step(juno);
    const ilse = await house.signIn("ilse.tamm@copperwheel.example");
    expect((await ilse.ask("GET", "/api/helped")).body).toEqual([]);
    expect(
      (await ilse.ask("POST", `/api/sources/${sheet.source}/rows`, { rows: [["x"]] })).status,
    ).toBe(404);
    expect(
      (
        await juno.ask(
          "PUT",
          `/api/accounts/${(await account("ilse.tamm@copperwheel.example")).id}`,
          { role: "helper", sources: [sheet.source] },
        )
      ).status,
    ).toBe(200);
    const helped = (
      await ilse.ask<{ name: string; columns: { title: string }[] }[]>("GET", "/api/helped")
    ).body;
    expect(helped).toMatchObject([{ name: "Late comers", rows: 1, because: "" }]);
    expect(JSON.stringify(helped)).not.toContain("Brandt");
    expect(
      (await ilse.ask("POST", `/api/sources/${sheet.source}/rows`, { rows: [["", " "]] })).status,
    ).toBe(422);
    expect(
      (
        await ilse.ask("POST", `/api/sources/${sheet.source}/rows`, {
          rows: [
            ["CW-9002", "Eastlake", "Wren", "Wire Walk", "Tove Eastlake", "tove@lettr.example"],
          ],
        })
      ).body,
    ).toEqual({ added: 1 });
    const body = await roundOf(juno);
    expect(body.causes.map(({ kind, title }) => `${kind} ${title}`)).toContain(
      "joined Wren Eastlake",
    );
    for (const path of [
      "/api/board",
      "/api/lists?q=wire",
      "/api/sources",
      "/api/posts",
      "/api/people",
    ])
      expect((await ilse.ask("GET", path)).status, path).toBe(403);
  });
});
