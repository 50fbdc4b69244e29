import type { CauseLine } from "@amigo/contract/causes";
import type { RoundPage } from "@amigo/contract/rounds";
import type { Client } from "./testHouse";

/** A round together with all of its causes. */
export interface WholeRound extends Omit<RoundPage, "causes"> {
  causes: CauseLine[];
}

/** Returns the open round with all of its causes, page by page; null where none is open. */
export async function openRoundOf(client: Client): Promise<WholeRound | null> {
  const { body } = await client.ask<RoundPage | null>("GET", "/api/rounds/open");
  return body === null ? null : withCauses(client, body);
}

/**
 * Returns a round with all of its causes, page by page: the open one, or one by its number.
 *
 * @throws Error where there is no such round
 */
export async function roundOf(
  client: Client,
  number: number | "open" = "open",
): Promise<WholeRound> {
  const { status, body } = await client.ask<RoundPage | null>("GET", `/api/rounds/${number}`);
  if (status !== 200 || body === null) throw new Error(`there is no round ${number}: ${status}`);
  return withCauses(client, body);
}

async function withCauses(client: Client, round: RoundPage): Promise<WholeRound> {
  const causes: CauseLine[] = [];
  let after = "";
  for (;;) {
    const { body } = await client.ask<{ causes: CauseLine[]; next: number | null }>(
      "GET",
      `/api/rounds/${round.number}/causes?limit=200${after}`,
    );
    causes.push(...body.causes);
    if (body.next === null) return { ...round, causes };
    after = `&after=${body.next}`;
  }
}
