import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { howToLeave, type Greeted, type GreetingOf } from "@amigo/core/mail/greetings";
import type { Queries } from "../db/connect";
import { standingIndex } from "../facts/standing";
import { fieldsFor } from "./fieldsFor";
import type { house } from "../db/schema/house";
import type { list } from "../db/schema/lists";
import { onShelf } from "./onShelf";
import { listLeadNamesOf, listRowsOf } from "./queries";

/** What a greeting says of a list, in the words of an intake where it has any, else in the list's own. */
export async function greetingOf(
  db: Queries,
  of: Pick<typeof list.$inferSelect, "id" | "title" | "name" | "description" | "rules">,
  settings: Pick<typeof house.$inferSelect, "name" | "listDomain" | "timeZone">,
  url: string,
  words: string,
): Promise<GreetingOf> {
  const leads = (await listLeadNamesOf(db, of.id)).map(({ name }) => name);
  return {
    house: settings.name,
    title: of.title,
    address: `${of.name}@${settings.listDomain}`,
    description: of.description,
    welcome: words.trim() === "" ? of.rules.welcome : words,
    lead: say(each(leads)),
    page: `${url}/member`,
    shelf: (await onShelf(db, of.id, settings.timeZone, url))
      .map(({ title, link }) => `${title}\r\n  ${link}`)
      .join("\r\n"),
    howToLeave: say(
      howToLeave(
        { title: of.title, name: of.name, domain: settings.listDomain, leaving: of.rules.leaving },
        leads,
        settings.name,
      ),
    ),
  };
}

/** Who is greeted at some addresses of a list: by the house's facts, or by the name that an intake gives them. */
export async function greetedAt(
  db: Queries,
  of: Pick<typeof list.$inferSelect, "id" | "seasonId">,
  addresses: readonly string[],
  house: string,
): Promise<Map<string, Greeted>> {
  const known = fieldsFor(addresses, await standingIndex(db, of.seasonId), house);
  const rows = await listRowsOf(db, of.id);
  const named = new Map(rows.map(({ address, cells }) => [address, cells.person]));
  return new Map(
    addresses.map((address) => {
      const fields = known.get(address);
      const name = named.get(address) ?? "";
      return [
        address,
        (fields?.name ?? "") !== "" || name === ""
          ? (fields ?? {})
          : { ...fields, "first name": name.split(" ")[0] ?? "", name },
      ];
    }),
  );
}
