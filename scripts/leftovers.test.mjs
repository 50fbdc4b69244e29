import { spawn } from "node:child_process";
import { once } from "node:events";
import { existsSync, mkdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, describe, expect, test } from "vitest";
import { clear, temporaryFolder } from "./leftovers.mjs";

const prefix = `amigo-leftovers-${process.pid}-`;
const made = [];
afterAll(() => {
  for (const folder of made) rmSync(folder, { recursive: true, force: true });
});

const folderFor = async () => {
  const folder = await temporaryFolder(prefix);
  made.push(folder);
  return folder;
};

/** A program in a group of its own, as a service is, that doesn't end when it is asked to. */
const stubborn = async (folder) => {
  const child = spawn(
    process.execPath,
    ["-e", "process.on('SIGTERM', () => {}); setInterval(() => {}, 1000); console.log('here')"],
    {
      detached: true,
      stdio: ["ignore", "pipe", "ignore"],
      env: { ...process.env, TMPDIR: folder },
    },
  );
  await once(child.stdout, "data");
  return child;
};

describe("what a run leaves", () => {
  test("is removed with whatever still runs from it, also what hangs", async () => {
    const folder = await folderFor();
    writeFileSync(join(folder, "something"), "left");
    const child = await stubborn(folder);
    const other = await stubborn(tmpdir());
    const gone = once(child, "exit");
    await clear(folder);
    expect((await gone)[1]).toBe("SIGKILL");
    expect(existsSync(folder)).toBe(false);
    expect(other.exitCode).toBeNull();
    other.kill("SIGKILL");
  });

  test("is removed by the next run where its own was killed, and by nobody while that runs", async () => {
    const running = await folderFor();
    const killed = await folderFor();
    // No process has this number.
    writeFileSync(join(killed, "owner"), "4194305");
    const elsewhere = join(tmpdir(), `${prefix}without-an-owner`);
    mkdirSync(elsewhere);
    made.push(elsewhere);
    await folderFor();
    expect([running, killed, elsewhere].map((folder) => existsSync(folder))).toEqual([
      true,
      false,
      true,
    ]);
  });
});
