import { createHash } from "node:crypto";
import { spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join, relative } from "node:path";
import { ask, BUNDLES, ROOT, run } from "./run.mjs";

const isRoot = () => process.getuid?.() === 0;

/** Stops where this Node is too old to run Amigo. */
export function needNode() {
  const [major = 0, minor = 0] = process.versions.node.split(".").map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    throw new Error(`Amigo needs Node 20.19 or newer; this is ${process.versions.node}.`);
}

/** The programs that the tests of mail talk to: a mail system, an SMTP client and a mail reader that are not ours. */
const MAIL_PROGRAMS = ["/usr/sbin/exim4", "/usr/bin/swaks", "/usr/bin/s-nail", "/usr/bin/openssl"];

/**
 * Installs the mail programs for the tests. The mail system is left without a configuration of its own, so that none begins to
 * run on the machine; and where another one is installed, it is not pushed out: then the step fails and says what is missing.
 */
export function needMailPrograms() {
  if (isRoot() && !existsSync(MAIL_PROGRAMS[0]))
    spawnSync("debconf-set-selections", [], {
      input: "exim4-config exim4/dc_eximconfig_configtype select no configuration at this time\n",
    });
  needDebian(
    "Mail programs for the tests",
    ["exim4-daemon-light", "swaks", "libnet-ssleay-perl", "s-nail", "openssl"],
    () => MAIL_PROGRAMS.every((path) => existsSync(path)),
  );
}

/** Where the second mail system of the tests is unpacked. */
const SECOND_MAIL_SYSTEM = join(ROOT, "node_modules/.cache/second-mail-system");

/**
 * Unpacks a second mail system for the tests, without installing it: two of them can't be the machine's own. It runs only as
 * root, so elsewhere its tests are left out, and this says so.
 *
 */
export function needSecondMailSystem() {
  if (!isRoot() || !ask("which", ["dpkg"]).ok) {
    console.log("The second mail system (Postfix) runs only as root, so its tests are left out.");
    return;
  }
  const isThere = () => existsSync(join(SECOND_MAIL_SYSTEM, "usr/lib/postfix/sbin/master"));
  if (!isThere()) {
    console.log("Unpacking a second mail system for the tests from Debian's packages …");
    mkdirSync(SECOND_MAIL_SYSTEM, { recursive: true });
    const download = () =>
      ask("sh", ["-c", 'cd "$1" && apt-get download -qq postfix', "sh", SECOND_MAIL_SYSTEM]).ok;
    if (!download()) {
      run("apt-get", ["update", "-qq"], { stdio: ["ignore", "ignore", "inherit"] });
      if (!download()) throw new Error("Debian's package postfix can't be downloaded.");
    }
    for (const file of readdirSync(SECOND_MAIL_SYSTEM))
      if (file.endsWith(".deb"))
        run("dpkg", ["-x", join(SECOND_MAIL_SYSTEM, file), SECOND_MAIL_SYSTEM]);
  }
  if (!hasItsLibraries())
    needDebian("Libraries of the second mail system", librariesOfSecond(), hasItsLibraries);
}

/** The libraries that its package names, by their names in this Debian. */
function librariesOfSecond() {
  const packed = readdirSync(SECOND_MAIL_SYSTEM).find((file) => file.endsWith(".deb")) ?? "";
  const { output } = ask("dpkg-deb", ["-f", join(SECOND_MAIL_SYSTEM, packed), "Depends"]);
  return output.match(/\blib[a-z0-9.+-]+/g) ?? [];
}

/** Whether the machine has all libraries that the second mail system needs. */
function hasItsLibraries() {
  const libraries = join(SECOND_MAIL_SYSTEM, "usr/lib/postfix");
  const { status, stdout } = spawnSync("ldd", [join(libraries, "sbin/smtpd")], {
    env: { ...process.env, LD_LIBRARY_PATH: libraries },
    encoding: "utf8",
  });
  return status === 0 && !stdout.includes("not found");
}

/** The programs that the tests of calendars and address books talk to, which are not ours either. */
const CALENDAR_PROGRAMS = [
  "/usr/bin/vdirsyncer",
  "/usr/bin/khal",
  "/usr/bin/khard",
  "/usr/bin/cadaver",
];

