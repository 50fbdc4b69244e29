import { readAddress } from "@amigo/core/address/readAddress";
import { splitAddresses } from "@amigo/core/address/splitAddresses";
import type { Target, TargetHit } from "@amigo/contract/drafts";
import { t } from "../texts/mail";

/** A recipient of what was found. */
export function targetOf({ kind, id, name, whom }: TargetHit): Target {
  return { kind, id, name, ...(whom === undefined ? {} : { whom }) };
}

/** Takes the addresses in a typed or pasted text as recipients, each once; whatever is no good address is left of the text. */
export function targetsIn(
  text: string,
  there: readonly Target[],
): { targets: Target[]; rest: string } {
  const { pieces, names, leftOver } = splitAddresses(text);
  const seen = new Set(there.filter(({ kind }) => kind === "address").map(({ id }) => id));
  const targets: Target[] = [];
  const rest: string[] = [...leftOver];
  pieces.forEach((piece, at) => {
    const read = readAddress(piece, new Map());
    if (read.answer !== "clean") {
      rest.push(piece);
      return;
    }
    if (seen.has(read.address)) return;
    seen.add(read.address);
    targets.push({ kind: "address", id: read.address, name: names[at] || read.address });
  });
  return { targets, rest: rest.join(", ") };
}

/** Says what is wrong with a text that is no recipient, and what to do. */
export function faultOf(text: string): string {
  const typed = text.trim();
  const read = readAddress(typed, new Map());
  if (typed.includes("@") && read.answer === "probably")
    return t("mail.isntAnAddressDidYou", { typed, address: read.address });
  if (typed.includes("@") && read.answer === "unusable")
    return t("mail.isntAnAddressCorrectIt", { typed, why: read.why });
  return t("mail.isntARecipientYetChoose", { typed });
}
