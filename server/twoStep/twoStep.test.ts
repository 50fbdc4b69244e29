import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { DEMO_PASSWORD } from "@amigo/demo/copperwheel";
import type { TwoStep } from "@amigo/contract/twoStep";
import { SoftPasskey } from "../testing/softPasskey";
import {
  JUNO,
  ODILE,
  RAVI,
  startTestHouse,
  type Answer,
  type Client,
  type TestHouse,
} from "../testing/testHouse";
import { resetTwoStep } from "../commands/account";
import { codeAt } from "./codes";

const PETRA = "petra.dunmore@copperwheel.example";
const TEO = "teo.bramwell@copperwheel.example";
const password = DEMO_PASSWORD;

let house: TestHouse;
beforeAll(async () => {
  house = await startTestHouse();
});
afterAll(() => house.close());

interface Fault {
  type: string;
  detail: string;
}
interface Codes {
  recoveryCodes: string[];
}
/** A step of 30 seconds later on, so that the same test can give a second code. */
const LATER = 30_000;

const firstStep = async (email: string): Promise<Client> => {
  const client = house.client();
  const { status, body } = await client.ask<{ done: boolean }>("POST", "/api/sign-in", {
    email,
    password,
  });
  expect([status, body.done]).toEqual([200, false]);
  return client;
};
const isIn = async (client: Client): Promise<boolean> =>
  (await client.ask("GET", "/api/me")).status === 200;
const waitingFor = async (client: Client): Promise<string[] | null> =>
  (await client.ask<{ secondStep: string[] | null }>("GET", "/api/start")).body.secondStep;
const state = async (client: Client): Promise<TwoStep> =>
  (await client.ask<TwoStep>("GET", "/api/account/two-step")).body;
const giveCode = (client: Client, code: string): Promise<Answer<Fault>> =>
  client.ask<Fault>("POST", "/api/sign-in/code", { code });

async function addApp(
  client: Client,
): Promise<{ secret: string; recoveryCodes: string[]; code: string }> {
  const path = "/api/account/two-step/authenticator";
  const { body } = await client.ask<{ secret: string; uri: string; picture: string }>(
    "POST",
    path,
    { password },
  );
  expect(body.uri).toContain("otpauth://totp/");
  expect(body.picture).toContain("<svg");
  const code = codeAt(body.secret, Date.now());
  const confirmed = await client.ask<Codes>("POST", `${path}/confirm`, { code });
  expect(confirmed.status).toBe(200);
  return { secret: body.secret, recoveryCodes: confirmed.body.recoveryCodes, code };
}

async function addPasskey(client: Client, name: string): Promise<SoftPasskey> {
  const passkey = new SoftPasskey();
  const path = "/api/account/two-step/passkeys";
  const { body } = await client.ask<{ options: { challenge: string; rp: { id: string } } }>(
    "POST",
    `${path}/options`,
    { password },
  );
  expect(body.options.rp.id).toBe("localhost");
  const { status } = await client.ask("POST", path, {
    name,
    answer: passkey.make({
      challenge: body.options.challenge,
      origin: house.url,
      rpId: "localhost",
    }),
  });
  expect(status).toBe(200);
  return passkey;
}

/** Asks for a challenge and answers it by a passkey, as the page does. */
async function usePasskey(
  client: Client,
  passkey: SoftPasskey,
  changed: Partial<Parameters<SoftPasskey["use"]>[0]> = {},
): Promise<number> {
  const { body } = await client.ask<{ options: { challenge: string } }>(
    "POST",
    "/api/sign-in/passkey/options",
  );
  const answer = passkey.use({
    challenge: body.options.challenge,
    origin: house.url,
    rpId: "localhost",
    ...changed,
  });
  return (await client.ask("POST", "/api/sign-in/passkey", { answer })).status;
}

