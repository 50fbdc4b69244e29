import { orRefuse } from "../http/fault";
import type { getKnownWords, postMatch } from "@amigo/contract/readings";
import type { Context } from "../context";
import type { Answer, Request } from "../http/handler";
import { knownWords } from "./knownWords";

/** Returns titles that were read before, and the names of classes, teams, sites and people. */
export async function showKnownWords({ db }: Context): Promise<Answer<typeof getKnownWords>> {
  return knownWords(db);
}

/** Tells which source a sheet continues, before it is imported. */
export async function matchSheet(
  { desk }: Context,
  { body: { columns, others, ...sheet } }: Request<typeof postMatch>,
): Promise<Answer<typeof postMatch>> {
  return orRefuse(
    await desk.run("matchSources", {
      plan: { columns, ...(others === undefined ? {} : { others }) },
      ...sheet,
    }),
  );
}
