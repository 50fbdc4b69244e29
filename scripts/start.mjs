import { spawn } from "node:child_process";
import { existsSync, mkdirSync, readFileSync, rmSync, watch, writeFileSync } from "node:fs";
import { createConnection } from "node:net";
import { join, resolve } from "node:path";
import { postgresPrograms, startPostgres } from "./postgres.mjs";
import { ask, bundleOf, ROOT, startProgram } from "./run.mjs";
import { needBundles, needDebian, needNode, needPackages, needPages } from "./setUp.mjs";

const USAGE =
  "npm start [-- --empty] [--watch]\n  --empty   a house without demo data, to be set up on its first page\n  --watch   for developers (npm run dev): pages and server follow every change of the sources";

/** The sources that the server is made of; a change in them starts it again under `--watch`. */
const SERVER_SOURCES = ["server", "core", "contract", "language", "demo"];
/** For how long changes are gathered before the server starts again, in milliseconds: an editor saves several files at once. */
const GATHER = 300;

const PORTS = [
  ["AMIGO_PORT", 8080],
  ["AMIGO_SMTP_PORT", 2525],
  ["AMIGO_SUBMISSION_PORT", 2587],
];
const WATCH_PORTS = [["AMIGO_PAGES_PORT", 5173]];
const TOWN_PORTS = [
  ["AMIGO_MAILTOWN_PORT", 8025],
  ["AMIGO_MAILTOWN_SMTP_PORT", 2526],
];

const started = [];
let stopping;
/** Under `--watch` programs run from their sources, else from their bundles. */
const watches = process.argv.includes("--watch");
const runnable = (program) => (watches ? ["--import", "tsx", program] : [bundleOf(program)]);

async function main() {
  const args = process.argv.slice(2);
  const unknown = args.find((arg) => arg !== "--empty" && arg !== "--watch");
  if (unknown !== undefined) throw new Error(`There is no option ${unknown}.\n${USAGE}`);
  needNode();
  const data = resolve(ROOT, process.env.AMIGO_DATA ?? ".amigo");
  mkdirSync(data, { recursive: true, mode: 0o755 });
  takeFolder(data);
  for (const [name, fallback] of [...PORTS, ...(watches ? WATCH_PORTS : [])])
    await needFreePort(name, process.env[name] || fallback);

  const ownDatabase = !process.env.AMIGO_DATABASE_URL;
  if (ownDatabase) needDebian("PostgreSQL", ["postgresql"], () => postgresPrograms() !== undefined);
  needPackages();
  if (!watches) needPages();
  if (!watches) needBundles();
  let databaseUrl = process.env.AMIGO_DATABASE_URL;
  if (ownDatabase) {
    const postgres = await startPostgres(join(data, "postgres"));
    const watching = setInterval(() => keepAlive(postgres), LOOK_AT_DATABASE);
    started.push({
      end: async () => {
        clearInterval(watching);
        postgres.stop();
      },
    });
    postgres.createDatabase("amigo");
    databaseUrl = postgres.roleUrl("amigo");
  }
  const { demo, isNew, isSetUp } = kindOf(data, databaseUrl, args.includes("--empty"));
  for (const [name, fallback] of demo ? TOWN_PORTS : [])
    await needFreePort(name, process.env[name] || fallback);

  const watched = resolve(ROOT, process.env.AMIGO_WATCHED || join(data, "watched"));
  mkdirSync(watched, { recursive: true });
  const env = {
    AMIGO_DATA: data,
    AMIGO_WATCHED: watched,
    AMIGO_DATABASE_URL: databaseUrl,
    AMIGO_DEMO: demo ? "yes" : "no",
    AMIGO_LOG: process.env.AMIGO_LOG ?? "warn",
  };
  if (!demo && !process.env.AMIGO_RELAY) env.AMIGO_RELAY = "smtp://127.0.0.1:25";
  if (demo)
    await startOne("mailtown/main.ts", {
      ...env,
      AMIGO_MAILTOWN_DIRECTORY: join(ROOT, "demo/mailtown.json"),
    });
  const program = demo ? "demo/serve.ts" : "server/main.ts";
  if (watches) await startWatched(program, env);
  else await startOne(program, env);
  if (demo && isNew && process.env.AMIGO_DEMO_LIFE !== "no") await live(env);
  tell(demo, isSetUp, env);
}