describe("an authenticator app", () => {
  let secret = "";
  let usedCode = "";
  let recoveryCodes: string[] = [];
  let ravi: Client;

  test("is asked for once a first code was given, and ends the sessions elsewhere", async () => {
    ravi = await house.signIn(RAVI);
    const elsewhere = await house.signIn(RAVI);
    const path = "/api/account/two-step/authenticator";
    expect((await ravi.ask("POST", path, { password: "another" })).status).toBe(422);
    expect((await ravi.ask("POST", `${path}/confirm`, { code: "123456" })).status).toBe(409);
    await ravi.ask("POST", path, { password });
    expect((await ravi.ask<Fault>("POST", `${path}/confirm`, { code: "12345a" })).status).toBe(422);
    // Until then signing in stays as it was.
    expect(await isIn(await house.signIn(RAVI))).toBe(true);
    ({ secret, recoveryCodes, code: usedCode } = await addApp(ravi));
    expect(recoveryCodes).toHaveLength(10);
    expect(new Set(recoveryCodes).size).toBe(10);
    expect([await isIn(ravi), await isIn(elsewhere)]).toEqual([true, false]);
    expect((await state(ravi)).authenticator).not.toBeNull();
    await house.mailTo(RAVI, "An authenticator app was added to your account");
  });

  test("its secret isn't readable in the database, neither are recovery codes", async () => {
    const { rows } = await house.amigo.context.connection.pool.query(
      "select (select jsonb_agg(authenticator) from authenticator) as apps, (select jsonb_agg(recovery_code) from recovery_code) as codes",
    );
    const dump = JSON.stringify(rows);
    expect(dump).not.toContain(secret);
    for (const code of recoveryCodes) expect(dump).not.toContain(code.replace(/-/g, ""));
  });

  test("the password alone signs nobody in; a code of the app does, once", async () => {
    const client = await firstStep(RAVI);
    expect(await isIn(client)).toBe(false);
    expect(await waitingFor(client)).toEqual(["code", "recovery code"]);
    expect((await giveCode(client, usedCode)).status).toBe(401);
    const next = codeAt(secret, Date.now() + LATER);
    expect((await giveCode(client, `${next.slice(0, 3)} ${next.slice(3)}`)).status).toBe(200);
    expect(await isIn(client)).toBe(true);
    const again = await firstStep(RAVI);
    expect((await giveCode(again, next)).status).toBe(401);
    expect((await giveCode(again, codeAt(secret, Date.now() - 10 * LATER))).status).toBe(401);
    expect(await isIn(again)).toBe(false);
  });

  test("neither does a mailed link, nor choosing a new password by one, which ends what others began", async () => {
    const begunBefore = await firstStep(RAVI);
    for (const [what, path, given] of [
      ["sign-in", "/api/sign-in/by-link", {}],
      ["new password", "/api/sign-in/password", { password: "seven quiet walnut ladders" }],
    ] as const) {
      const client = house.client();
      await client.ask("POST", "/api/sign-in/link", { email: RAVI, what });
      const mail = await house.mailTo(
        RAVI,
        what === "sign-in" ? "Sign in to Amigo here" : "Choose a new password here",
      );
      const token = /\/(?:enter|password)\/([\w-]{20,})/.exec(mail)?.[1] ?? "";
      const answer = await client.ask<{ done: boolean }>("POST", path, { token, ...given });
      expect([what, answer.status, answer.body.done]).toEqual([what, 200, false]);
      expect(await isIn(client)).toBe(false);
      expect(await waitingFor(client)).toContain("code");
    }
    expect((await giveCode(begunBefore, recoveryCodes[9] ?? "")).body.type).toBe(
      "urn:amigo:fault:sign-in/ran-out",
    );
    await house.amigo.context.connection.pool.query(
      "update account set password_hash = (select password_hash from account where email = $1) where email = $2",
      [TEO, RAVI],
    );
  });

  test("a recovery code serves once, however it is typed, and its owner is told", async () => {
    const [code = ""] = recoveryCodes;
    const client = await firstStep(RAVI);
    expect((await giveCode(client, ` ${code.toUpperCase().replace(/-/g, " ")} `)).status).toBe(200);
    await house.mailTo(RAVI, "A recovery code was used to sign in to your account. 9 are left.");
    const again = await firstStep(RAVI);
    expect((await giveCode(again, code)).status).toBe(401);
    ravi = client;
  });

  test("of two who give the same recovery code at once, one gets in", async () => {
    const code = recoveryCodes[1] ?? "";
    const clients = [await firstStep(RAVI), await firstStep(RAVI)];
    const answers = await Promise.all(clients.map((client) => giveCode(client, code)));
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 401]);
  });

  test("two codes given at once for one sign-in use up one", async () => {
    const left = async (): Promise<number> => (await state(ravi)).recoveryCodes;
    const [client, before] = [await firstStep(RAVI), await left()];
    const twin = house.client(client.cookie);
    const answers = await Promise.all([
      giveCode(client, recoveryCodes[6] ?? ""),
      giveCode(twin, recoveryCodes[7] ?? ""),
    ]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 401]);
    expect(await left()).toBe(before - 1);
  });

  test("of many guesses at once eight are judged, and a right code after them is not", async () => {
    const client = await firstStep(RAVI);
    await house.amigo.context.connection.pool.query("delete from sign_in_attempt");
    const answers = await Promise.all(
      Array.from({ length: 30 }, (_, at) => giveCode(client, String(at).padStart(6, "0"))),
    );
    const statuses = answers.map(({ status }) => status);
    expect(statuses.filter((status) => status === 401)).toHaveLength(8);
    expect(statuses.filter((status) => status === 429)).toHaveLength(22);
    expect((await giveCode(client, recoveryCodes[2] ?? "")).status).toBe(429);
    await house.amigo.context.connection.pool.query("delete from sign_in_attempt");
  });

  test("a sign-in that was given up or took too long has to begin again", async () => {
    const client = await firstStep(RAVI);
    const kept = client.cookie;
    await client.ask("POST", "/api/sign-in/cancel");
    expect(await waitingFor(client)).toBeNull();
    expect((await giveCode(house.client(kept), recoveryCodes[3] ?? "")).status).toBe(401);
    const late = await firstStep(RAVI);
    await house.amigo.context.connection.pool.query(
      "update sign_in_step set expires_at = now() - interval '1 second'",
    );
    expect((await giveCode(late, recoveryCodes[3] ?? "")).body.type).toBe(
      "urn:amigo:fault:sign-in/ran-out",
    );
    expect((await giveCode(house.client(), recoveryCodes[3] ?? "")).status).toBe(401);
  });

  test("a mail program needs a password of its own, which is no API token and ends", async () => {
    const send = (as: string, pass: string): Promise<void> =>
      house.mail({ from: RAVI, to: "nobody-knows@lists.copperwheel.example", as, pass });
    await expect(send(RAVI, password)).rejects.toThrow(/two steps/);
    const { body } = await ravi.ask<{ password: string }>("POST", "/api/account/mail-programs", {
      name: "Laptop",
      password,
    });
    // It gets past the password; only then the list is looked for.
    await expect(send(RAVI, body.password)).rejects.toThrow(/550/);
    await expect(send(JUNO, body.password)).rejects.toThrow(/535/);
    const { rows } = await house.amigo.context.connection.pool.query<{ actor: string }>(
      "select actor from journal where action = 'failed sign-in' order by id desc limit 1",
    );
    expect(rows).toEqual([{ actor: "Juno Abara" }]);
    for (const name of ["Two\nlines", " ", "x".repeat(81)])
      expect(
        (await ravi.ask("POST", "/api/account/mail-programs", { name, password })).status,
      ).toBe(400);
    const bearer = { Authorization: `Bearer ${body.password}` };
    expect((await house.client().ask("GET", "/api/lists", undefined, bearer)).status).toBe(401);
    const [mailProgram] = (await state(ravi)).mailPrograms;
    expect(mailProgram?.name).toBe("Laptop");
    expect(mailProgram?.lastUsed).not.toBeNull();
    const juno = await house.signIn(JUNO);
    expect((await juno.ask("DELETE", `/api/account/mail-programs/${mailProgram?.id}`)).status).toBe(
      404,
    );
    expect((await ravi.ask("DELETE", `/api/account/mail-programs/${mailProgram?.id}`)).status).toBe(
      200,
    );
    await expect(send(RAVI, body.password)).rejects.toThrow(/535/);
  });

  test("new recovery codes end the old ones; without an app there are none", async () => {
    const { body } = await ravi.ask<Codes>("POST", "/api/account/two-step/recovery-codes", {
      password,
    });
    expect((await giveCode(await firstStep(RAVI), recoveryCodes[4] ?? "")).status).toBe(401);
    expect((await giveCode(await firstStep(RAVI), body.recoveryCodes[0] ?? "")).status).toBe(200);
    const path = "/api/account/two-step/authenticator/remove";
    expect((await ravi.ask("POST", path, { password: "x" })).status).toBe(422);
    expect((await ravi.ask("POST", path, { password })).status).toBe(200);
    expect((await state(ravi)).recoveryCodes).toBe(0);
    expect(await isIn(await house.signIn(RAVI))).toBe(true);
  });
});

