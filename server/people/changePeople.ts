import { noSuch, type Refused } from "../refused";
import type { putAddresses, postJoin, postPart } from "@amigo/contract/people";
import { readAddress } from "@amigo/core/address/readAddress";
import { actorOf, type Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { orRefuse, refuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { peopleOf } from "../membership/scope";
import { noAddress } from "../texts/noAddress";
import { listUnseen } from "./manualQueries";
import { needCurrentSeason } from "../facts/needCurrentSeason";

/** Stores which addresses hold for somebody. */
export async function chooseAddresses(
  { db, desk }: Context,
  { params, body, caller }: Request<typeof putAddresses>,
): Promise<Answer<typeof putAddresses>> {
  refuse(await seen(db, caller, params.id));
  const addresses = body.addresses.map((written) => {
    const read = readAddress(written, new Map());
    if (read.answer !== "clean")
      throw new Refusal(422, "people/address", noAddress(written, read), "addresses");
    return read.address;
  });
  return orRefuse(
    await desk.run("settleByHand", {
      actor: actorOf(caller),
      person: params.id,
      addresses: [...new Set(addresses)],
    }),
  );
}

/** Merges two people into one. */
export async function mergePeople(
  { db, desk }: Context,
  { params, body, caller }: Request<typeof postJoin>,
): Promise<Answer<typeof postJoin>> {
  refuse(await seen(db, caller, params.id, body.other));
  return orRefuse(
    await desk.run("joinPeople", { actor: actorOf(caller), one: params.id, other: body.other }),
  );
}

/** Splits some children or addresses off to another person of that name. */
export async function splitPerson(
  { db, desk }: Context,
  { params, body, caller }: Request<typeof postPart>,
): Promise<Answer<typeof postPart>> {
  refuse(await seen(db, caller, params.id));
  return orRefuse(
    await desk.run("partPerson", { actor: actorOf(caller), person: params.id, ...body }),
  );
}

/** Refuses what is asked of people whom the asker does not see, as if they were not there. */
async function seen(
  db: Queries,
  caller: Caller,
  ...people: readonly string[]
): Promise<Refused | undefined> {
  const within = peopleOf(caller, (await needCurrentSeason(db)).id);
  if (within === undefined) return;
  const { rows } = await listUnseen(db, people, within);
  if (rows.length > 0) return noSuch("person");
}