/** Takes the data folder for this process alone: two that work on one would take each other's database and ports. */
function takeFolder(data) {
  const file = join(data, "running");
  for (let tries = 0; ; tries++) {
    try {
      writeFileSync(file, `${process.pid}\n`, { flag: "wx" });
      process.on("exit", () => rmSync(file, { force: true }));
      return;
    } catch (failure) {
      if (failure.code !== "EEXIST" || tries === 3) throw failure;
      const other = Number(readFileSync(file, "utf8"));
      if (isOurs(other))
        throw new Error(
          `Amigo runs with ${data} already (process ${other}). End that one, or set AMIGO_DATA to another folder.`,
          { cause: failure },
        );
      // Left by one that was killed.
      rmSync(file, { force: true });
    }
  }
}

/** Whether a process is there and is a start of Amigo, not another that has got its number. */
function isOurs(pid) {
  if (!Number.isInteger(pid) || pid < 1 || pid === process.pid) return false;
  try {
    return readFileSync(`/proc/${pid}/cmdline`, "utf8").includes("start.mjs");
  } catch {
    try {
      process.kill(pid, 0);
      return !existsSync("/proc/self");
    } catch {
      return false;
    }
  }
}

/** How often our own PostgreSQL is looked at, in milliseconds. */
const LOOK_AT_DATABASE = 1000;

/** Starts our own PostgreSQL again where it has ended, as when the machine had no memory left. */
function keepAlive(postgres) {
  if (stopping !== undefined || postgres.isAlive()) return;
  console.error("The database has ended. It is started again …");
  try {
    postgres.start();
    console.error("The database is back.");
  } catch (failure) {
    console.error(failure instanceof Error ? failure.message : failure);
  }
}

/**
 * Returns whether this is the demo house, and whether it is new. The database alone says so; only for an empty one does it
 * count how it was started.
 */
function kindOf(data, databaseUrl, empty) {
  const file = join(data, "kind");
  const { ok, output } = ask(process.execPath, [...runnable("server/commands/main.ts"), "kind"], {
    env: { ...process.env, AMIGO_DATABASE_URL: databaseUrl },
  });
  // Where it can't be asked, the program itself says why, and goes no further.
  if (!ok) return { demo: readKind(file) !== "house" && !empty, isNew: false, isSetUp: false };
  const found = output.trim();
  if (found === "demo" && empty)
    throw new Error(
      `${data} holds the demo house already. Set AMIGO_DATA to another folder for an empty house.`,
    );
  const isNew = found === "empty" && !existsSync(file);
  const wanted = empty || (!isNew && readKind(file) === "house") ? "house" : "demo";
  const kind = found === "empty" ? wanted : found;
  writeFileSync(file, `${kind}\n`);
  return { demo: kind === "demo", isNew, isSetUp: found !== "empty" };
}

function readKind(file) {
  return existsSync(file) ? readFileSync(file, "utf8").trim() : "";
}

/** Lets a new demo house live through its first weeks. Without them it is still a house to use. */
async function live(env) {
  console.log("The demo house lives through its first weeks:");
  const { ended } = startProgram(runnable("demo/main.ts"), env, () => undefined);
  const code = await ended;
  if (code !== 0)
    console.log("  It stays as far as it came; import autumn-roster.xlsx in Sources.");
}

async function startOne(program, env) {
  const { child, ready, ended } = startProgram(runnable(program), env, (code) => {
    if (stopping === undefined) void stop(code === 0 ? 1 : (code ?? 1));
  });
  started.push({
    end: async () => {
      if (child.exitCode === null) {
        child.kill("SIGTERM");
        await ended;
      }
    },
  });
  await ready;
}

