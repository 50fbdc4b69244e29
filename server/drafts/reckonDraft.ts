import { languageOfText, versionsOf } from "./versionsOf";
import type { FamilyLanguage } from "@amigo/language/families";
import { languagesOf, usualLanguage } from "../texts/familyLanguage";
import { Refused } from "../refused";
import { say, said } from "@amigo/language/say";
import { isInside } from "@amigo/core/address/isInside";
import { asksBefore } from "@amigo/core/mail/asksBefore";
import { mergeFieldsIn } from "@amigo/core/mail/merge";
import type { DraftContent, DraftReckoning } from "@amigo/contract/drafts";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { gettingOtherwise, refuseUnsendable, resolveDraft, type ResolvedDraft } from "./resolve";
import { textOf } from "./draftHtml";
import { mayLeadOf } from "./mayLead";
import { t } from "../texts/t";
import { listOldSeasons, findLargestPost } from "./queries";
import { insideDomains } from "../db/insideDomains";

/** What a draft would reach, what stands in its way, and what is to be asked before it goes. Faults are sentences, not refusals: one is still writing. */
export async function reckonDraft(
  db: Queries,
  caller: Caller,
  content: DraftContent,
  files: number,
): Promise<DraftReckoning | Refused> {
  const empty: DraftReckoning = {
    addresses: 0,
    families: 0,
    unreachable: 0,
    twice: 0,
    digests: 0,
    resting: 0,
    stopped: 0,
    refused: [],
    notes: [],
    missingLanguages: [],
    usualLanguage: await usualLanguage(db),
    asks: [],
  };
  if (content.to.length + content.cc.length + content.bcc.length === 0) return empty;
  const resolved = await resolveDraft(db, caller, content);
  if (resolved instanceof Refused)
    return resolved.status === 422 ? { ...empty, refused: [say(resolved.detail)] } : resolved;
  const ids = resolved.lists.map(({ list }) => list.id);
  const wrong = refuseUnsendable(resolved, content, await mayLeadOf(db, caller, ids));
  const refused = wrong === undefined ? [] : [say(wrong.detail)];
  const { lists, people } = resolved;
  const counts = new Map<string, number>();
  for (const address of [
    ...lists.flatMap(({ addresses }) => addresses),
    ...people.map(({ address }) => address),
  ])
    counts.set(address, (counts.get(address) ?? 0) + 1);
  const notes = lists.flatMap(({ list, verdict }) =>
    verdict.outcome === "held"
      ? [t("drafts.itIsHeldUntilA", { title: list.title })]
      : verdict.outcome === "goes out" && verdict.reaches === "leads"
        ? [t("drafts.whatYouWriteReachesThe", { title: list.title })]
        : [],
  );
  return {
    addresses: counts.size,
    families: resolved.families.size,
    unreachable: resolved.unreachable.size,
    twice: [...counts.values()].filter((count) => count > 1).length,
    ...(await gettingOtherwise(db, lists)),
    refused,
    notes,
    missingLanguages: await missingLanguages(db, content, [...counts.keys()]),
    usualLanguage: empty.usualLanguage,
    asks: said(await asksOf(db, caller, content, resolved, [...counts.keys()], files)),
  };
}

/** Returns the languages that recipients are known to read and in which a draft says nothing, the one of most of them first. */
async function missingLanguages(
  db: Queries,
  content: DraftContent,
  addresses: readonly string[],
): Promise<DraftReckoning["missingLanguages"]> {
  const usual = await usualLanguage(db);
  const there = new Set<string>([
    languageOfText(content, usual),
    ...(content.versions ?? []).map(({ language }) => language),
  ]);
  const readBy = await languagesOf(db, addresses);
  const counts = new Map<FamilyLanguage, number>();
  for (const address of addresses) {
    const language = readBy(address);
    if (!there.has(language)) counts.set(language, (counts.get(language) ?? 0) + 1);
  }
  return [...counts]
    .map(([language, count]) => ({ language, addresses: count }))
    .sort((one, other) => other.addresses - one.addresses);
}

/** What is to be asked before a draft goes out. */
export async function asksOf(
  db: Queries,
  caller: Caller,
  content: DraftContent,
  { house: house, lists, people }: ResolvedDraft,
  addresses: readonly string[],
  files: number,
) {
  const inside = await insideDomains(db);
  const over = lists.length === 0 ? [] : await listOldSeasons(db, lists);
  const { rows } = await findLargestPost(db, caller.id);
  const outside = people
    .filter(({ address }) => !isInside(address, inside))
    .map(({ address }) => address);
  return asksBefore({
    seasonsOver: over.map(({ label }) => label),
    addresses: addresses.length,
    mostBefore: rows[0]?.most ?? 0,
    many: house.manyAddresses,
    subject: content.subject,
    text: textOf(content.html),
    attachments: files,
    outside,
    inside: addresses.filter((address) => isInside(address, inside)).length,
    shown: content.shown,
    answersLists: content.answers == null ? [] : lists.map(({ list }) => list.title),
    unknownFields: mergeFieldsIn(
      versionsOf(content, await usualLanguage(db))
        .map(({ subject, text }) => `${subject} ${text}`)
        .join(" "),
    )
      .filter(({ known }) => !known)
      .map(({ field }) => field),
  });
}
