import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { randomBytes } from "node:crypto";
import { execFileSync } from "node:child_process";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { startShelfHouse, type ShelfHouse } from "../testing/shelfHouse";
import { RAVI } from "../testing/testHouse";

let house: ShelfHouse;
const folder = mkdtempSync(join(tmpdir(), "amigo-zip-"));
beforeAll(async () => {
  house = await startShelfHouse();
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await house?.house.close();
});

/** What another program finds in an archive: the names with their contents, after it has checked them. */
async function unzipped(response: Response): Promise<Map<string, Buffer>> {
  const path = join(folder, "shelf.zip");
  writeFileSync(path, Buffer.from(await response.arrayBuffer()));
  const read = `
import base64, json, sys, zipfile
archive = zipfile.ZipFile(sys.argv[1])
assert archive.testzip() is None
print(json.dumps({name: base64.b64encode(archive.read(name)).decode() for name in archive.namelist()}))`;
  const said = execFileSync("python3", ["-c", read, path], { maxBuffer: 64 * 1024 * 1024 });
  const found = JSON.parse(said.toString()) as Record<string, string>;
  return new Map(
    Object.entries(found).map(([name, content]) => [name, Buffer.from(content, "base64")]),
  );
}

describe("a shelf as one archive", () => {
  test("has every file in its folder, as another program reads it", async () => {
    const film = new Uint8Array(randomBytes(5 * 1024 * 1024 + 3));
    const ids = [await house.put("film.mp4", film), await house.put("Où.txt", "là")];
    await house.put("Où.txt", "another of the same name");
    await house.put("empty.txt", "");
    await house.change(ids[0] ?? "", { folder: "Act 1" });
    await house.juno.ask("POST", `/api/lists/${house.trapeze}/shelf/links`, {
      title: "A link",
      link: "https://photos.brightpost.example/",
    });
    const path = `/api/lists/${house.trapeze}/shelf/files/zip`;
    const found = await unzipped(await house.raw("GET", path, house.juno));
    expect([...found.keys()].sort()).toEqual([
      "Act 1/film.mp4",
      "Où (2).txt",
      "Où.txt",
      "empty.txt",
    ]);
    expect(found.get("Act 1/film.mp4")?.equals(Buffer.from(film))).toBe(true);
    const one = await unzipped(await house.raw("GET", `${path}?folder=Act%201`, house.juno));
    expect([...one.keys()]).toEqual(["Act 1/film.mp4"]);
    expect((await house.raw("GET", `${path}?folder=None`, house.juno)).status).toBe(404);
  });

  test("has for members what they may open, which counts as opened, and nothing for others", async () => {
    const oak = await house.memberOf("oak@oakmail.example");
    const pine = await house.memberOf("pine@oakmail.example");
    const path = `/api/member/lists/${house.trapeze}/shelf/files/zip`;
    expect((await house.raw("GET", path, pine)).status).toBe(404);
    expect((await house.raw("GET", path, undefined)).status).toBe(404);
    const found = await unzipped(await house.raw("GET", path, oak));
    expect(found.size).toBe(4);
    const files = (await house.shelf()).filter(({ kind }) => kind === "file");
    expect(files.map(({ opened }) => opened)).toEqual(files.map(() => 1));
    const ravi = await house.house.signIn(RAVI);
    const theirs = `/api/lists/${house.trapeze}/shelf/files/zip`;
    expect((await house.raw("GET", theirs, ravi)).status).toBe(404);
  });
});

describe("the member page of an account's own address", () => {
  test("is opened from the account, for that address alone", async () => {
    const ravi = await house.house.signIn(RAVI);
    expect((await ravi.ask("GET", "/api/member/shelf")).status).toBe(401);
    expect((await ravi.ask("POST", "/api/account/member-page")).status).toBe(200);
    const { body } = await ravi.ask<{ address: string }>("GET", "/api/member");
    expect(body.address).toBe(RAVI);
    expect((await house.house.client().ask("POST", "/api/account/member-page")).status).toBe(401);
  });
});