/** Starts the pages by Vite, and the server, which starts again whenever one of its sources has changed. */
async function startWatched(program, env) {
  const pages = process.env.AMIGO_PAGES_PORT || "5173";
  const server = `http://localhost:${process.env.AMIGO_PORT || 8080}`;
  const vite = spawn(
    process.execPath,
    [join(ROOT, "node_modules/vite/bin/vite.js"), "web", "--port", pages, "--strictPort"],
    {
      cwd: ROOT,
      env: { ...process.env, AMIGO_SERVER: server },
      stdio: ["ignore", "inherit", "inherit"],
    },
  );
  started.push({ end: async () => void vite.kill("SIGTERM") });

  const watchedEnv = { ...env, AMIGO_URL: process.env.AMIGO_URL || `http://localhost:${pages}` };
  let running;
  const run = async () => {
    running = startProgram(runnable(program), watchedEnv, () => undefined);
    await running.ready;
  };
  const end = async () => {
    if (running.child.exitCode === null) running.child.kill("SIGTERM");
    await running.ended;
  };
  started.push({ end });
  await run();

  let waiting;
  let turn = Promise.resolve();
  const restart = async () => {
    if (stopping !== undefined) return;
    console.log("The sources have changed: the server starts anew …");
    await end();
    await run().then(
      () => console.log("The server is ready."),
      () => console.log("The server did not start. It is tried again at the next change."),
    );
  };
  for (const folder of SERVER_SOURCES)
    watch(join(ROOT, folder), { recursive: true }, (_event, file) => {
      if (file === null || /(^|\/)(node_modules|dist)\/|\.test\.ts$/.test(file)) return;
      clearTimeout(waiting);
      waiting = setTimeout(() => {
        turn = turn.then(restart);
      }, GATHER);
    });
}

function tell(demo, isSetUp, env) {
  const address = (name, fallback) => process.env[name] || fallback;
  const port = watches ? address("AMIGO_PAGES_PORT", 5173) : address("AMIGO_PORT", 8080);
  console.log(`\nAmigo is ready: http://localhost:${port}`);
  if (demo) {
    console.log(
      "  Sign in        choose Juno Abara (coordinator) on the page: one click in this demo house",
    );
    console.log(
      "                 for mail programs and the API: juno.abara@copperwheel.example, copperwheel-demo",
    );
    console.log(
      `  Mailtown       http://localhost:${address("AMIGO_MAILTOWN_PORT", 8025)}  the mailboxes of the made-up outside world`,
    );
  } else {
    if (!isSetUp)
      console.log(
        "  First page     sets the house up: its name, domains, season and first coordinator",
      );
    console.log(
      `  Relay          ${process.env.AMIGO_RELAY || env.AMIGO_RELAY}${process.env.AMIGO_RELAY ? "" : "  (set AMIGO_RELAY to change it)"}`,
    );
  }
  console.log(
    `  Mail in        port ${address("AMIGO_SMTP_PORT", 2525)}, from mail programs with an account port ${address("AMIGO_SUBMISSION_PORT", 2587)}`,
  );
  console.log(`  Watched        ${env.AMIGO_WATCHED}, for sheets that sources read by themselves`);
  console.log(`  Kept in        ${env.AMIGO_DATA}\n  Stop           Ctrl-C\n`);
}

function needFreePort(name, port) {
  return new Promise((done, reject) => {
    const socket = createConnection({ host: "127.0.0.1", port: Number(port) });
    socket.once("connect", () => {
      socket.destroy();
      reject(
        new Error(
          `Port ${port} is taken by another program. End that program, or set ${name} to a free port.`,
        ),
      );
    });
    socket.once("error", () => done());
  });
}

/** How often it is looked whether npm is still there, in milliseconds. */
const LOOK_AT_NPM = 500;

/** Ends with npm where that has started us: it hands a signal to its shell alone, which ends without telling us. */
function endWithNpm() {
  if (process.env.npm_lifecycle_event === undefined) return;
  const shell = process.ppid;
  const look = setInterval(() => {
    if (process.ppid === shell) return;
    clearInterval(look);
    void stop(0);
  }, LOOK_AT_NPM);
  look.unref();
}

function stop(code) {
  stopping ??= (async () => {
    for (const { end } of started.reverse()) await end().catch((failure) => console.error(failure));
    process.exit(code);
  })();
  return stopping;
}

process.on("SIGINT", () => {
  if (stopping === undefined) console.log("\nStopping …");
  void stop(0);
});
process.on("SIGTERM", () => void stop(0));
endWithNpm();
main().catch((failure) => {
  if (stopping === undefined)
    console.error(`\n${failure instanceof Error ? failure.message : failure}`);
  void stop(1);
});
