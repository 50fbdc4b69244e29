import { spawn, type ChildProcess } from "node:child_process";
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { afterAll, describe, expect, test, vi } from "vitest";
import { freePorts } from "@amigo/server/testing/freePorts";
import { until } from "@amigo/server/testing/testHouse";

const ROOT = fileURLToPath(new URL("..", import.meta.url));
const folder = mkdtempSync(join(tmpdir(), "amigo-start-"));
// PostgreSQL runs as another user when we are root, and has to be able to enter.
chmodSync(folder, 0o755);
const running = new Set<ChildProcess>();
/** How long a start may take, in milliseconds: it makes a database, on a machine that does other things too. */
const PATIENCE = 240_000;
/** A test starts up to three times. */
vi.setConfig({ testTimeout: 3 * PATIENCE });

afterAll(async () => {
  for (const child of running) {
    child.kill("SIGINT");
    await ended(child);
  }
  rmSync(folder, { recursive: true, force: true });
});

interface Start {
  child: ChildProcess;
  env: Record<string, string>;
  said(): string;
}

async function portsFor(data: string): Promise<Record<string, string>> {
  const [web, smtp, submission, page, town] = (await freePorts(5)).map(String);
  return {
    AMIGO_DATA: join(folder, data),
    AMIGO_PORT: web ?? "",
    AMIGO_SMTP_PORT: smtp ?? "",
    AMIGO_SUBMISSION_PORT: submission ?? "",
    AMIGO_MAILTOWN_PORT: page ?? "",
    AMIGO_MAILTOWN_SMTP_PORT: town ?? "",
  };
}

function start(env: Record<string, string>, ...args: string[]): Start {
  const { AMIGO_TEST_DATABASE_URL: _, ...rest } = process.env;
  const child = spawn(process.execPath, ["scripts/start.mjs", ...args], {
    cwd: ROOT,
    env: { ...rest, ...env },
    stdio: ["ignore", "pipe", "pipe"],
  });
  running.add(child);
  let said = "";
  child.stdout.on("data", (data: Buffer) => {
    said += data.toString();
  });
  child.stderr.on("data", (data: Buffer) => {
    said += data.toString();
  });
  child.once("exit", () => running.delete(child));
  return { child, env, said: () => said };
}

function ended(child: ChildProcess): Promise<number | null> {
  return child.exitCode !== null
    ? Promise.resolve(child.exitCode)
    : new Promise((resolve) => {
        child.once("exit", (code) => {
          resolve(code);
        });
      });
}

const ready = (program: Start): Promise<string> =>
  until(
    "the start",
    () => {
      if (program.child.exitCode !== null) throw new Error(program.said());
      return program.said();
    },
    (said) => said.includes("Stop           Ctrl-C"),
    PATIENCE,
  );
const ask = async (program: Start, path: string): Promise<unknown> =>
  (await fetch(`http://localhost:${program.env.AMIGO_PORT}${path}`)).json();
const postmaster = (program: Start): string =>
  join(program.env.AMIGO_DATA ?? "", "postgres", "postmaster.pid");

