import { execFile } from "node:child_process";
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { promisify } from "node:util";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { DEMO_PASSWORD } from "@amigo/demo/copperwheel";
import { dayFromNow, startDatesHouse, student, type DatesHouse } from "../testing/datesHouse";
import { JUNO } from "../testing/testHouse";

/*
 * Programs that are not ours keep their copies in step with Amigo: a synchroniser of calendars and address books, a calendar and
 * an address book for the terminal that read what it has fetched, and a WebDAV client.
 */
const ROSTER = [
  student(1, "Oak", "Ida", "Mill Loft", "Trapeze Two"),
  student(2, "Elm", "Bram", "Mill Loft", "Trapeze Two"),
];
const DAY = dayFromNow(20);

let dates: DatesHouse;
let folder: string;
let password = "";
beforeAll(async () => {
  dates = await startDatesHouse(ROSTER, DAY);
  const { body } = await dates.juno.ask<{ password: string }>(
    "POST",
    "/api/account/mail-programs",
    { name: "Terminal", password: DEMO_PASSWORD, uses: ["calendars"] },
  );
  password = body.password;
  folder = mkdtempSync(join(tmpdir(), "amigo-dav-"));
  for (const name of ["status", "calendars", "contacts"]) mkdirSync(join(folder, name));
  const server = `url = "${dates.house.url}/"\nusername = "${JUNO}"\npassword = "${password}"`;
  writeFileSync(
    join(folder, "vdirsyncer"),
    `[general]
status_path = "${folder}/status/"
[pair calendars]
a = "calendars_here"
b = "calendars_there"
collections = ["from b"]
conflict_resolution = "b wins"
[storage calendars_here]
type = "filesystem"
path = "${folder}/calendars/"
fileext = ".ics"
[storage calendars_there]
type = "caldav"
${server}
[pair contacts]
a = "contacts_here"
b = "contacts_there"
collections = ["from b"]
[storage contacts_here]
type = "filesystem"
path = "${folder}/contacts/"
fileext = ".vcf"
[storage contacts_there]
type = "carddav"
${server}
`,
  );
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await dates?.house.close();
});

const execute = promisify(execFile);
/** Runs a program; what it says on both lines is returned, and is the reason where it fails. */
async function run(program: string, parts: string[], input = ""): Promise<string> {
  const running = execute(program, parts, {
    timeout: 60_000,
    env: {
      ...process.env,
      HOME: folder,
      LC_ALL: "C.UTF-8",
      XDG_CACHE_HOME: join(folder, "cache"),
      XDG_DATA_HOME: join(folder, "data"),
      XDG_CONFIG_HOME: join(folder, "config"),
    },
  });
  running.child.stdin?.end(input);
  try {
    const { stdout, stderr } = await running;
    return stdout + stderr;
  } catch (failure) {
    const { stdout = "", stderr = "" } = failure as { stdout?: string; stderr?: string };
    throw new Error(`${program} ${parts.join(" ")} failed: ${stdout}${stderr}`, { cause: failure });
  }
}
const vdirsyncer = (...parts: string[]): Promise<string> =>
  run("vdirsyncer", ["-c", join(folder, "vdirsyncer"), ...parts], "y\n".repeat(40));
/** The files of a fetched collection by their content. */
const fetched = (kind: "calendars" | "contacts", id: string): string[] =>
  readdirSync(join(folder, kind, id)).map((name) =>
    readFileSync(join(folder, kind, id, name), "utf8"),
  );
const fileOf = (id: string, words: string): string =>
  readdirSync(join(folder, "calendars", id))
    .map((name) => join(folder, "calendars", id, name))
    .find((path) => readFileSync(path, "utf8").includes(words)) ?? "";

