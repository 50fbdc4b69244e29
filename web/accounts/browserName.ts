import { t } from "../texts/accounts";

/** Returns a browser in two words, from how it calls itself. */
export function browserName(agent: string): string {
  const browser = (/(Firefox|Edg|OPR|Chrome|Safari)\//.exec(agent)?.[1] ?? "")
    .replace("Edg", "Edge")
    .replace("OPR", "Opera");
  const system = /(Windows|Android|iPhone|iPad|Mac OS X|Linux)/.exec(agent)?.[1] ?? "";
  return browser === ""
    ? agent === ""
      ? t("accounts.aProgram")
      : agent.slice(0, 40)
    : t("accounts.on", { browser, system });
}
