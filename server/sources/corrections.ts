import {
  type getCorrections,
  type postCorrection,
  type deleteCorrection,
} from "@amigo/contract/sources";
import { actorOf } from "../callers/caller";
import type { Context } from "../context";
import type { Answer, Request } from "../http/handler";
import { listAllCorrections } from "./correctionQueries";

export async function listCorrections({ db }: Context): Promise<Answer<typeof getCorrections>> {
  const rows = await listAllCorrections(db);
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