describe("a synchroniser", () => {
  let trapeze = "";

  test("finds every calendar and address book from the address of the server alone, and fetches them", async () => {
    trapeze = dates.listOf(/Trapeze Two.*guardians/i);
    await dates.make({ title: "Gala" });
    await dates.make({ title: "Picnic" });
    await vdirsyncer("discover");
    await vdirsyncer("sync");
    expect(readdirSync(join(folder, "calendars")).sort()).toEqual(["all", trapeze].sort());
    expect(readdirSync(join(folder, "contacts")).sort()).toEqual(["lists", "people", "private"]);
    expect(fetched("calendars", trapeze).join("")).toContain("SUMMARY:Gala");
    expect(fetched("contacts", "lists").join("")).toMatch(/FN:Trapeze Two/);
  });

  test("brings a date that was made here to everybody on the list, and one that was moved", async () => {
    const compact = DAY.replaceAll("-", "");
    writeFileSync(
      join(folder, "calendars", trapeze, "rope.ics"),
      `BEGIN:VCALENDAR\nVERSION:2.0\nPRODID:-//Here//EN\nBEGIN:VEVENT\nUID:rope\nDTSTAMP:20261101T000000Z\nDTSTART:${compact}T150000Z\nDTEND:${compact}T160000Z\nSUMMARY:Rope check\nEND:VEVENT\nEND:VCALENDAR\n`,
    );
    dates.turnPage();
    await vdirsyncer("sync");
    await dates.got("Invitation: Rope check", 2);
    await vdirsyncer("sync");
    const path = fileOf(trapeze, "Rope check");
    writeFileSync(
      path,
      readFileSync(path, "utf8").replace("SUMMARY:Rope check", "SUMMARY:Rope test"),
    );
    dates.turnPage();
    await vdirsyncer("sync");
    await dates.got("Changed: Rope test", 2);
  });

  test("lets the change that was made in Amigo win, and takes away what was called off", async () => {
    const all = await dates.juno.ask<{ id: string; title: string }[]>("GET", "/api/dates");
    const { id = "" } = all.body.find(({ title }) => title === "Gala") ?? {};
    const { sequence } = await dates.pageOf(id);
    await dates.juno.ask("PUT", `/api/dates/${id}`, {
      ...dates.contentOf({ title: "Great gala" }),
      sequence,
    });
    const path = fileOf(trapeze, "SUMMARY:Gala");
    writeFileSync(path, readFileSync(path, "utf8").replace("SUMMARY:Gala", "SUMMARY:My gala"));
    await vdirsyncer("sync");
    expect(fetched("calendars", trapeze).join("")).toContain("SUMMARY:Great gala");
    expect((await dates.pageOf(id)).title).toBe("Great gala");
    await dates.juno.ask("POST", `/api/dates/${id}/cancel`, { reason: "" });
    await vdirsyncer("sync");
    expect(fetched("calendars", trapeze).join("")).not.toContain("gala");
  });

  test("calls a date off that is deleted here", async () => {
    rmSync(fileOf(trapeze, "Rope test"));
    dates.turnPage();
    await vdirsyncer("sync");
    await dates.got("Called off: Rope test", 2);
  });
});

describe("programs that read", () => {
  test("a calendar shows the dates at their times", async () => {
    await dates.make({
      title: "Open stage",
      repeat: { every: "week", step: 1, days: [], until: dayFromNow(34) },
    });
    await vdirsyncer("sync");
    writeFileSync(
      join(folder, "khal"),
      `[calendars]\n[[dates]]\npath = ${folder}/calendars/all\n[locale]\ntimeformat = %H:%M\ndateformat = %Y-%m-%d\nlongdateformat = %Y-%m-%d\ndatetimeformat = %Y-%m-%d %H:%M\nlongdatetimeformat = %Y-%m-%d %H:%M\nlocal_timezone = UTC\ndefault_timezone = UTC\n`,
    );
    const shown = await run("khal", [
      "-c",
      join(folder, "khal"),
      "list",
      "--format",
      "{start-date} {start-time} {title}",
      dayFromNow(19),
      "16d",
    ]);
    const times = shown.split("\n").filter((line) => line.includes("Open stage"));
    expect(times.map((line) => line.slice(0, 16))).toEqual(
      [0, 7, 14].map((days) => `${dayFromNow(20 + days)} 18:00`),
    );
  });

  test("an address book finds a list and a person by the start of a name", async () => {
    mkdirSync(join(folder, "config", "khard"), { recursive: true });
    writeFileSync(
      join(folder, "config", "khard", "khard.conf"),
      `[addressbooks]\n[[lists]]\npath = ${folder}/contacts/lists\n[[people]]\npath = ${folder}/contacts/people\n[general]\neditor = vi\nmerge_editor = vimdiff\n`,
    );
    const list = await run("khard", ["email", "--parsable", "trapeze"]);
    expect(list).toMatch(/trapeze\S*@lists\.copperwheel\.example\s+Trapeze Two/);
    expect(await run("khard", ["email", "--parsable", "robin oak"])).toMatch(
      /^oak@oakmail\.example/m,
    );
  });

  test("a WebDAV client walks through the tree", async () => {
    writeFileSync(
      join(folder, ".netrc"),
      `machine localhost\nlogin ${JUNO}\npassword ${password}\n`,
      { mode: 0o600 },
    );
    const home = await fetch(`${dates.house.url}/dav/`, {
      method: "PROPFIND",
      headers: {
        Depth: "1",
        Authorization: `Basic ${Buffer.from(`${JUNO}:${password}`).toString("base64")}`,
      },
    });
    const [, path = ""] = /<D:href>(\/dav\/calendars\/[^<]+)</.exec(await home.text()) ?? [];
    const shown = await run("cadaver", [`${dates.house.url}${path}`], "ls\ncd all\nls\nquit\n");
    expect(shown).toMatch(/Coll:\s+all/);
    expect(shown).toMatch(/[0-9a-f-]{36}\.ics/);
  });
});
