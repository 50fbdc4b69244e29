import { spawn } from "node:child_process";
import { existsSync, readdirSync } from "node:fs";
import { join } from "node:path";

/** Where Debian keeps PostgreSQL's programs, each version in a folder of its own. */
const LIBRARY = "/usr/lib/postgresql";

/** Returns where one of PostgreSQL's programs is: of the newest version that Debian has installed, else by its name. */
function toolPath(name: string): string {
  const versions = existsSync(LIBRARY) ? readdirSync(LIBRARY).map(Number) : [];
  return (
    versions
      .sort((a, b) => b - a)
      .map((version) => join(LIBRARY, String(version), "bin", name))
      .find((path) => existsSync(path)) ?? name
  );
}

/** Returns what PostgreSQL's programs are told of a database by their environment, where nobody else on the machine sees it. */
function databaseEnvironment(url: string): Record<string, string> {
  const { hostname, port, username, password, pathname, searchParams } = new URL(url);
  const mode = searchParams.get("sslmode");
  return {
    PGHOST: searchParams.get("host") ?? hostname,
    PGPORT: port === "" ? "5432" : port,
    PGUSER: decodeURIComponent(username),
    PGPASSWORD: decodeURIComponent(password),
    PGDATABASE: decodeURIComponent(pathname.slice(1)),
    ...(mode === null ? {} : { PGSSLMODE: mode }),
  };
}

/**
 * Runs one of PostgreSQL's programs on a database.
 *
 * @throws Error with a sentence where it isn't there or fails
 */
export async function runDatabaseTool(
  name: "pg_dump" | "pg_restore",
  args: readonly string[],
  url: string,
): Promise<void> {
  await runProgram(toolPath(name), args, databaseEnvironment(url));
}

/**
 * Runs a program to its end.
 *
 * @returns what it printed
 * @throws Error with a sentence where it isn't there or fails
 */
export function runProgram(
  path: string,
  args: readonly string[],
  environment: Record<string, string> = {},
): Promise<string> {
  return new Promise((resolve, reject) => {
    const child = spawn(path, args, {
      env: { ...process.env, ...environment },
      stdio: ["ignore", "pipe", "pipe"],
    });
    let [output, complaint] = ["", ""];
    child.stdout.on("data", (chunk: Buffer) => {
      output += chunk.toString();
    });
    child.stderr.on("data", (chunk: Buffer) => {
      complaint = `${complaint}${chunk.toString()}`.slice(-2000);
    });
    child.once("error", () =>
      reject(
        new Error(`The program ${path} isn't there. Install the package postgresql-client or tar.`),
      ),
    );
    child.once("close", (code) => {
      if (code === 0) resolve(output);
      else
        reject(new Error(`${path} did not work: ${complaint.trim() || `it ended with ${code}`}`));
    });
  });
}
