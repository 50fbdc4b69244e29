import { randomBytes } from "node:crypto";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { MARK, startScanner, type ScannerStandIn } from "../testing/scannerStandIn";
import { startShelfHouse, type ShelfHouse } from "../testing/shelfHouse";

const MB = 1024 * 1024;
let house: ShelfHouse;
let scanner: ScannerStandIn;
beforeAll(async () => {
  scanner = await startScanner();
  house = await startShelfHouse({
    AMIGO_SHELF_FILE_MB: "4",
    AMIGO_SCANNER: `clamd://127.0.0.1:${scanner.port}`,
  });
});
afterAll(async () => {
  await house?.house.close();
  await scanner.close();
});

const titles = async (): Promise<string[]> => (await house.shelf()).map(({ title }) => title);

describe("a virus scanner", () => {
  test("looks at all of a file before it is on the shelf, once for the same octets", async () => {
    const bytes = randomBytes(2 * MB + 9);
    expect(await house.put("film.mp4", bytes)).toMatch(/-/);
    expect(scanner.sizes).toEqual([bytes.length]);
    expect(await house.put("again.mp4", bytes)).toMatch(/-/);
    expect(scanner.sizes).toHaveLength(1);
    expect(await house.put("empty.txt", "")).toMatch(/-/);
  });

  test("keeps a file out in which it finds something, as a new version, too, and says what", async () => {
    const path = `/api/lists/${house.trapeze}/shelf/files?name=plan.txt`;
    const response = await house.raw("POST", path, house.juno, `hello ${MARK}`);
    expect(response.status).toBe(422);
    expect(((await response.json()) as { detail: string }).detail).toContain("Copperwheel.Test");
    const id = await house.put("clean.txt");
    const version = `/api/shelf/${id}/versions?name=clean.txt&version=1`;
    expect((await house.raw("POST", version, house.juno, MARK)).status).toBe(422);
    expect((await house.thingOf(id))?.version).toBe(1);
    expect(await titles()).not.toContain("plan");
  });

  test("isn't asked of a file that is larger than the settings allow", async () => {
    const before = scanner.sizes.length;
    expect(await house.put("large.bin", new Uint8Array(4 * MB + 1))).toBe("413");
    const { status, body } = await house.juno.ask<{ detail: string }>("POST", "/api/uploads", {
      size: 4 * MB + 1,
    });
    expect([status, body.detail]).toEqual([413, expect.stringContaining("4 MB")]);
    expect(scanner.sizes).toHaveLength(before);
  });

  test("that takes no file so large, or is away, lets nothing through; what has come in pieces can be put there later", async () => {
    scanner.most = MB;
    expect(await house.put("large.bin", randomBytes(3 * MB))).toBe("503");
    const bytes = randomBytes(MB + 1);
    const { body } = await house.juno.ask<{ id: string }>("POST", "/api/uploads", {
      size: bytes.length,
    });
    await house.raw("PUT", `/api/uploads/${body.id}?at=0`, house.juno, bytes);
    const put = async (): Promise<number> => {
      const path = `/api/lists/${house.trapeze}/shelf/files?name=later.bin&upload=${body.id}`;
      return (await house.raw("POST", path, house.juno)).status;
    };
    expect(await put()).toBe(503);
    scanner.most = Infinity;
    expect(await put()).toBe(200);
    expect(await titles()).toContain("later");
    expect((await house.juno.ask("GET", "/api/health")).body).toMatchObject({ scanner: true });
    await scanner.close();
    expect(await house.put("away.txt")).toBe("503");
    expect((await house.juno.ask("GET", "/api/health")).body).toMatchObject({ scanner: false });
    expect(await titles()).not.toContain("away");
  });
});
