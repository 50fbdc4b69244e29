import { useState } from "react";
import type { Target } from "@amigo/contract/drafts";
import { t } from "../texts/mail";
import { Button } from "../ui/Button";
import { TargetField } from "./TargetField";
import type { OwnDraft } from "./useDraft";
import type { useTypedRecipients } from "./useTypedRecipients";

/** Whom a mail goes to: to, and once they are wanted cc and bcc, typed or found among people. */
export function Recipients({
  draft: { content, change },
  typed,
  autoFocus,
  onFind,
}: {
  draft: OwnDraft;
  typed: ReturnType<typeof useTypedRecipients>;
  autoFocus: boolean;
  /** Opens the search for people. */
  onFind: () => void;
}) {
  const [more, setMore] = useState(false);
  const hasMore = more || content.cc.length + content.bcc.length > 0;
  const field = (name: "to" | "cc" | "bcc") => ({
    text: typed.texts[name],
    onText: (text: string) => typed.type(name, text),
    targets: content[name],
    onChange: (targets: Target[]) => change({ [name]: targets }),
    leaving: {
      leftOut: content.leftOut,
      onLeaveOut: (leftOut: string[]) => change({ leftOut }),
    },
  });
  return (
    <>
      <div className="flex flex-wrap items-start gap-x-2">
        <div className="min-w-0 flex-1 basis-72">
          <TargetField label={t("mail.to2")} autoFocus={autoFocus} {...field("to")} />
        </div>
        {!hasMore && (
          <Button look="quiet" tabIndex={-1} className="mt-6" onClick={() => setMore(true)}>
            {t("mail.ccBcc")}
          </Button>
        )}
        <Button look="quiet" tabIndex={-1} className="mt-6" onClick={onFind}>
          {t("mail.findPeople")}
        </Button>
      </div>
      {hasMore && (
        <>
          <TargetField label={t("mail.cc")} {...field("cc")} />
          <TargetField label={t("mail.bcc")} {...field("bcc")} />
        </>
      )}
    </>
  );
}
