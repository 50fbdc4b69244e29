import { TOKEN_SCOPE_NAMES } from "@amigo/core/access/tokenScopes";
import { spawn } from "node:child_process";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { bundleOf } from "../../scripts/run.mjs";
import { JUNO, startTestHouse, type TestHouse } from "../testing/testHouse";

/** A day on which an API token still works, whenever the tests run. */
const IN_A_YEAR = new Date(Date.now() + 365 * 86_400_000).toISOString().slice(0, 10);

const PROGRAM = bundleOf("server/commands/main.ts");
let house: TestHouse;
let token = "";

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  const juno = await house.signIn(JUNO);
  token = (
    await juno.ask<{ token: string }>("POST", "/api/tokens", {
      name: "Command line",
      scopes: TOKEN_SCOPE_NAMES,
      lastDay: IN_A_YEAR,
    })
  ).body.token;
  await house.read(juno, "autumn-roster.xlsx");
});
afterAll(() => house.close());

/** Runs the program as somebody would; it asks this process, so it must not block it. */
function amigo(
  args: string[],
  env: Record<string, string> = {},
): Promise<{ status: number | null; out: string; err: string }> {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, [PROGRAM, ...args], {
      env: { ...process.env, AMIGO_URL: house.url, AMIGO_TOKEN: token, ...env },
    });
    let [out, err] = ["", ""];
    child.stdout.on("data", (data: Buffer) => {
      out += data.toString();
    });
    child.stderr.on("data", (data: Buffer) => {
      err += data.toString();
    });
    child.on("close", (status) => resolve({ status, out: out.trim(), err: err.trim() }));
  });
}

describe("a running house at the command line", () => {
  test("a round is shown and accepted, a file read into a source, a guard passed by its count, a round taken back", async () => {
    expect((await amigo(["round", "show"])).out).toMatch(
      /^Round 1, open: 230 changes, 230 accepted, 0 on hold; 671 join/,
    );
    expect((await amigo(["round", "accept"])).out).toBe(
      "Round 1: 30 lists brought in step, 671 joined, 0 left.",
    );
    expect((await amigo(["round", "show"])).out).toBe("No round is open: everything is in step.");
    expect(
      (
        await amigo([
          "source",
          "read",
          "AUTUMN-ROSTER",
          join(SAMPLES_FOLDER, "autumn-roster-week-2.xlsx"),
        ])
      ).out,
    ).toBe("221 students imported; 14 changes in round 2 to decide.");
    expect((await amigo(["round", "show", "2"])).out).toContain(
      "moved: Hana Kettering, Aerial Silks Start → Tumbling Seeds",
    );
    expect((await amigo(["round", "accept"])).out).toMatch(/^Round 2: \d+ lists brought in step/);
    const planned = await amigo(["round", "back", "2"]);
    expect(planned.out).toMatch(
      /^Undoing round 2 would undo \d+ changes[\s\S]+Add --yes to do it\.$/,
    );
    const guards = [...planned.out.matchAll(/--pass "([^"]+)"/g)].flatMap(([, guard = ""]) => [
      "--pass",
      guard,
    ]);
    expect((await amigo(["round", "back", "2", "--yes", ...guards])).out).toMatch(
      /^Round 2 was undone by round \d+/,
    );
  });

  test.each<[string, string[], Record<string, string>, RegExp]>([
    ["without a token", ["round", "show"], { AMIGO_TOKEN: "" }, /set AMIGO_TOKEN to it/],
    [
      "with another token",
      ["round", "show"],
      { AMIGO_TOKEN: "amigo_other" },
      /The token was not taken/,
    ],
    [
      "where no Amigo is",
      ["round", "show"],
      { AMIGO_URL: "http://127.0.0.1:9" },
      /No Amigo answers at http:\/\/127\.0\.0\.1:9/,
    ],
    [
      "of a source that is not there",
      ["source", "read", "Nothing"],
      {},
      /There is no source "Nothing"\. There is "autumn-roster"/,
    ],
    [
      "of a source without a place",
      ["source", "read", "autumn-roster"],
      {},
      /isn't connected to a file or web address/,
    ],
    ["of a round that is not there", ["round", "show", "99"], {}, /There is no such round/],
    ["of a round by a word", ["round", "show", "latest"], {}, /Give the round's number/],
    ["with a guard written wrongly", ["round", "accept", "--pass", "all"], {}, /check=count/],
  ])("%s it says what is wrong", async (_what, args, env, sentence) => {
    const { status, err } = await amigo(args, env);
    expect(status).not.toBe(0);
    expect(err).toMatch(sentence);
  });
});
