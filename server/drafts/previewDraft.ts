import { languageOf, usualLanguage } from "../texts/familyLanguage";
import { orRefuse } from "../http/fault";
import type { postPreview } from "@amigo/contract/drafts";
import { filledVersions } from "@amigo/core/mail/merge";
import { inTurnFor, joinVersions } from "@amigo/core/mail/versions";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { fieldsFor } from "../membership/fieldsFor";
import { knownAddresses } from "../membership/knownPeople";
import { namesBehind } from "../membership/namesBehind";
import { seesMembers } from "../membership/scope";
import { versionsOf } from "./versionsOf";
import { resolveDraft } from "./resolve";
import { ownDraft } from "./sendDraft";
import { loadCurrentSeason } from "../db/houseQueries";

/** Returns a draft as one recipient gets it. */
export async function previewDraft(
  { db }: Context,
  { params, body, caller }: Request<typeof postPreview>,
): Promise<Answer<typeof postPreview>> {
  const draft = orRefuse(await ownDraft(db, caller, params.id));
  const resolved = orRefuse(await resolveDraft(db, caller, draft.content));
  // Of a list whose members the writer may not see, nobody is shown; how many they are is told by the reckoning.
  const isSeen = await seesMembers(
    db,
    caller,
    resolved.lists.map(({ list: { id } }) => id),
  );
  const addresses = [
    ...new Set([
      ...resolved.people.map(({ address }) => address),
      ...resolved.lists.flatMap((one) => (isSeen.has(one.list.id) ? one.addresses : [])),
    ]),
  ];
  const mayLearn = await knownAddresses(db, caller);
  const seasonRow = await loadCurrentSeason(db);
  const names = await namesBehind(db, seasonRow?.id ?? 0, addresses.slice(0, 500));
  const recipients = addresses.slice(0, 500).map((address) => ({
    address,
    name:
      resolved.people.find((one) => one.address === address)?.name ||
      (mayLearn(address) ? (names.get(address)?.name ?? "") : ""),
  }));
  const chosen = addresses.includes(body.address) ? body.address : (addresses[0] ?? caller.email);
  const fields = fieldsFor([chosen], resolved.known, resolved.house.name).get(chosen) ?? {};
  const of = resolved.lists.find((one) => one.addresses.includes(chosen));
  const { subject, html, text } = joinVersions(
    filledVersions(
      inTurnFor(versionsOf(draft.content, await usualLanguage(db)), await languageOf(db, chosen)),
      fields,
    ),
  );
  const asList = draft.content.as === "list" || of?.list.rules.from === "list";
  const footer =
    of === undefined || of.list.rules.footer === "" ? "" : `\n\n-- \n${of.list.rules.footer}`;
  return {
    shownTo: chosen,
    subject,
    recipients,
    html,
    text: `${text}${footer}`,
    from:
      of === undefined
        ? `${caller.name} <${caller.email}>`
        : `${asList ? of.list.title : `${caller.name} via ${of.list.title}`} <${of.list.name}@${of.list.listDomain}>`,
    to:
      of === undefined
        ? draft.content.shown
          ? resolved.people
              .filter(({ place }) => place !== "bcc")
              .map(({ address }) => address)
              .join(", ")
          : chosen
        : `${of.list.title} <${of.list.name}@${of.list.listDomain}>`,
  };
}
