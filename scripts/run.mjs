import { spawn, spawnSync } from "node:child_process";
import { join } from "node:path";
import { fileURLToPath } from "node:url";

/** The root of the repository. */
export const ROOT = fileURLToPath(new URL("..", import.meta.url));

/** Runs a command to its end with its output shown; throws when it fails. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { cwd: ROOT, stdio: "inherit", ...options });
  if (error !== undefined) throw new Error(`${command} could not be started: ${error.message}`);
  if (status !== 0) throw new Error(`${command} ${args.join(" ")} ended with ${status}`);
}

/** Runs a command quietly; answers whether it worked and what it printed. */
export function ask(command, args, options = {}) {
  const { status, stdout, stderr, error } = spawnSync(command, args, {
    cwd: ROOT,
    encoding: "utf8",
    ...options,
  });
  return { ok: error === undefined && status === 0, output: `${stdout ?? ""}${stderr ?? ""}` };
}

/** Starts a TypeScript program of ours and answers once it says that it is ready. */
export function startProgram(file, env, onEnd) {
  const child = spawn(process.execPath, ["--import", "tsx", file], {
    cwd: ROOT,
    env: { ...process.env, ...env },
    stdio: ["ignore", "inherit", "inherit", "ipc"],
  });
  const ended = new Promise((resolve) => {
    child.once("exit", (code) => {
      onEnd(code);
      resolve(code);
    });
  });
  const ready = new Promise((resolve, reject) => {
    child.once("message", resolve);
    child.once("exit", () => reject(new Error(`${file} ended before it was ready`)));
  });
  // Who only waits for its end need not hear that it was never ready.
  ready.catch(() => undefined);
  return { child, ready, ended };
}

/** Where the bundles of the desk and the sandbox are kept: `bundle.mjs` makes them. */
export const BUNDLES = join(ROOT, "server/dist");
