import { type postFormPreview } from "@amigo/contract/forms";
import { wordsIn } from "@amigo/core/forms/form";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { formFields, familyPage } from "./formPage";
import { choicesOf } from "./queries";
import { loadCurrentSeason, loadHouse } from "../db/houseQueries";

/** Returns a form as families see it, without keeping it. */
export async function previewForm(
  { db }: Context,
  { body }: Request<typeof postFormPreview>,
): Promise<Answer<typeof postFormPreview>> {
  const house = await loadHouse(db);
  const current = await loadCurrentSeason(db);
  const words = wordsIn(body.content, body.language);
  const fields = formFields(
    body.content,
    words,
    await choicesOf(db, { seasonId: current?.id ?? 0, content: body.content }),
    { fields: {}, faults: [], action: "", begun: "", mine: "", changes: "", known: false },
    body.content.words.map(({ language }) => ({ code: language, url: "#" })),
  );
  return {
    html: String(
      familyPage(words.title, words.language, house?.name ?? "", fields, { script: false }),
    ),
  };
}
