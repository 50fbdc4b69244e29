import type { getReading, getReadingRows } from "@amigo/contract/readings";
import type { Context } from "../context";
import { orRefuse } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { listRows } from "./readingQueries";

/** Returns one reading with its plan and its faults. Its rows are read again for that, so it is done at the desk. */
export async function showReading(
  { desk }: Context,
  { params }: Request<typeof getReading>,
): Promise<Answer<typeof getReading>> {
  return orRefuse(await desk.run("readingPage", { id: params.id }));
}

/** Returns rows of a reading as they were read, 500 at a time. */
export async function showReadingRows(
  { db }: Context,
  { params, query }: Request<typeof getReadingRows>,
): Promise<Answer<typeof getReadingRows>> {
  return listRows(db, params.id, query.sheet, query.from);
}
