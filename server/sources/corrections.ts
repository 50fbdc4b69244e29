import { eq, sql, desc } from "drizzle-orm";
import {
  type getCorrections,
  type postCorrection,
  type deleteCorrection,
} from "@amigo/contract/sources";
import { actorOf } from "../callers/caller";
import type { Context } from "../context";
import { correction, source } from "../db/schema/sources";
import type { Answer, Request } from "../http/handler";

export async function listCorrections({ db }: Context): Promise<Answer<typeof getCorrections>> {
  const rows = await db
    .select({
      id: correction.id,
      source: source.name,
      place: correction.place,
      who: correction.who,
      written: correction.written,
      read: correction.read,
      by: correction.by,
      at: correction.at,
      endedAt: correction.endedAt,
      ended: correction.ended,
    })
    .from(correction)
    .innerJoin(source, eq(source.id, correction.sourceId))
    .orderBy(sql`${correction.endedAt} is not null`, desc(correction.at))
    .limit(500);
  return rows.map(({ endedAt, ended, at, ...row }) => ({
    ...row,
    at: at.toISOString(),
    ended: endedAt === null ? "" : ended,
  }));
}

export async function correctCell(
  { desk }: Context,
  { body, caller }: Request<typeof postCorrection>,
): Promise<Answer<typeof postCorrection>> {
  return desk.run("makeCorrection", { actor: actorOf(caller), wanted: body });
}

export async function endOneCorrection(
  { desk }: Context,
  { params, caller }: Request<typeof deleteCorrection>,
): Promise<Answer<typeof deleteCorrection>> {
  return desk.run("endCorrection", { actor: actorOf(caller), id: params.id });
}
