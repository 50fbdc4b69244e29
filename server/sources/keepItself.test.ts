import { mkdtempSync, rmSync, symlinkSync, utimesSync, writeFileSync } from "node:fs";
import { createServer, type IncomingMessage, type Server, type ServerResponse } from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, beforeEach, describe, expect, test, vi } from "vitest";
import type { Pulse } from "@amigo/contract/house";
import type { SourceLine, SourceSettings } from "@amigo/contract/sources";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";
import { refused } from "../refused";
import { claimDue } from "./keepItself";
import { ENDED_READER } from "../sandbox/openBook";
import { fetchWeb } from "../sandbox/fetchWeb";
import { openRoundOf } from "../testing/roundOf";

const HEAD = "Student no.,Surname,First name,Site,Class,Parent 1,Email 1";
const rows = (count: number, from = 1): string[] =>
  Array.from(
    { length: count },
    (_, at) =>
      `CW-${from + at},Holm,Child${from + at},Mill Loft,Wire Walk,Otto Holm${from + at},otto${from + at}@lettr.example`,
  );

let house: TestHouse;
let juno: Client;
let folder = "";
let server: Server;
let answer: (request: IncomingMessage, response: ServerResponse) => void = () => undefined;
let origin = "";
let written = Date.parse("2026-11-01T07:00:00Z");

function put(name: string, lines: readonly string[]): void {
  writeFileSync(join(folder, name), lines.join("\n"));
  written += 60_000;
  utimesSync(join(folder, name), written / 1000, written / 1000);
}

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), "amigo-watched-"));
  server = createServer((request, response) => answer(request, response));
  await new Promise<void>((resolve) => {
    server.listen(0, "127.0.0.1", resolve);
  });
  const { port } = server.address() as AddressInfo;
  origin = `http://127.0.0.1:${port}`;
  house = await startTestHouse({
    roles: "web,worker",
    settings: { AMIGO_WATCHED: folder, AMIGO_ALLOWED_HOSTS: `127.0.0.1:${port}` },
  });
  juno = await house.signIn(JUNO);
});
afterAll(async () => {
  await house.close();
  await new Promise((resolve) => {
    server.close(resolve);
    server.closeAllConnections();
  });
  rmSync(folder, { recursive: true, force: true });
});

const sources = async () => (await juno.ask<SourceLine[]>("GET", "/api/sources")).body;
const sourceOf = async (id: string) => (await sources()).find((source) => source.id === id);
const readNow = async (id: string) =>
  (await juno.ask<{ ok: boolean; outcome: string }>("POST", `/api/sources/${id}/read`)).body;
const openRound = () => openRoundOf(juno);
const keepSo = async (id: string, overrides: Partial<SourceSettings>) => {
  const { name, kind, location, schedule, mode, limits, version } = (await sourceOf(id)) ?? {
    version: "",
    name: "",
    kind: "upload",
    location: "",
    schedule: null,
    mode: "ask",
    limits: {},
  };
  return juno.ask<SourceLine & { detail?: string }>("PUT", `/api/sources/${id}`, {
    name,
    kind,
    location,
    schedule,
    mode,
    limits,
    version,
    ...overrides,
  });
};

