import type { MergeParts } from "../db/schema/posts";
import { fieldValue, splitMessage } from "@amigo/core/mail/splitMessage";
import { fillMerge, mergeFieldsIn } from "@amigo/core/mail/merge";
import { joinVersions, type Version } from "@amigo/core/mail/versions";
import type { DraftContent } from "@amigo/contract/drafts";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { composeMail } from "../posting/composeMail";
import { withParts } from "./draftHtml";
import type { ResolvedDraft } from "./resolve";
import type { draft, draftFile } from "../db/schema/drafts";
import { findAnswered } from "./queries";

export type DraftRow = typeof draft.$inferSelect;

const MOST_REFERENCES = 30;

/** The mail that a draft answers, as far as its writer may see it; what is no longer kept is answered without its thread. */
export async function answeredBy(
  db: Queries,
  caller: Caller,
  { answers }: DraftContent,
): Promise<{ messageId: string; references: string[] } | undefined> {
  // Drafts from before there were answers do not say so.
  if (answers == null) return undefined;
  const found = await findAnswered(db, answers, caller);
  if (found === undefined) return undefined;
  const before = fieldValue(splitMessage(found.head), "references") ?? "";
  return {
    messageId: found.messageId,
    references: [...before.matchAll(/<[^<>\s]+>/g)].map(([id]) => id).slice(-MOST_REFERENCES),
  };
}

/** The mail as MIME, its fields filled in with nothing and its languages in their writer's order; and what each copy is made from where not all are alike. */
export async function composeDraft(
  caller: Caller,
  content: DraftContent,
  written: readonly Version[],
  files: readonly (typeof draftFile.$inferSelect)[],
  { house, lists, people }: ResolvedDraft,
  answers?: { messageId: string; references: string[] },
) {
  const versions = written.map((version) => ({ ...version, html: withParts(version.html, files) }));
  const parts = joinVersions(versions);
  const hasFields = versions.some(({ subject, text }) =>
    mergeFieldsIn(`${subject} ${text}`).some(({ known }) => known),
  );
  const merge: MergeParts | null =
    versions.length > 1 ? { ...parts, versions } : hasFields ? parts : null;
  const head = (place: "to" | "cc") => [
    ...lists
      .filter((draftList) => draftList.place === place)
      .map(({ list }) => ({ name: list.title, address: `${list.name}@${house.listDomain}` })),
    ...(content.shown
      ? people
          .filter((person) => person.place === place)
          .map(({ name, address }) => ({ name, address }))
      : []),
  ];
  const to = head("to");
  const made = await composeMail({
    from: { name: caller.name, address: caller.email },
    to: to.length === 0 ? [{ name: caller.name, address: caller.email }] : to,
    cc: head("cc"),
    subject: fillMerge(parts.subject, {}, "text"),
    text: fillMerge(parts.text, {}, "text"),
    html: fillMerge(parts.html, {}, "html"),
    domain: house.listDomain,
    ...(versions.length > 1
      ? { fields: { "Content-Language": versions.map(({ language }) => language).join(", ") } }
      : {}),
    ...(answers === undefined ? {} : { answers }),
    attachments: files.map(({ name, type, content: octets, cid }) => ({
      name,
      type,
      content: octets,
      cid,
    })),
  });
  return { ...made, merge, hasFields };
}