describe("a passkey", () => {
  let passkey: SoftPasskey;
  let petra: Client;

  test("is the second step of a sign-in, or a sign-in of its own", async () => {
    petra = await house.signIn(PETRA);
    passkey = await addPasskey(petra, "Phone");
    expect((await state(petra)).passkeys.map(({ name }) => name)).toEqual(["Phone"]);
    const second = await firstStep(PETRA);
    expect(await waitingFor(second)).toEqual(["passkey", "recovery code"]);
    // As a second step it need not make sure again who holds it.
    expect(await usePasskey(second, passkey, { verified: false })).toBe(200);
    expect(await isIn(second)).toBe(true);
    const alone = house.client();
    expect(await usePasskey(alone, passkey)).toBe(200);
    expect((await alone.ask<{ email: string }>("GET", "/api/me")).body.email).toBe(PETRA);
  });

  test.each([
    ["made for a page elsewhere", { origin: "https://copperwheel.lettr.example" }],
    ["made for another name", { rpId: "lettr.example" }],
    ["over another challenge", { challenge: "AAAA" }],
    ["that alone did not ask for finger, face or PIN", { verified: false }],
  ])("an answer %s signs nobody in", async (_, changed) => {
    const client = house.client();
    expect(await usePasskey(client, passkey, changed)).toBe(401);
    expect(await isIn(client)).toBe(false);
  });

  test("an answer counts once, and an older counter not at all", async () => {
    const client = house.client();
    const { body } = await client.ask<{ options: { challenge: string } }>(
      "POST",
      "/api/sign-in/passkey/options",
    );
    const asked = { challenge: body.options.challenge, origin: house.url, rpId: "localhost" };
    const answer = passkey.use(asked);
    expect((await client.ask("POST", "/api/sign-in/passkey", { answer })).status).toBe(200);
    expect((await client.ask("POST", "/api/sign-in/passkey", { answer })).status).toBe(401);
    await house.amigo.context.connection.pool.query("update passkey set counter = 1000");
    expect(await usePasskey(house.client(), passkey)).toBe(401);
    await house.amigo.context.connection.pool.query("update passkey set counter = 0");
  });

  test("that of one account finishes no sign-in of another, and an unknown one none", async () => {
    const odile = await house.signIn(ODILE);
    const hers = await addPasskey(odile, "Key");
    const client = await firstStep(PETRA);
    expect(await usePasskey(client, hers)).toBe(401);
    expect(await usePasskey(client, new SoftPasskey())).toBe(401);
    expect(await isIn(client)).toBe(false);
    const [eachPasskey] = (await state(odile)).passkeys;
    const path = `/api/account/two-step/passkeys/${eachPasskey?.id}/remove`;
    expect((await petra.ask("POST", path, { password })).status).toBe(404);
    expect((await odile.ask("POST", path, { password })).status).toBe(200);
  });

  test("can't be added by the answer to somebody else's challenge, or twice", async () => {
    const path = "/api/account/two-step/passkeys";
    const teo = await house.signIn(TEO);
    const { body } = await teo.ask<{ options: { challenge: string } }>("POST", `${path}/options`, {
      password,
    });
    const asked = { challenge: body.options.challenge, origin: house.url, rpId: "localhost" };
    const answer = passkey.make(asked);
    expect((await petra.ask("POST", path, { name: "Stolen", answer })).status).toBe(409);
    expect((await teo.ask("POST", path, { name: "Twice", answer })).status).toBe(409);
    expect((await state(teo)).passkeys).toEqual([]);
  });
});