describe("a watched file", () => {
  let id = "";
  test("is looked at first, then kept as a source that is read when it changes", async () => {
    put("office.csv", [HEAD, ...rows(10)]);
    const { body: watched } = await juno.ask<{ files: { name: string }[] }>("GET", "/api/watched");
    expect(watched.files.map(({ name }) => name)).toEqual(["office.csv"]);
    const { body: looked } = await juno.ask<{ file: string; base64: string }>(
      "POST",
      "/api/sources/look",
      { kind: "watched", location: "office.csv" },
    );
    expect(Buffer.from(looked.base64, "base64").toString()).toContain("otto10@lettr.example");
    ({ source: id } = await house.readLines(juno, [HEAD, ...rows(10)], { name: "Office" }));
    await house.step(juno);
    expect(
      (await keepSo(id, { kind: "watched", location: "office.csv", schedule: { when: "changed" } }))
        .body,
    ).toMatchObject({ kind: "watched", location: "office.csv" });
    expect((await sourceOf(id))?.nextAt).not.toBeNull();
  });

  test("that is a link out of the folder is not followed", async () => {
    const secret = mkdtempSync(join(tmpdir(), "amigo-elsewhere-"));
    writeFileSync(join(secret, "secret.csv"), "Name,Class\nIda Secret,One\n");
    symlinkSync(join(secret, "secret.csv"), join(folder, "linked.csv"));
    const { status, body } = await juno.ask<{ detail: string }>("POST", "/api/sources/look", {
      kind: "watched",
      location: "linked.csv",
    });
    expect(status).toBe(422);
    expect(body.detail).toContain("links are not followed");
    rmSync(join(folder, "linked.csv"));
    rmSync(secret, { recursive: true });
  });

  test("that has ended its reader once is not read again by itself until it is another file", async () => {
    put("office.csv", [HEAD, ...rows(10), "CW-99,Bomb,Ida,Mill Loft,Wire Walk,,"]);
    const { desk } = house.amigo.context;
    const run = vi
      .spyOn(desk, "run")
      .mockResolvedValueOnce(refused(422, ENDED_READER, "This file can't be opened safely."));
    expect(await readNow(id)).toEqual({ ok: false, outcome: "This file can't be opened safely." });
    written += 60_000;
    utimesSync(join(folder, "office.csv"), written / 1000, written / 1000);
    expect(await readNow(id)).toEqual({ ok: false, outcome: "This file can't be opened safely." });
    expect(run).toHaveBeenCalledTimes(1);
    run.mockRestore();
    put("office.csv", [HEAD, ...rows(10)]);
    expect((await readNow(id)).ok).toBe(true);
    put("office.csv", [HEAD, ...rows(10)]);
  });

  test("that was only saved again changes nothing, one that has not changed is not read at all", async () => {
    expect(await readNow(id)).toEqual({
      ok: true,
      outcome: "The file was saved again, but its rows are the same; nothing changes.",
    });
    expect(await readNow(id)).toEqual({ ok: true, outcome: "It has not changed." });
    expect(
      (await juno.ask<{ readings: unknown[] }>("GET", `/api/sources/${id}`)).body.readings,
    ).toHaveLength(1);
  });

  test("that is due is read by a worker, by itself", async () => {
    put("office.csv", [HEAD, ...rows(11)]);
    await house.amigo.context.connection.pool.query(
      "update source set next_at = now() - interval '1 minute' where id = $1",
      [id],
    );
    await house.amigo.context.desk.run("reopenRound", undefined);
    expect(
      (
        await Promise.all([
          claimDue(house.amigo.context, new Date()),
          claimDue(house.amigo.context, new Date()),
        ])
      ).flat(),
    ).toEqual([id]);
    await readNow(id);
    expect((await openRound())?.causes.map(({ title }) => title)).toEqual(["Child11 Holm"]);
    expect((await sourceOf(id))?.outcome).toMatch(
      /^11 students imported; 1 change in round \d+ to decide\.$/,
    );
  });

  test("in the mode by itself brings lists in step where no guard stands, and leaves the rest to a person", async () => {
    await keepSo(id, { mode: "itself" });
    put("office.csv", [HEAD, ...rows(12)]);
    expect((await readNow(id)).outcome).toMatch(
      /^12 students imported; round \d+ brought 2 lists in step automatically: 4 joined, 0 left\.$/,
    );
    expect(await openRound()).toBeNull();
    put("office.csv", [HEAD, ...rows(6)]);
    expect((await readNow(id)).outcome).toMatch(
      /a safety check stops round \d+: Office has 6 rows/,
    );
    expect((await openRound())?.causes).toHaveLength(6);
    put("office.csv", [HEAD, ...rows(12)]);
    await readNow(id);
    expect(await openRound()).toBeNull();
  });

  test("by itself does nothing for causes of another source, or held ones", async () => {
    await house.readLines(juno, [HEAD, ...rows(2, 50)], { name: "Second office" });
    put("office.csv", [HEAD, ...rows(13)]);
    expect((await readNow(id)).outcome).toMatch(
      /brought 2 lists in step automatically: 2 joined, 0 left/,
    );
    expect((await openRound())?.causes.map(({ title, decision }) => [title, decision])).toEqual([
      ["Child50 Holm", "accepted"],
      ["Child51 Holm", "accepted"],
    ]);
    await house.step(juno);
  });

  test("whose columns are another sheet's is not read, and nothing is lost", async () => {
    put("office.csv", ["Item,Price,Shelf", "Rope,12,3", "Chalk,4,1"]);
    const { ok, outcome } = await readNow(id);
    expect(ok).toBe(false);
    expect(outcome).toMatch(/are not those of/);
    expect(await openRound()).toBeNull();
  });

  test("that is missing three times in a row stands in the pulse line, until it is there again", async () => {
    rmSync(join(folder, "office.csv"));
    await readNow(id);
    expect((await juno.ask<Pulse>("GET", "/api/pulse")).body.failing).toEqual([]);
    expect(await readNow(id)).toEqual({
      ok: false,
      outcome:
        'The file "office.csv" is not in the watched folder. Was it renamed, or not saved yet?',
    });
    expect((await juno.ask<Pulse>("GET", "/api/pulse")).body.failing).toMatchObject([
      { id, name: "Office" },
    ]);
    put("office.csv", [HEAD, ...rows(13)]);
    await readNow(id);
    expect((await juno.ask<Pulse>("GET", "/api/pulse")).body.failing).toEqual([]);
  });

  test.each(["../office.csv", "/etc/passwd", "", ".hidden.csv", "sub/office.csv"])(
    "outside the folder, %j, is none",
    async (location) => {
      expect([400, 422]).toContain(
        (await juno.ask("POST", "/api/sources/look", { kind: "watched", location })).status,
      );
    },
  );
});