describe("npm start", () => {
  test("starts the demo house, says how to sign in, and Ctrl-C stops everything, PostgreSQL included", async () => {
    const env = await portsFor("demo");
    const first = start(env);
    const said = await ready(first);
    expect(said).toContain(`http://localhost:${env.AMIGO_PORT}`);
    expect(said).toContain("Juno Abara");
    expect(await ask(first, "/api/health")).toEqual({
      status: "ok",
      database: true,
      smtp: true,
      relay: true,
      events: true,
    });
    expect((await fetch(`http://localhost:${env.AMIGO_MAILTOWN_PORT}/api/mailboxes`)).status).toBe(
      200,
    );
    expect(await (await fetch(`http://localhost:${env.AMIGO_PORT}/`)).text()).toContain(
      "<title>Amigo</title>",
    );
    expect(existsSync(postmaster(first))).toBe(true);
    expect(statSync(join(env.AMIGO_DATA ?? "", "postgres.password")).mode & 0o077).toBe(0);
    first.child.kill("SIGINT");
    expect(await ended(first.child)).toBe(0);
    expect(existsSync(postmaster(first))).toBe(false);
    await expect(ask(first, "/api/health")).rejects.toThrow();

    const second = start(env);
    expect(await ready(second)).not.toMatch(/Installing|Building|Making/);
    expect(await ask(second, "/api/start")).toMatchObject({
      setUp: true,
      house: "Copperwheel Circus School",
    });

    const third = start({ ...(await portsFor("other")), AMIGO_PORT: env.AMIGO_PORT ?? "" });
    expect(await ended(third.child)).toBe(1);
    expect(third.said()).toContain(
      `Port ${env.AMIGO_PORT} is taken by another program. End that program, or set AMIGO_PORT to a free port.`,
    );
    second.child.kill("SIGINT");
    await ended(second.child);
  });

  test("-- --empty starts a house without demo data or Mailtown, and stays one", async () => {
    const env = await portsFor("empty");
    const program = start(env, "--empty");
    const said = await ready(program);
    expect(said).toContain("First page");
    expect(said).not.toContain("Mailtown");
    expect(await ask(program, "/api/start")).toMatchObject({ setUp: false, demoAccounts: [] });
    expect(readFileSync(join(env.AMIGO_DATA ?? "", "kind"), "utf8")).toBe("house\n");
    program.child.kill("SIGTERM");
    await ended(program.child);
    const again = start(env);
    expect(await ready(again)).toContain("First page");
    again.child.kill("SIGINT");
    await ended(again.child);
  });

  test("is refused on a data folder that another uses, starts its database again when that dies, and ends with npm", async () => {
    const env = await portsFor("once");
    const { AMIGO_TEST_DATABASE_URL: _, ...rest } = process.env;
    const npm = spawn("npm", ["start", "--", "--empty"], {
      cwd: ROOT,
      env: { ...rest, ...env },
      stdio: ["ignore", "pipe", "pipe"],
    });
    running.add(npm);
    let said = "";
    for (const stream of [npm.stdout, npm.stderr])
      stream.on("data", (data: Buffer) => {
        said += data.toString();
      });
    const program: Start = { child: npm, env, said: () => said };
    await ready(program);
    const again = start({ ...(await portsFor("once")) });
    expect(await ended(again.child)).toBe(1);
    expect(again.said()).toMatch(/Amigo runs with .*once already \(process \d+\)/);

    const first = Number(readFileSync(postmaster(program), "utf8").split("\n")[0]);
    process.kill(first, "SIGKILL");
    await until(
      "the database's return",
      async () => said.includes("The database is back.") && (await ask(program, "/api/start")),
      (answer) => typeof answer === "object" && "setUp" in (answer as object),
    );
    npm.kill("SIGTERM");
    await ended(npm);
    running.delete(npm);
    await until(
      "the end of everything",
      () => existsSync(postmaster(program)) || existsSync(join(env.AMIGO_DATA ?? "", "running")),
      (isThere) => !isThere,
    );
    await expect(ask(program, "/api/start")).rejects.toThrow();
  });

  test("tells what is wrong with an option or a setting", async () => {
    const option = start(await portsFor("a"), "--moon");
    expect(await ended(option.child)).toBe(1);
    expect(option.said()).toContain("There is no option --moon.");
    const setting = start({
      ...(await portsFor("b")),
      AMIGO_DATABASE_URL: "mysql://x",
      AMIGO_RELAY: "nowhere",
    });
    expect(await ended(setting.child)).toBe(1);
    expect(setting.said()).toContain("AMIGO_DATABASE_URL: must start with postgres://");
    expect(setting.said()).toContain("AMIGO_RELAY: must start with smtp://");
  });
});
