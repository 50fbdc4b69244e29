import type { JobName } from "@amigo/core/jobs/recurring";
import type { Context } from "../context";
import { describeFailure } from "../describeFailure";
import { storeBegin, storeEnd } from "./jobQueries";

/**
 * Does a job, and writes down when it began and ended and what came of it, for the table in Settings and the log.
 *
 * @throws whatever the job throws, so that it is tried again at its next time
 */
export async function runJob(
  context: Pick<Context, "db" | "log">,
  name: JobName,
  work: () => Promise<unknown>,
): Promise<void> {
  const { db, log } = context;
  const began = new Date();
  // Where the database can't write it down, the work may still succeed or say why not.
  await storeBegin(db, name, began).catch(() => undefined);
  const ended = async (failure: string): Promise<void> => {
    const at = new Date();
    const took = at.getTime() - began.getTime();
    await storeEnd(db, name, { at, took, failure }).catch(() => undefined);
    log[failure === "" ? "info" : "error"](
      { job: name, ms: took, ...(failure === "" ? {} : { failure }) },
      failure === "" ? "a job was done" : "a job failed",
    );
  };
  try {
    await work();
  } catch (failure) {
    await ended(describeFailure(failure));
    throw failure;
  }
  await ended("");
}
