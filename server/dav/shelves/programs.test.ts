import { execFile } from "node:child_process";
import { createHash, randomBytes } from "node:crypto";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { promisify } from "node:util";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { DEMO_PASSWORD } from "@amigo/demo/copperwheel";
import { startShelfHouse, type ShelfHouse } from "../../testing/shelfHouse";
import { JUNO } from "../../testing/testHouse";

/* A WebDAV program that isn't ours, as somebody types into it. */
let house: ShelfHouse;
let folder = "";
beforeAll(async () => {
  house = await startShelfHouse();
  folder = mkdtempSync(join(tmpdir(), "amigo-shelves-"));
  const { body } = await house.juno.ask<{ password: string }>(
    "POST",
    "/api/account/mail-programs",
    { name: "Files", password: DEMO_PASSWORD, uses: ["shelves"] },
  );
  const { hostname } = new URL(house.house.url);
  writeFileSync(
    join(folder, ".netrc"),
    `machine ${hostname}\nlogin ${JUNO}\npassword ${body.password}\n`,
    { mode: 0o600 },
  );
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await house?.house.close();
});

/** Types lines into the program on a shelf, and returns what it says. */
async function type(...lines: string[]): Promise<string> {
  const running = promisify(execFile)(
    "cadaver",
    [`${house.house.url}/shelves/Trapeze%20Two,%20guardians/`],
    { timeout: 60_000, cwd: folder, env: { ...process.env, HOME: folder, LC_ALL: "C.UTF-8" } },
  );
  running.child.stdin?.end([...lines, "quit", ""].join("\n"));
  const { stdout, stderr } = await running;
  return stdout + stderr;
}
const file = (name: string): string => join(folder, name);
const hashOf = (bytes: Buffer): string => createHash("sha256").update(bytes).digest("hex");

describe("a WebDAV program", () => {
  test("puts a file of several megabytes, which comes back as it went", async () => {
    const bytes = randomBytes(6 * 1024 * 1024 + 11);
    writeFileSync(file("film.mp4"), bytes);
    const said = await type("put film.mp4", "ls", "get film.mp4 back.mp4");
    expect(said).toMatch(/Uploading film\.mp4[\s\S]*succeeded/);
    expect(said).toMatch(/film\.mp4\s+6291467/);
    expect(hashOf(readFileSync(file("back.mp4")))).toBe(hashOf(bytes));
    const thing = (await house.shelf()).find(({ title }) => title === "film");
    expect((await house.detailsOf(thing?.id ?? "")).versions[0]?.checksum).toBe(hashOf(bytes));
  });

  test("makes folders, moves, copies and removes", async () => {
    writeFileSync(file("kit.txt"), "shoes");
    const said = await type(
      "mkcol Papers",
      "put kit.txt Papers/kit.txt",
      "copy Papers/kit.txt list.txt",
      "move list.txt Papers/list.txt",
      "delete Papers/kit.txt",
      "ls Papers",
    );
    expect(said).not.toMatch(/failed/);
    expect(said).toMatch(/list\.txt\s+5/);
    expect((await house.shelf()).find(({ title }) => title === "list")).toMatchObject({
      folder: "Papers",
      name: "list.txt",
    });
  });

  test("locks a file, writes it while it has the lock, and lets it go", async () => {
    writeFileSync(file("kit.txt"), "shoes, belt");
    const said = await type(
      "lock Papers/list.txt",
      "put kit.txt Papers/list.txt",
      "discover Papers/list.txt",
      "unlock Papers/list.txt",
      "put kit.txt Papers/list.txt",
    );
    expect(said).not.toMatch(/failed/);
    expect(said).toMatch(/urn:uuid:/);
    const thing = (await house.shelf()).find(({ title }) => title === "list");
    expect(thing?.version).toBe(3);
  });
});