describe("the school's setting", () => {
  test("asks coordinators for a second step, and lets them do nothing before", async () => {
    const juno = await house.signIn(JUNO);
    const path = "/api/house/two-step";
    expect((await juno.ask<Fault>("PUT", path, { twoStep: "coordinators" })).body.type).toBe(
      "urn:amigo:fault:two-step/yourself-first",
    );
    const { recoveryCodes } = await addApp(juno);
    expect((await juno.ask("PUT", path, { twoStep: "coordinators" })).status).toBe(200);
    const odile = await house.signIn(ODILE);
    expect(
      (await odile.ask<{ mustSetUpTwoStep: boolean }>("GET", "/api/me")).body.mustSetUpTwoStep,
    ).toBe(true);
    for (const asked of ["/api/board", "/api/people", "/api/lists/export", "/api/journal/export"])
      expect([asked, (await odile.ask("GET", asked)).status]).toEqual([asked, 403]);
    await expect(
      house.mail({ from: ODILE, to: "x@lists.copperwheel.example", as: ODILE }),
    ).rejects.toThrow(/two steps/);
    // Staff are not asked for it.
    expect((await (await house.signIn(TEO)).ask("GET", "/api/board")).status).toBe(200);
    await addApp(odile);
    expect((await odile.ask("GET", "/api/board")).status).toBe(200);
    const gone = await odile.ask<Fault>("POST", "/api/account/two-step/authenticator/remove", {
      password,
    });
    expect(gone.body.type).toBe("urn:amigo:fault:two-step/required");
    expect((await state(odile)).authenticator).not.toBeNull();
    expect(await isIn(juno)).toBe(true);
    expect((await giveCode(await firstStep(JUNO), recoveryCodes[0] ?? "")).status).toBe(200);
  });

  test("whoever lost everything is let in again by a coordinator, not by a colleague", async () => {
    const juno = await firstStep(JUNO);
    const { rows } = await house.amigo.context.connection.pool.query<{ id: string; email: string }>(
      "select id, email from account",
    );
    const idOf = (email: string): string => rows.find((row) => row.email === email)?.id ?? "";
    const reset = (client: Client, email: string): Promise<Answer<Fault>> =>
      client.ask<Fault>("POST", `/api/accounts/${idOf(email)}/two-step/reset`);
    expect((await reset(juno, ODILE)).status).toBe(401);
    expect((await reset(await house.signIn(TEO), ODILE)).status).toBe(403);
    const { rows: held } = await house.amigo.context.connection.pool.query<{ id: string }>(
      "select account_id as id from authenticator where account_id = $1",
      [idOf(ODILE)],
    );
    expect(held).toHaveLength(1);
    await house.amigo.context.connection.pool.query(
      "update house set two_step = 'nobody'; delete from authenticator where account_id = (select id from account where email = 'juno.abara@copperwheel.example')",
    );
    const coordinator = await house.signIn(JUNO);
    expect((await reset(coordinator, ODILE)).status).toBe(200);
    await house.mailTo(ODILE, "reset the two-step sign-in of your account");
    expect(await isIn(await house.signIn(ODILE))).toBe(true);
  });

  test("the only coordinator is let in again by whoever has the database", async () => {
    const juno = await house.signIn(JUNO);
    await addApp(juno);
    await firstStep(JUNO);
    const { databaseUrl } = house.amigo.context.settings;
    await expect(resetTwoStep(databaseUrl, "nobody@copperwheel.example")).rejects.toThrow(
      "There is no account",
    );
    await expect(resetTwoStep(undefined, JUNO)).rejects.toThrow("AMIGO_DATABASE_URL");
    expect(await resetTwoStep(databaseUrl, JUNO.toUpperCase())).toContain("Juno Abara");
    expect(await isIn(juno)).toBe(false);
    expect(await isIn(await house.signIn(JUNO))).toBe(true);
  });
});
