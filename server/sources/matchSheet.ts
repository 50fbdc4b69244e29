import { type getKnownWords, type postMatch } from "@amigo/contract/sources";
import type { Context } from "../context";
import type { Answer, Request } from "../http/handler";
import { knownWords } from "./knownWords";

export async function showKnownWords({ db }: Context): Promise<Answer<typeof getKnownWords>> {
  return knownWords(db);
}

export async function matchSheet(
  { desk }: Context,
  { body: { columns, others, ...sheet } }: Request<typeof postMatch>,
): Promise<Answer<typeof postMatch>> {
  return desk.run("matchSources", {
    plan: { columns, ...(others === undefined ? {} : { others }) },
    ...sheet,
  });
}
