import { useState } from "react";
import { FindPeople } from "./FindPeople";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { t } from "../texts/mail";
import { MailText } from "./MailText";
import { FilesField } from "../ui/FilesField";
import { Reckoned } from "./Reckoned";
import { Recipients } from "./Recipients";
import { SendButtons } from "./SendButtons";
import { SenderChoice } from "./SenderChoice";
import { ShelfOffer } from "./ShelfOffer";
import { useDraft } from "./useDraft";
import { useDraftFiles } from "./useDraftFiles";
import { useGivenRecipients } from "./useGivenRecipients";
import { useReckoning } from "./useReckoning";
import { useSending } from "./useSending";
import { useTypedRecipients } from "./useTypedRecipients";
import { WriteHead } from "./WriteHead";

/** Writing a mail: whom it goes to, always with the true count; text, files and pictures; now, at a time, or to oneself first. */
export function WritePage() {
  const draft = useDraft();
  const { content, change, id } = draft;
  const given = useGivenRecipients(change);
  const typed = useTypedRecipients(content, change);
  const reckoning = useReckoning(content, draft.files.length);
  const files = useDraftFiles(draft);
  const sending = useSending(draft, typed, reckoning, files.large.length > 0);
  const [finding, setFinding] = useState(false);
  if (draft.state === "fetching") return <Loading what={t("mail.theDraft")} />;
  return (
    <>
      <WriteHead content={content} draft={draft} change={change} />
      {draft.fault !== "" && (
        <p
          role="alert"
          className="mb-3 max-w-4xl rounded-md border border-marigold-line bg-marigold-soft px-3 py-2"
        >
          <Warn>{t("mail.itWasNotSentAt", { fault: draft.fault })}</Warn>
        </p>
      )}
      <Panel className="grid max-w-4xl gap-x-6 gap-y-3 p-3 md:p-4 2xl:max-w-none 2xl:grid-cols-[minmax(0,64rem)_minmax(22rem,1fr)]">
        <div
          onKeyDown={(event) => {
            if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) {
              event.preventDefault();
              void sending.submit("now");
            }
          }}
          className="flex flex-col gap-3"
        >
          <Recipients
            draft={draft}
            typed={typed}
            autoFocus={given.isFree && draft.state === "empty"}
            onFind={() => setFinding(true)}
          />
          <Reckoned counts={reckoning.counts} isEmpty={reckoning.isEmpty} />
          <MailText
            content={content}
            change={change}
            counts={reckoning.counts}
            focusSubject={given.toList}
            onFiles={files.add}
          />
        </div>
        <div className="flex min-w-0 flex-col gap-3">
          <FilesField
            pathOf={(file) => `/api/drafts/${id}/files/${file}`}
            hint={t("mail.orDropThemHerePictures")}
            files={draft.files.filter(({ cid }) => cid === "")}
            isAdding={files.isAdding}
            onAdd={(added) => void files.add(added, false)}
            onDrop={files.drop}
          />
          <ShelfOffer draft={draft} large={files.large} forgetLarge={files.forgetLarge} />
          <SenderChoice content={content} isEmpty={reckoning.isEmpty} change={change} />
          {typed.unsettled !== "" && (
            <p role="alert" className="text-brick">
              {t("mail.nothingWasSent", { unsettled: typed.unsettled })}
            </p>
          )}
          <FaultLine error={sending.error ?? files.error ?? draft.error ?? given.error} />
          {sending.wasTested && (
            <p role="status" className="text-leaf-ink">
              {t("mail.aTestIsOnIts")}
            </p>
          )}
          <SendButtons draft={draft} reckoning={reckoning} sending={sending} />
        </div>
      </Panel>
      {finding && (
        <FindPeople
          onClose={() => setFinding(false)}
          onTake={(people) => {
            setFinding(false);
            const there = new Set(content.to.map((target) => target.id));
            change({ to: [...content.to, ...people.filter((person) => !there.has(person.id))] });
          }}
        />
      )}
    </>
  );
}
