import { say } from "@amigo/language/say";
import { shownName } from "@amigo/core/mail/shownName";
import type { Queries } from "../db/connect";
import { findSender, listNamesBehind, listWhoRunsLists } from "../posting/judgeQueries";
import type { IncomingMail } from "./incomingMail";

/** Returns the name under which a writer is shown, and why the name on their mail is not shown. */
export async function showSender(
  db: Queries,
  { name, address }: { name: string; address: string },
  house: string,
  account: IncomingMail["account"],
): Promise<{ name: string; doubt: string | undefined }> {
  if (account !== undefined) return { name: account.name, doubt: undefined };
  const known = {
    account: (await findSender(db, address))?.name,
    people: await listNamesBehind(db, address),
  };
  const isKnown = known.account !== undefined || known.people.length > 0;
  const guarded =
    isKnown || name === ""
      ? []
      : [...(await listWhoRunsLists(db)), { name: house, is: "house" as const }];
  const shown = shownName(name, known, guarded);
  return {
    name: say(shown.name),
    doubt: shown.doubt === undefined ? undefined : say(shown.doubt),
  };
}
