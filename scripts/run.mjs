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

/** Runs a command quietly; returns whether it worked and what it printed. */
export function ask(command, args, options = {}) {
  const { status, stdout, stderr, error } = spawnSync(command, args, {
    cwd: ROOT,
    encoding: "utf8",
    ...options,
  });
  return { ok: error === undefined && status === 0, output: `${stdout ?? ""}${stderr ?? ""}` };
}

/** Where the bundles of the desk and the sandbox are kept: `bundle.mjs` makes them. */
export const BUNDLES = join(ROOT, "server/dist");

/** Our programs by their sources, with their bundles. Each bundle lies where the packages that it imports are found. */
export const PROGRAMS = {
  "server/main.ts": "server/dist/main.mjs",
  "server/commands/main.ts": "server/dist/commands.mjs",
  "demo/serve.ts": "server/dist/demo.mjs",
  "demo/main.ts": "server/dist/demoLife.mjs",
  "mailtown/main.ts": "mailtown/dist/main.mjs",
};

/** Returns the file of a program that `bundle.mjs` has made. */
export function bundleOf(program) {
  return join(ROOT, PROGRAMS[program]);
}

/**
 * Starts a program of ours and answers once it says that it is ready.
 *
 * @param args what Node is given to run it: its bundle, or its sources with what translates them
 */
export function startProgram(args, env, onEnd) {
  const child = spawn(process.execPath, args, {
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
    child.once("exit", () => reject(new Error(`${args.at(-1)} ended before it was ready`)));
  });
  // Who only waits for its end need not hear that it was never ready.
  ready.catch(() => undefined);
  return { child, ready, ended };
}
