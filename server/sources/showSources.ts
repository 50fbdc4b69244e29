import type { getSources, getSource } from "@amigo/contract/sources";
import type { getHelped, getSamples } from "@amigo/contract/readings";
import type { Context } from "../context";
import { notFound } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { readingLines } from "../facts/readingQueries";
import { helpedSources } from "./addRows";
import { sourceLines } from "./sourceLines";
import { findSource } from "./queries";
import { loadHouse } from "../db/houseQueries";

/** Returns the sources of the current season. */
export async function showSources({ db }: Context): Promise<Answer<typeof getSources>> {
  return sourceLines(db);
}

/** Returns one source with its readings, newest first, and the plan of the last. */
export async function showSource(
  { db }: Context,
  { params }: Request<typeof getSource>,
): Promise<Answer<typeof getSource>> {
  const found = await findSource(db, params.id);
  if (found === undefined) throw notFound("source");
  const lines = await readingLines(db, { source: found.id });
  return { ...found, plan: lines[0]?.plan ?? null, readings: lines.map(({ line }) => line) };
}

/** Returns the sheets to which the asker may add rows. */
export async function showHelped(
  { db }: Context,
  { caller }: Request<typeof getHelped>,
): Promise<Answer<typeof getHelped>> {
  return helpedSources(db, caller);
}

/** Returns the demo house's sample sheets; none in any other house. */
export async function listSamples({ db, demo }: Context): Promise<Answer<typeof getSamples>> {
  const found = await loadHouse(db);
  return found?.demo === true ? [...(demo?.samples ?? [])] : [];
}
