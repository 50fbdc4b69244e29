import { useEffect } from "react";
import { usePreviewMutation } from "../data/drafts";
import { Choice } from "../ui/Choice";
import { MailFrame } from "./MailFrame";
import { Modal } from "../ui/Modal";
import { FaultLine, Loading } from "../ui/Page";
import { Rich, t } from "../texts/mail";

/** A mail as any one of its recipients gets it. */
export function PreviewDialog({ id, onClose }: { id: string; onClose: () => void }) {
  const [preview, { data, error }] = usePreviewMutation();
  useEffect(() => {
    void preview({ id, address: "" });
  }, [id, preview]);
  return (
    <Modal title={t("mail.asItArrives")} onClose={onClose} wide>
      <FaultLine error={error} />
      {data === undefined ? (
        error === undefined && <Loading what={t("mail.thePreview")} />
      ) : (
        <div className="flex flex-col gap-2.5">
          {data.recipients.length > 0 && (
            <p className="flex items-center gap-2">
              <Rich
                id="mail.for"
                choice={
                  <Choice
                    label={t("mail.recipient")}
                    value={data.shownTo}
                    onChange={(address) => void preview({ id, address })}
                    options={data.recipients.map(({ address, name }) => ({
                      value: address,
                      name: name === "" ? address : `${name}, ${address}`,
                    }))}
                  />
                }
              />
            </p>
          )}
          <dl className="grid grid-cols-[4.5rem_minmax(0,1fr)] gap-x-2 text-[13px]">
            <dt className="text-ink-3">{t("mail.from")}</dt>
            <dd className="wrap-anywhere">{data.from}</dd>
            <dt className="text-ink-3">{t("mail.to2")}</dt>
            <dd className="wrap-anywhere">{data.to}</dd>
            <dt className="text-ink-3">{t("mail.subject")}</dt>
            <dd className="font-[620]">{data.subject}</dd>
          </dl>
          <MailFrame html={data.html} title={t("mail.theMail2")} className="min-h-56" />
          <details className="text-[13px]">
            <summary className="text-petrol">{t("mail.asPlainTextForPrograms")}</summary>
            <pre className="mt-1 max-h-48 overflow-auto rounded border border-hair bg-sunk p-2 whitespace-pre-wrap">
              {data.text}
            </pre>
          </details>
        </div>
      )}
    </Modal>
  );
}
