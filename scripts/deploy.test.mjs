import { spawnSync } from "node:child_process";
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, test } from "vitest";
import { parse } from "yaml";
import { bundleOf, ROOT } from "./run.mjs";

const read = (file) => readFileSync(join(ROOT, "deploy", file), "utf8");
/** A program for containers that answers, if this machine has one. */
const engine = ["podman", "docker"].find(
  (name) => spawnSync(name, ["info"], { timeout: 20_000 }).status === 0,
);

/** The settings that the program knows, by its own file. */
const settings = new Set([
  ...readFileSync(join(ROOT, "server/settings.ts"), "utf8").match(/\bAMIGO_[A-Z_]+(?=:)/g),
]);
const isKnown = (name) => settings.has(name.replace(/_FILE$/, "")) || settings.has(name);

/** The instructions of a Containerfile, each on one line. */
const instructions = read("Containerfile")
  .replace(/\\\n/g, " ")
  .split("\n")
  .filter((line) => line !== "" && !line.startsWith("#"))
  .map((line) => {
    const [, name = "", rest = ""] = /^(\S+)\s+(.*)$/.exec(line) ?? [];
    return { name, rest };
  });
const all = (wanted) => instructions.filter(({ name }) => name === wanted).map(({ rest }) => rest);

describe("the Containerfile", () => {
  test("has only instructions that there are, and begins from images of a version", () => {
    const known = /^(FROM|WORKDIR|COPY|RUN|USER|ENV|VOLUME|EXPOSE|STOPSIGNAL|HEALTHCHECK|CMD)$/;
    expect(instructions.filter(({ name }) => !known.test(name))).toEqual([]);
    for (const image of all("FROM")) expect(image).toMatch(/^docker\.io\/library\/node:\d+-\S+/);
    expect(Number(/node:(\d+)/.exec(all("FROM")[0])[1])).toBeGreaterThanOrEqual(20);
  });

  test("runs as nobody in particular, and what it runs is what the build makes", () => {
    expect(all("USER").at(-1)).toBe("amigo");
    const [, program] = JSON.parse(all("CMD").at(-1));
    expect(join(ROOT, program)).toBe(bundleOf("server/main.ts"));
    const { scripts } = JSON.parse(readFileSync(join(ROOT, "package.json"), "utf8"));
    expect(all("RUN").join()).toContain("npm run build");
    expect(scripts.build).toBeDefined();
  });

  test("sets only settings that Amigo has", () => {
    const set = all("ENV").flatMap((line) => line.match(/AMIGO_[A-Z_]+/g) ?? []);
    expect(set.filter((name) => !isKnown(name))).toEqual([]);
  });
});

describe("the compose file", () => {
  const compose = parse(read("compose.yaml"));
  const { amigo, database } = compose.services;

  test("names only secrets, configs and volumes that it has", () => {
    for (const { secrets = [], configs = [], volumes = [] } of [amigo, database]) {
      for (const secret of secrets) expect(compose.secrets).toHaveProperty(secret);
      for (const { source } of configs) expect(compose.configs).toHaveProperty(source);
      for (const volume of volumes) expect(compose.volumes).toHaveProperty(volume.split(":")[0]);
    }
    expect(existsSync(join(ROOT, "deploy", amigo.build.context, amigo.build.dockerfile))).toBe(
      true,
    );
  });

  test("gives Amigo settings that it has, and shows only ports that it opens", () => {
    expect(Object.keys(amigo.environment).filter((name) => !isKnown(name))).toEqual([]);
    const open = all("EXPOSE").join(" ").split(/\s+/);
    for (const port of amigo.ports) expect(open).toContain(port.split(":").at(-1));
  });

  test("makes the role of the database by sound SQL in a sound shell script", () => {
    const script = compose.configs.role.content.replaceAll("$$", "$");
    expect(spawnSync("sh", ["-n"], { input: script }).status).toBe(0);
    expect(script).toContain("nosuperuser");
  });
});

describe("the scripts, units and examples beside it", () => {
  test("name only settings that Amigo has", () => {
    for (const file of readdirSync(join(ROOT, "deploy")))
      expect(
        (read(file).match(/\bAMIGO_[A-Z_]+\b/g) ?? []).filter((name) => !isKnown(name)),
        file,
      ).toEqual([]);
  });

  test("have a script that a shell understands", () => {
    expect(spawnSync("sh", ["-n", join(ROOT, "deploy/install.sh")]).status).toBe(0);
  });
});

if (engine !== undefined)
  test("the image is built, and says what it lacks where it has no database", () => {
    const build = ["build", "-q", "-f", "deploy/Containerfile", "-t", "amigo-test", "."];
    expect(spawnSync(engine, build, { cwd: ROOT, stdio: "inherit" }).status).toBe(0);
    const { status, stderr } = spawnSync(engine, ["run", "--rm", "amigo-test"], {
      encoding: "utf8",
    });
    expect(status).toBe(1);
    expect(stderr).toContain("AMIGO_DATABASE_URL");
  }, 900_000);

describe("the examples for whoever watches the metrics", () => {
  test("ask only for metrics that there are", () => {
    const known = readFileSync(join(ROOT, "server/watch/metrics.ts"), "utf8").match(
      /amigo_[a-z_]+/g,
    );
    for (const file of ["alerts.yaml", "dashboard.json"]) {
      const asked = readFileSync(join(ROOT, "docs/watching", file), "utf8").match(/amigo_[a-z_]+/g);
      const named = asked.map((name) => name.replace(/_(bucket|count|sum)$/, ""));
      expect(named.filter((name) => !known.includes(name))).toEqual([]);
    }
  });

  test("have rules with a condition and a sentence each", () => {
    const { groups } = parse(readFileSync(join(ROOT, "docs/watching/alerts.yaml"), "utf8"));
    const rules = groups.flatMap(({ rules: some }) => some);
    expect(rules.length).toBeGreaterThan(8);
    for (const { alert, expr, annotations } of rules)
      expect(
        [alert, expr, annotations.summary].every((text) => text.length > 5),
        alert,
      ).toBe(true);
  });
});