describe("a web address", () => {
  const asked: IncomingMessage[] = [];
  let sheet: string[] = [];
  beforeEach(() => {
    asked.length = 0;
    answer = (request, response) => {
      asked.push(request);
      const tag = `"${sheet.length}"`;
      if (request.url === "/moved") {
        response.writeHead(302, { location: "/sheet.csv" }).end();
        return;
      }
      if (request.url === "/round") {
        response.writeHead(302, { location: "/round" }).end();
        return;
      }
      if (request.url === "/inside") {
        response.writeHead(302, { location: "http://127.0.0.1:1/secret" }).end();
        return;
      }
      if (request.url === "/gone") {
        response.writeHead(404).end();
        return;
      }
      if (request.url === "/endless") {
        response.writeHead(200);
        const chunk = Buffer.alloc(1 << 20, "a");
        const pump = (): void => {
          while (!response.destroyed && response.write(chunk));
          if (!response.destroyed) response.once("drain", pump);
        };
        pump();
        return;
      }
      if (request.headers["if-none-match"] === tag) {
        response.writeHead(304).end();
        return;
      }
      response
        .writeHead(200, {
          "content-type": "text/csv",
          etag: tag,
          "last-modified": "Mon, 23 Nov 2026 07:00:00 GMT",
        })
        .end([HEAD, ...sheet].join("\n"));
    };
  });

  test("is asked only for what has changed, over a place that points further", async () => {
    sheet = rows(3, 80);
    const { source } = await house.readLines(juno, [HEAD, ...sheet], { name: "Club" });
    await house.step(juno);
    await keepSo(source, {
      kind: "web",
      location: `${origin}/moved`,
      schedule: { when: "times", days: [1, 2, 3, 4, 5, 6, 7], times: ["07:30"] },
    });
    expect((await readNow(source)).outcome).toBe(
      "The file was saved again, but its rows are the same; nothing changes.",
    );
    expect(await readNow(source)).toEqual({ ok: true, outcome: "It has not changed." });
    expect(asked.map(({ url, headers }) => [url, headers["if-none-match"]])).toEqual([
      ["/moved", undefined],
      ["/sheet.csv", undefined],
      ["/moved", '"3"'],
      ["/sheet.csv", '"3"'],
    ]);
    sheet = rows(4, 80);
    expect((await readNow(source)).outcome).toMatch(/^4 students imported; 1 change in round/);
  });

  test.each<[string, () => string, RegExp]>([
    [
      "that is not there any more",
      () => `${origin}/gone`,
      /There is nothing at this address of .+ any more \(404\)/,
    ],
    ["that points round and round", () => `${origin}/round`, /redirects more than 3 times/],
    ["that never ends", () => `${origin}/endless`, /has more than 25 MB/],
    [
      "that points inside the own network",
      () => `${origin}/inside`,
      /127\.0\.0\.1:1 is inside Amigo's own network/,
    ],
    ["in the own network", () => "http://10.0.0.1/sheet.csv", /own network/],
    ["in the own network, written otherwise", () => "http://2130706433:1/", /own network/],
    ["of this machine, by version 6", () => "http://[::1]:1/", /own network/],
    ["of this machine, by version 4 in 6", () => "http://[::ffff:127.0.0.1]:1/", /own network/],
    ["of this machine, by name", () => "http://localhost:1/", /own network/],
    ["of the cloud's own data", () => "http://169.254.169.254/latest", /own network/],
    ["of another kind", () => "file:///etc/passwd", /only http:\/\/ and https:\/\//],
    ["with a password in it", () => "https://a:b@sheets.example/x", /name and password/],
    ["that is none", () => "sheets.example/x", /is not a web address/],
    ["that does not answer", () => "https://sheets.invalid/x", /could not be reached/],
  ])("%s is told in a sentence", async (_what, location, sentence) => {
    const { status, body } = await juno.ask<{ detail: string }>("POST", "/api/sources/look", {
      kind: "web",
      location: location(),
    });
    expect(status).toBe(422);
    expect(body.detail).toMatch(sentence);
  });

  test("of the own network is read where the settings allow its host", async () => {
    expect(await fetchWeb(`${origin}/sheet.csv`, new Set())).toMatchObject({
      type: "source/web-private",
    });
    expect(await fetchWeb(`${origin}/sheet.csv`, new Set([new URL(origin).host]))).toHaveProperty(
      "changed",
      true,
    );
  });
});

describe("settings of a source", () => {
  test.each<[Partial<SourceSettings>, number]>([
    [{ kind: "web", location: "" }, 422],
    [{ schedule: { when: "times", days: [], times: ["07:30"] } }, 400],
    [{ schedule: { when: "times", days: [1], times: ["25:00"] } }, 400],
    [{ name: "" }, 400],
    [{ limits: { sourceShare: 2 } }, 400],
  ])("%j: %i", async (given, status) => {
    const [first] = await sources();
    expect((await keepSo(first?.id ?? "", given)).status).toBe(status);
  });

  test("a source that somebody reads has no schedule, and can't be read by itself", async () => {
    const { source } = await house.readLines(juno, [HEAD, ...rows(2, 90)], { name: "By hand" });
    const { body } = await keepSo(source, {
      kind: "upload",
      schedule: { when: "changed" },
      mode: "itself",
    });
    expect(body).toMatchObject({ schedule: null, mode: "ask", nextAt: null });
    expect((await juno.ask("POST", `/api/sources/${source}/read`)).status).toBe(422);
  });

  test("its own limit lets it lose more rows than the house allows", async () => {
    const { source } = await house.readLines(juno, [HEAD, ...rows(20, 200)], { name: "Loose" });
    await house.step(juno);
    await keepSo(source, { limits: { sourceShare: 0.5 } });
    await house.readLines(juno, [HEAD, ...rows(15, 200)], { id: source });
    expect((await openRound())?.guards.filter(({ about }) => about === "Loose")).toEqual([]);
    await keepSo(source, { limits: {} });
    await house.readLines(juno, [HEAD, ...rows(12, 200)], { id: source });
    expect((await openRound())?.guards.map(({ about }) => about)).toContain("Loose");
    await keepSo(source, { limits: { sourceShare: 0.9 } });
    expect((await openRound())?.guards.map(({ about }) => about)).not.toContain("Loose");
  });
});
