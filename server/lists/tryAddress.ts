import type { postTry, postTryAll } from "@amigo/contract/tries";
import { readAddress } from "@amigo/core/address/readAddress";
import { type ListPoint, POINT_WORDS } from "@amigo/core/lists/listPoint";
import type { VerdictReason } from "@amigo/core/posting/verdict";
import { type Message, message } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import type { Context } from "../context";
import { orRefuse, Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { knownAddresses } from "../membership/knownPeople";
import { loadList } from "../membership/loadList";
import { judge, judgeMany } from "../posting/judge";
import { noAddress } from "../texts/noAddress";
import { loadHouse } from "../db/houseQueries";
import { listTried } from "./queries";

/** Returns what would happen to mail of an address to this list. */
export async function tryAddress(
  { db }: Context,
  { params, body, caller }: Request<typeof postTry>,
): Promise<Answer<typeof postTry>> {
  const found = orRefuse(await loadList(db, params.id, caller));
  const read = readAddress(body.address, new Map());
  if (read.answer === "unusable")
    throw new Refusal(422, "try/address", noAddress(body.address, read), "address");
  const { verdict, sight, name } = await judge(db, found, read.address, body.proof, {
    isKnown: await knownAddresses(db, caller),
  });
  return {
    outcome: verdict.outcome,
    reaches: verdict.reaches,
    askSender: verdict.askSender,
    who: name,
    reasons: verdict.reasons.map(({ rule, sentence }) => ({
      rule,
      words: say(RULE_WORDS[rule]),
      sentence,
    })),
    sight: { ...sight, reasons: sight.reasons.map(({ sentence }) => sentence) },
  };
}

/** Returns what would happen to mail of an address, list by list. */
export async function tryAddressEverywhere(
  { db }: Context,
  { body, caller }: Request<typeof postTryAll>,
): Promise<Answer<typeof postTryAll>> {
  const read = readAddress(body.address, new Map());
  if (read.answer === "unusable")
    throw new Refusal(422, "try/address", noAddress(body.address, read), "address");
  const house = await loadHouse(db);
  const rows = await listTried(db, caller);
  const judged = await judgeMany(db, rows, read.address, body.proof, {
    isKnown: await knownAddresses(db, caller),
  });
  return {
    address: read.address,
    who: judged.name,
    lists: rows.map((row) => {
      const { id, title, name } = row;
      const { verdict, sight } = judged.of(row);
      const { reasons: _, ...sees } = sight;
      return {
        id,
        title,
        address: `${name}@${house?.listDomain ?? ""}`,
        outcome: verdict.outcome,
        reaches: verdict.reaches,
        reason: shortReason(verdict.reasons.map(({ sentence }) => sentence)),
        sight: sees,
      };
    }),
  };
}

/** Who they are to the list, and what decided. */
function shortReason(sentences: readonly string[]): string {
  return [...new Set([sentences[0], sentences[sentences.length - 1]])].join(" ");
}

/** How the interface names what a reason rests on. */
const RULE_WORDS: Readonly<Record<VerdictReason["rule"] | ListPoint, Message>> = {
  sender: message("posting.ofTheSender"),
  proof: message("posting.ofTheProof"),
  spam: message("posting.ofSpam"),
  closed: message("posting.ofClosing"),
  ...POINT_WORDS,
};
