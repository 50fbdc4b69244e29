import { orRefuse } from "../http/fault";
import type { getCorrections, postCorrection, deleteCorrection } from "@amigo/contract/corrections";
import { actorOf } from "../callers/caller";
import type { Context } from "../context";
import type { Answer, Request } from "../http/handler";
import { listAllCorrections } from "./correctionQueries";

/** Returns corrections of all sources, those in force first. */
export async function listCorrections({ db }: Context): Promise<Answer<typeof getCorrections>> {
  const rows = await listAllCorrections(db);
  return rows.map(({ endedAt, ended, at, ...row }) => ({
    ...row,
    at: at.toISOString(),
    ended: endedAt === null ? "" : ended,
  }));
}

/** Reads a cell otherwise than it is written, until the sheet itself changes there. */
export async function correctCell(
  { desk }: Context,
  { body, caller }: Request<typeof postCorrection>,
): Promise<Answer<typeof postCorrection>> {
  return orRefuse(await desk.run("makeCorrection", { actor: actorOf(caller), wanted: body }));
}

/** Ends a correction: the cell is read as it is written. */
export async function endOneCorrection(
  { desk }: Context,
  { params, caller }: Request<typeof deleteCorrection>,
): Promise<Answer<typeof deleteCorrection>> {
  return orRefuse(await desk.run("endCorrection", { actor: actorOf(caller), id: params.id }));
}
