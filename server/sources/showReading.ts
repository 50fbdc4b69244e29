import type { getReading, getReadingRows } from "@amigo/contract/readings";
import type { Context } from "../context";
import { orRefuse } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { listReadRows } from "../facts/rowQueries";

const ROWS_AT_ONCE = 500;

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
  const { sheet, from } = query;
  const rows = await listReadRows(db, params.id, { sheet, from, until: from + ROWS_AT_ONCE });
  return rows.map(({ row, cells }) => ({ row, cells }));
}