/** Installs the calendar and address book programs for the tests. */
export function needCalendarPrograms() {
  needDebian("Calendar programs for the tests", ["vdirsyncer", "khal", "khard", "cadaver"], () =>
    CALENDAR_PROGRAMS.every((path) => existsSync(path)),
  );
}

/** Installs the pooler of connections for the tests of several machines; it is not left running for the machine itself. */
export function needPooler() {
  const isThere = () => existsSync("/usr/sbin/pgbouncer");
  if (isThere()) return;
  needDebian("A pooler of connections for the tests", ["pgbouncer"], isThere);
  ask("systemctl", ["disable", "--now", "pgbouncer"]);
}

/** Installs Debian packages when something is missing and we may, else says what to install. */
export function needDebian(what, packages, isThere) {
  if (isThere()) return;
  const command = `apt-get install ${packages.join(" ")}`;
  if (!isRoot() || !ask("which", ["apt-get"]).ok)
    throw new Error(`${what} is missing. Install it as root with: ${command}`);
  console.log(`Installing ${what} from Debian's packages …`);
  const env = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
  run("apt-get", ["update", "-qq"], { env, stdio: ["ignore", "ignore", "inherit"] });
  run("apt-get", ["install", "-y", "-qq", "--no-install-recommends", "--no-remove", ...packages], {
    env,
    stdio: ["ignore", "ignore", "inherit"],
  });
  if (!isThere()) throw new Error(`${what} is still missing after: ${command}`);
}

/** Installs the npm packages of the lock file, unless just those are there. */
export function needPackages() {
  const mark = join(ROOT, "node_modules/.amigo-lock");
  const wanted = createHash("sha256")
    .update(readFileSync(join(ROOT, "package-lock.json")))
    .digest("hex");
  if (existsSync(mark) && readFileSync(mark, "utf8") === wanted) return;
  console.log("Installing packages (npm ci) …");
  run("npm", ["ci", "--no-audit", "--no-fund", "--loglevel=error"]);
  writeFileSync(mark, wanted);
}

/** Builds the pages, unless nothing that they are made from has changed. */
export function needPages() {
  needBuilt(
    "pages",
    join(ROOT, "web/dist"),
    ["web", "core", "contract", "language"],
    [join(ROOT, "node_modules/vite/bin/vite.js"), "build", "web", "--logLevel", "warn"],
  );
}

/**
 * Bundles our programs and the server's threads, unless nothing that they are made from has changed.
 *
 * @returns the settings by which a server that runs from its sources finds its threads
 */
export function needBundles() {
  const folders = ["server", "core", "contract", "language", "demo", "mailtown"];
  needBuilt("programs", BUNDLES, folders, [join(ROOT, "scripts/bundle.mjs")]);
  return { AMIGO_BUNDLES: BUNDLES };
}

/** Runs a program of Node that fills a folder, unless the sources that it uses are those of the last time. */
function needBuilt(what, place, folders, program) {
  const mark = join(place, ".built");
  const hash = createHash("sha256");
  for (const folder of folders)
    for (const file of sourceFiles(join(ROOT, folder)))
      hash.update(relative(ROOT, file)).update(readFileSync(file));
  for (const file of ["package-lock.json", "scripts/bundle.mjs"])
    hash.update(readFileSync(join(ROOT, file)));
  const wanted = hash.digest("hex");
  if (existsSync(mark) && readFileSync(mark, "utf8") === wanted) return;
  // Not among what a program prints, which a script may read.
  console.error(`Building the ${what} …`);
  // Tests ask for builds, too, and get what users get: not React as it is for developers.
  run(process.execPath, program, { env: { ...process.env, NODE_ENV: "production" } });
  mkdirSync(place, { recursive: true });
  writeFileSync(mark, wanted);
}

function sourceFiles(folder) {
  return readdirSync(folder, { withFileTypes: true })
    .sort((a, b) => (a.name < b.name ? -1 : 1))
    .flatMap((entry) => {
      if (
        entry.name === "node_modules" ||
        entry.name === "dist" ||
        /\.test\.tsx?$/.test(entry.name)
      )
        return [];
      const path = join(folder, entry.name);
      return entry.isDirectory() ? sourceFiles(path) : [path];
    });
}
