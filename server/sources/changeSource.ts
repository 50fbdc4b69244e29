import type { putSource } from "@amigo/contract/sources";
import { nextReading } from "@amigo/core/schedule/nextReading";
import type { Context } from "../context";
import { notify } from "../events/events";
import { raiseVersion } from "../facts/queries";
import { refuse, notFound, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { refuseStale } from "../http/version";
import { record } from "../events/record";
import { t } from "../texts/t";
import { sourceLines } from "./sourceLines";
import { sourceSettings } from "./sourceSettings";
import { loadHouse } from "../db/houseQueries";
import { findSource, lockSource, storeSourceSettings } from "./queries";

/** Changes where a source's rows come from, and when it is read by itself. */
export async function changeSource(
  { db, desk }: Context,
  { params, body: { version, ...body }, caller }: Request<typeof putSource>,
): Promise<Answer<typeof putSource>> {
  const house = await loadHouse(db);
  const before = await findSource(db, params.id);
  if (before === undefined) throw notFound("source");
  if ((before.kind === "posted") !== (body.kind === "posted"))
    throw new Refusal(422, "source/of-posted", t("sources.theRowsOfSuchA"), "kind");
  if ((before.kind === "form") !== (body.kind === "form"))
    throw new Refusal(422, "source/of-form", t("sources.aSignUpFormIs"), "kind");
  const itself = body.kind === "watched" || body.kind === "web" ? body.kind : undefined;
  if (itself !== undefined && body.location === "")
    throw new Refusal(
      422,
      "source/no-location",
      itself === "web" ? t("sources.giveTheWebAddressOf") : t("sources.chooseTheFileInThe"),
      "location",
    );
  const nextAt =
    itself === undefined
      ? null
      : (nextReading(body.schedule, itself, new Date(), house?.timeZone ?? "UTC") ?? null);
  const loosened =
    before.limits.sourceShare !== body.limits.sourceShare || before.whole !== body.whole;
  const moved = before.location !== body.location || before.kind !== body.kind;
  await db.transaction(async (tx) => {
    const now = await lockSource(tx, params.id);
    if (now === undefined) throw notFound("source");
    refuseStale(sourceSettings(now), version);
    await storeSourceSettings(tx, body, itself, nextAt, moved, params.id);
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "change source",
      sentence: () => t("sources.changedWhereAndWhenThe", { name: caller.name, source: body.name }),
      before: {
        kind: before.kind,
        location: before.location,
        schedule: before.schedule,
        mode: before.mode,
        whole: before.whole,
      },
      after: body,
    });
    if (loosened) await raiseVersion(tx, before.seasonId, new Set());
    await notify(tx, "sources");
  });
  if (loosened) refuse(await desk.run("reopenRound", undefined));
  const changed = (await sourceLines(db)).find(({ id }) => id === params.id);
  if (changed === undefined) throw notFound("source");
  return changed;
}
