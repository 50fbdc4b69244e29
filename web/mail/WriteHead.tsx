import type { DraftContent } from "@amigo/contract/drafts";
import { t } from "../texts/mail";
import { PageHead } from "../ui/Page";
import { Templates } from "./Templates";
import type { OwnDraft } from "./useDraft";

export function WriteHead({
  content,
  draft,
  change,
}: {
  content: DraftContent;
  draft: OwnDraft;
  change: (part: Partial<DraftContent>) => void;
}) {
  return (
    <PageHead
      title={t("mail.write")}
      line={
        content.shown
          ? t("mail.recipientsSeeEachOthersAddresses")
          : t("mail.recipientsDontSeeEachOthers")
      }
    >
      <span role="status" className="text-[13px] text-ink-3">
        {draft.state === "kept"
          ? t("mail.savedAsADraft")
          : draft.state === "writing"
            ? t("mail.notSavedYet")
            : ""}
      </span>
      <Templates
        content={content}
        onTake={({ subject, html }) =>
          change({ html, ...(content.subject === "" ? { subject } : {}) })
        }
      />
    </PageHead>
  );
}
