import { mkdtempSync, readFileSync, renameSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "vitest";
import { makeLog, Often } from "./log";
import { until } from "./testing/testHouse";

test("a fault that comes again and again is written three times a second, with how many were left out", () => {
  let now = 0;
  const often = new Often(() => now);
  const said = (count: number) => Array.from({ length: count }, () => often.leftOut("a fault"));
  expect(said(6)).toEqual([0, 0, 0, undefined, undefined, undefined]);
  expect(often.leftOut("another")).toBe(0);
  now = 1000;
  expect(said(2)).toEqual([3, 0]);
  now = 5000;
  expect(said(1)).toEqual([0]);
});

test("a log in a file goes on in a new one after it was rotated", async () => {
  const folder = mkdtempSync(join(tmpdir(), "amigo-log-"));
  const file = join(folder, "deep/amigo.log");
  const before = process.listeners("SIGHUP");
  const log = makeLog({ logLevel: "info", logFile: file });
  const read = (name: string): string => {
    try {
      return readFileSync(name, "utf8");
    } catch {
      return "";
    }
  };
  log.info({ port: 25 }, "first");
  await until(
    "the line",
    () => read(file),
    (text) => text.includes("first"),
  );
  renameSync(file, `${file}.1`);
  const [reopen] = process.listeners("SIGHUP").filter((one) => !before.includes(one));
  reopen?.("SIGHUP");
  await until(
    "the line in the new file",
    () => {
      log.info("second");
      return read(file);
    },
    (text) => text.includes("second"),
  );
  expect(JSON.parse(read(`${file}.1`).split("\n")[0] ?? "")).toMatchObject({
    msg: "first",
    port: 25,
  });
  if (reopen !== undefined) process.removeListener("SIGHUP", reopen);
  rmSync(folder, { recursive: true });
});
