import {
  chmodSync,
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** For how long processes may end by themselves, in milliseconds. */
const PATIENCE = 5000;
const LOOK_EVERY = 50;
const OWNER = "owner";

/**
 * Makes a folder for everything that a run and its programs leave in passing. Those of earlier runs that were killed are removed,
 * with what still runs from them.
 *
 * @param prefix what the names of such folders begin with
 */
export async function temporaryFolder(prefix) {
  const parent = tmpdir();
  for (const name of readdirSync(parent)) {
    const folder = join(parent, name);
    const owner = join(folder, OWNER);
    if (!name.startsWith(prefix) || !existsSync(owner)) continue;
    if (!isAlive(Number(readFileSync(owner, "utf8")))) await clear(folder);
  }
  const folder = mkdtempSync(join(parent, prefix));
  // PostgreSQL runs as a user of its own where we are root.
  chmodSync(folder, 0o755);
  writeFileSync(join(folder, OWNER), String(process.pid));
  return folder;
}

/** Ends whatever has a folder as its place for temporary files, and removes the folder. */
export async function clear(folder) {
  for (const pid of processesOf(folder)) signal(pid, isDatabase(pid) ? "SIGINT" : "SIGTERM");
  for (const end = Date.now() + PATIENCE; Date.now() < end && processesOf(folder).length > 0;)
    await new Promise((resolve) => {
      setTimeout(resolve, LOOK_EVERY);
    });
  for (const pid of processesOf(folder)) signal(pid, "SIGKILL");
  rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
}

/** The processes that were told to use a folder for temporary files; none where the system doesn't say. */
function processesOf(folder) {
  if (!existsSync("/proc/self/environ")) return [];
  return readdirSync("/proc")
    .filter((name) => /^\d+$/.test(name) && Number(name) !== process.pid)
    .filter((name) => readOr(`/proc/${name}/environ`).split("\0").includes(`TMPDIR=${folder}`))
    .filter((name) => !/^\d+ \(.*\) Z/.test(readOr(`/proc/${name}/stat`)))
    .map(Number);
}

function readOr(file) {
  try {
    return readFileSync(file, "utf8");
  } catch {
    return "";
  }
}

/** PostgreSQL waits for its clients at SIGTERM, and ends at SIGINT. */
function isDatabase(pid) {
  return /postgres$/.test(readOr(`/proc/${pid}/cmdline`).split("\0")[0] ?? "");
}

function isAlive(pid) {
  try {
    process.kill(pid, 0);
    return Number.isInteger(pid) && pid > 0;
  } catch {
    return false;
  }
}

function signal(pid, name) {
  try {
    process.kill(pid, name);
  } catch {
    // It has ended by itself.
  }
}
