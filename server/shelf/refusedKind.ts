import { say } from "@amigo/language/say";
import { wordsOf } from "@amigo/core/posting/rules/allRules";
import { takesFile } from "@amigo/core/shelf/takesFile";
import type { Queries } from "../db/connect";
import { refused, type Refused } from "../refused";
import { safeName } from "../sandbox/safeName";
import { t } from "../texts/t";
import { listPublic } from "./placeQueries";

/** Refuses a file of a kind that one of some lists doesn't take on its shelf, by its rules. Private lists take any. */
export async function refusedKind(
  db: Queries,
  lists: readonly string[],
  sent: string,
): Promise<Refused | undefined> {
  // As it will be called: a long name is cut.
  const name = safeName(sent, 0);
  for (const { title, rules } of await listPublic(db, lists)) {
    if (takesFile(rules.shelfKinds, name)) continue;
    const kinds = say(wordsOf("shelfKinds", rules.shelfKinds));
    return refused(
      422,
      "shelf/kind",
      t("shelf.kindIsRefused", { name, list: title, kinds }),
      "file",
    );
  }
  return undefined;
}
