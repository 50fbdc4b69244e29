import type { postWelcomePreview } from "@amigo/contract/members";
import { type Greeted, welcomeNote } from "@amigo/core/mail/greetings";
import { welcomeFaults } from "@amigo/core/mail/welcomeText";
import { said } from "@amigo/language/say";
import type { Context } from "../context";
import { orRefuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { greetedAt, greetingOf } from "../membership/greetingOf";
import { knownAddresses } from "../membership/knownPeople";
import { loadList } from "../membership/loadList";
import { t } from "../texts/t";
import { memberTable, filterMembers } from "./memberTable";
import { findAnyList } from "./queries";
import { loadHouse } from "../db/houseQueries";

/** Returns a welcome as a member of a list would get it, without sending it. */
export async function previewWelcome(
  context: Context,
  { body, caller }: Request<typeof postWelcomePreview>,
): Promise<Answer<typeof postWelcomePreview>> {
  const { db } = context;
  const [first] = body.list !== null ? [{ id: body.list }] : await findAnyList(db, caller);
  if (first === undefined) throw new Refusal(422, "welcome/no-list", t("lists.thereIsNoListYet"));
  const found = orRefuse(await loadList(db, first.id, caller));
  const house = await loadHouse(db);
  if (house === undefined) throw new Refusal(503, "not-set-up", t("shared.thisHouseIsNotSet"));
  const members = await memberTable(db, found, undefined);
  const [member] = body.as.trim() === "" ? members : filterMembers(members, body.as);
  const address = member?.address ?? body.as.trim();
  // Who is behind an address that isn't on the list is told to those who may know of that person.
  const isKnown = member !== undefined || (await knownAddresses(db, caller))(address);
  const greeted: ReadonlyMap<string, Greeted> = isKnown
    ? await greetedAt(db, found, [address], house.name)
    : new Map();
  const note = welcomeNote(
    await greetingOf(db, found, house, context.settings.url, body.text),
    greeted.get(address) ?? {},
  );
  return {
    ...said(note),
    to: address === "" ? t("lists.somebodyWhomNobodyKnows") : address,
    list: found.title,
    faults: said(welcomeFaults(body.text)),
  };
}
