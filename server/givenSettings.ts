import { readFileSync } from "node:fs";

/** Settings that hold passwords. Each can be in a file of its own, which the setting of this name and `_FILE` names. */
const SECRETS = [
  "AMIGO_DATABASE_URL",
  "AMIGO_DATABASE_DIRECT_URL",
  "AMIGO_RELAY",
  "AMIGO_SHELF_STORE_KEY",
  "AMIGO_SHELF_STORE_SECRET",
] as const;

/**
 * Returns the settings that are given, with those that are in files.
 *
 * @throws Error with a sentence where a file can't be read, or a setting is given in both ways
 */
export function givenSettings(
  environment: Record<string, string | undefined>,
): Record<string, string | undefined> {
  const given = Object.fromEntries(
    Object.entries(environment).filter(
      ([name, value]) => name.startsWith("AMIGO_") && value !== "",
    ),
  );
  for (const name of SECRETS) {
    const file = given[`${name}_FILE`];
    if (file === undefined) continue;
    if (given[name] !== undefined)
      throw new Error(`These settings are not right:\n  ${name}: set it or ${name}_FILE, not both`);
    try {
      given[name] = readFileSync(file, "utf8").trim();
    } catch {
      throw new Error(`These settings are not right:\n  ${name}_FILE: ${file} can't be read`);
    }
  }
  return given;
}

/** What a faulty setting holds, unless it may hold a password. */
export function heldBy(name: string, value: string | undefined): string {
  if (value === undefined) return "it is not set";
  return SECRETS.some((secret) => secret === name)
    ? "what it holds isn't shown, as it may hold a password"
    : `it is ${JSON.stringify(value)}`;
}
