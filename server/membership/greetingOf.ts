import { each } from "@amigo/language/message";
import { and, eq } from "drizzle-orm";
import { say } from "@amigo/language/say";
import { howToLeave, type Greeted, type GreetingOf } from "@amigo/core/mail/greetings";
import type { Queries } from "../db/connect";
import { standingIndex } from "../facts/standing";
import { fieldsFor } from "./fieldsFor";
import { accountInForce } from "../callers/inForce";
import type { house } from "../db/schema/house";
import { account } from "../db/schema/accounts";
import { type list, listRole } from "../db/schema/lists";
import { intakeRow } from "../db/schema/intakes";

/** What a greeting says of a list, in the words of an intake where it has any, else in the list's own. */
export async function greetingOf(
  db: Queries,
  of: Pick<typeof list.$inferSelect, "id" | "title" | "name" | "description" | "rules">,
  own: Pick<typeof house.$inferSelect, "name" | "listDomain">,
  url: string,
  words: string,
): Promise<GreetingOf> {
  const leads = (
    await db
      .select({ name: account.name })
      .from(listRole)
      .innerJoin(account, eq(account.id, listRole.accountId))
      .where(and(eq(listRole.listId, of.id), eq(listRole.role, "lead"), accountInForce))
      .orderBy(account.name)
  ).map(({ name }) => name);
  return {
    house: own.name,
    title: of.title,
    address: `${of.name}@${own.listDomain}`,
    description: of.description,
    welcome: words.trim() === "" ? of.rules.welcome : words,
    lead: say(each(leads)),
    page: `${url}/member`,
    howToLeave: say(
      howToLeave(
        { title: of.title, name: of.name, domain: own.listDomain, leaving: of.rules.leaving },
        leads,
        own.name,
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
  const rows = await db
    .select({ address: intakeRow.address, cells: intakeRow.cells })
    .from(intakeRow)
    .where(eq(intakeRow.listId, of.id));
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
