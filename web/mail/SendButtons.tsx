import { useState } from "react";
import { t } from "../texts/mail";
import { Button } from "../ui/Button";
import { AskFirst } from "./AskFirst";
import { LaterForm } from "./LaterForm";
import { PreviewDialog } from "./PreviewDialog";
import type { OwnDraft } from "./useDraft";
import type { useReckoning } from "./useReckoning";
import type { useSending } from "./useSending";

/** Sends a mail now or at a time, shows it as it will arrive, or sends it to oneself first. */
export function SendButtons({
  draft,
  reckoning: { counts, isEmpty, isReady, asks },
  sending,
}: {
  draft: OwnDraft;
  reckoning: ReturnType<typeof useReckoning>;
  sending: ReturnType<typeof useSending>;
}) {
  const [planning, setPlanning] = useState(false);
  const [previewing, setPreviewing] = useState(false);
  const { isSending, submit, asking } = sending;
  const isHeldUp = !isReady || isSending || sending.hasWaiting;
  const preview = async (): Promise<void> => {
    if (await draft.keep()) setPreviewing(true);
  };
  return (
    <>
      <div className="flex flex-wrap items-center gap-2">
        <Button look="go" disabled={isHeldUp} onClick={() => void submit("now")}>
          {isSending
            ? t("mail.sending")
            : counts === undefined || counts.addresses === 0
              ? t("mail.send")
              : t("mail.sendToAddresses", { addresses: counts.addresses })}{" "}
          <kbd>{t("mail.ctrl")}</kbd>
        </Button>
        <Button disabled={isHeldUp} onClick={() => setPlanning(!planning)} aria-expanded={planning}>
          {t("mail.sendLater")}
        </Button>
        <Button disabled={isEmpty} onClick={() => void preview()}>
          {t("mail.preview")}
        </Button>
        <Button
          disabled={draft.content.html === "" || isSending}
          onClick={() => void sending.sendTest()}
        >
          {t("mail.sendATestToMe")}
        </Button>
      </div>
      {planning && (
        <LaterForm submit={submit} at={sending.at} setAt={sending.setAt} isReady={isReady} />
      )}
      {previewing && <PreviewDialog id={draft.id} onClose={() => setPreviewing(false)} />}
      {asking !== undefined && (
        <AskFirst setAsking={sending.setAsking} asks={asks} submit={submit} asking={asking} />
      )}
    </>
  );
}
