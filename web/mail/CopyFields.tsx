import type { Dispatch, SetStateAction } from "react";
import type { DraftContent } from "@amigo/contract/drafts";
import { t } from "../texts/t";
import { TargetField } from "./TargetField";

export function CopyFields({
  texts,
  setUnsettled,
  setTexts,
  content,
  change,
  leaving,
}: {
  texts: { to: string; cc: string; bcc: string };
  setUnsettled: Dispatch<SetStateAction<string>>;
  setTexts: Dispatch<SetStateAction<{ to: string; cc: string; bcc: string }>>;
  content: DraftContent;
  change: (part: Partial<DraftContent>) => void;
  leaving: { leftOut: string[]; onLeaveOut: (leftOut: string[]) => void };
}) {
  return (
    <>
      <TargetField
        label={t("mail.cc")}
        text={texts.cc}
        onText={(cc) => {
          setUnsettled("");
          setTexts((before) => ({ ...before, cc }));
        }}
        targets={content.cc}
        onChange={(cc) => change({ cc })}
        leaving={leaving}
      />
      <TargetField
        label={t("mail.bcc")}
        text={texts.bcc}
        onText={(bcc) => {
          setUnsettled("");
          setTexts((before) => ({ ...before, bcc }));
        }}
        targets={content.bcc}
        onChange={(bcc) => change({ bcc })}
        leaving={leaving}
      />
    </>
  );
}
