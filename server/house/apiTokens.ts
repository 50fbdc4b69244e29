import { type getTokens, type postToken, type deleteToken } from "@amigo/contract/house";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { day } from "@amigo/language/message";
import { makeToken } from "../callers/tokens";
import type { Context } from "../context";
import { Refusal, notFound } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { record } from "../events/record";
import { t } from "../texts/t";
import { listApiTokens, storeApiToken, revokeApiToken } from "./queries";
import { loadHouse } from "../db/houseQueries";

/** For how many years an API token may work. */
const MOST_YEARS = 2;

const yearsOn = (day: string, years: number): string =>
  `${Number(day.slice(0, 4)) + years}${day.slice(4)}`;

/** Returns API tokens that are in force. */
export async function listTokens({ db }: Context): Promise<Answer<typeof getTokens>> {
  const rows = await listApiTokens(db);
  return rows.map((row) => ({
    ...row,
    createdAt: row.createdAt.toISOString(),
    lastUsedAt: row.lastUsedAt?.toISOString() ?? null,
  }));
}

/** Makes an API token; it is shown this once. */
export async function makeApiToken(
  { db }: Context,
  { body, caller }: Request<typeof postToken>,
): Promise<Answer<typeof postToken>> {
  const house = await loadHouse(db);
  const today = dayIn(house?.timeZone ?? "UTC", new Date());
  if (body.lastDay < today || body.lastDay > yearsOn(today, MOST_YEARS))
    throw new Refusal(
      422,
      "token/last-day",
      t("house.chooseALastDayFrom", { most: MOST_YEARS }),
      "lastDay",
    );
  const token = `amigo_${makeToken()}`;
  const made = await storeApiToken(db, body.name, body.scopes, body.lastDay, token, caller.id);
  await record(db, {
    actorId: caller.id,
    actor: caller.name,
    action: "make token",
    sentence: () =>
      t("house.madeTheApiTokenUntil", {
        name: caller.name,
        token: body.name,
        lastDay: day(body.lastDay),
        scopes: body.scopes.join(", "),
      }),
  });
  return { id: made?.id ?? "", token };
}

/** Revokes an API token. */
export async function revokeToken(
  { db }: Context,
  { params, caller }: Request<typeof deleteToken>,
): Promise<Answer<typeof deleteToken>> {
  const gone = await revokeApiToken(db, params.id);
  if (gone === undefined) throw notFound("token");
  await record(db, {
    actorId: caller.id,
    actor: caller.name,
    action: "revoke token",
    sentence: () => t("house.revokedTheApiToken", { name: caller.name, token: gone.name }),
  });
  return { done: true as const };
}
