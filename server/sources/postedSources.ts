import { type postPosted, type postPostedAddress } from "@amigo/contract/sources";
import type { Context } from "../context";
import { notify } from "../events/events";
import { Refusal, notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { record } from "../events/record";
import { t } from "../texts/t";
import { newPostedAddress } from "./postedAnswers";
import { storePostedSource, findPostedSource } from "./postedQueries";
import { needCurrentSeason } from "../facts/needCurrentSeason";

/** Makes a source to whose secret address a form tool posts answers. */
export async function makePostedSource(
  context: Context,
  { body, caller }: Request<typeof postPosted>,
): Promise<Answer<typeof postPosted>> {
  const { db } = context;
  const current = await needCurrentSeason(db);
  return db.transaction(async (tx) => {
    const made = await storePostedSource(tx, body.name, current.id);
    if (made === undefined)
      throw new Refusal(
        409,
        "source/name-taken",
        t("sources.thereIsASourceCalled2", { name: body.name }),
        "name",
      );
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "make source",
      sentence: () => t("sources.madeTheSourceToWhich", { name: caller.name, source: body.name }),
      after: { source: made.id },
    });
    await notify(tx, "sources");
    return { id: made.id, url: await newPostedAddress(tx, made.id, context.settings.url) };
  });
}

/** Makes a new secret address for a source that is posted to; the old one stops working. */
export async function renewPostedAddress(
  context: Context,
  { params, caller }: Request<typeof postPostedAddress>,
): Promise<Answer<typeof postPostedAddress>> {
  const { db } = context;
  const found = await findPostedSource(db, params.id);
  if (found === undefined) throw notFound("source");
  await record(db, {
    actorId: caller.id,
    actor: caller.name,
    action: "new address",
    sentence: () => t("sources.gaveTheSourceANew", { name: caller.name, source: found.name }),
    after: { source: params.id },
  });
  return { url: await newPostedAddress(db, params.id, context.settings.url) };
}
