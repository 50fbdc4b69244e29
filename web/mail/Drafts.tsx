import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { Link } from "react-router";
import { useDraftsQuery, useDropDraftMutation, useUnplanMutation } from "../data/drafts";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Empty, FaultLine, Loading, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { moment } from "../ui/time";
import { Rich, t } from "../texts/mail";
import type { Me } from "@amigo/contract/accounts";

/** What one is writing, and what waits for its time. */
export function Drafts() {
  const me = useMe();
  const { data: drafts, error } = useDraftsQuery();
  const [drop, dropping] = useDropDraftMutation();
  const [unplan, unplanning] = useUnplanMutation();
  if (drafts === undefined)
    return error === undefined ? (
      <Loading what={t("mail.yourDrafts")} />
    ) : (
      <FaultLine error={error} />
    );
  return (
    <>
      <FaultLine error={dropping.error ?? unplanning.error} />
      <Panel className="overflow-hidden">
        {drafts.length === 0 ? (
          <Empty title={t("mail.noDraftWaits")}>
            <p>{t("mail.whatYouWriteIsKept")}</p>
          </Empty>
        ) : (
          <ul>
            {drafts.map(({ id, content, sendAt, changedAt, fault }) => (
              <li
                key={id}
                className="flex items-baseline gap-3 border-b border-hair-soft px-4 py-2 last:border-b-0 hover:bg-sunk"
              >
                <span className="min-w-0 flex-1">
                  <Link
                    to={`/mail/write?draft=${id}`}
                    className="block truncate font-[620] hover:underline"
                  >
                    {content.subject === "" ? t("mail.noSubject") : content.subject}
                  </Link>
                  <span className="block truncate text-[13px] text-ink-2">
                    {say(
                      each([...content.to, ...content.cc, ...content.bcc].map(({ name }) => name)),
                    ) || t("mail.toNobodyYet")}
                  </span>
                  {fault !== "" && (
                    <span className="block text-[13px]">
                      <Warn>{fault}</Warn>
                    </span>
                  )}
                </span>
                {sendAt === null ? (
                  <span className="text-[13px] text-ink-3">
                    {t("mail.changed", { when: moment(changedAt, me.timeZone) })}
                  </span>
                ) : (
                  <PlannedTime
                    sendAt={sendAt}
                    me={me}
                    unplanning={unplanning}
                    unplan={unplan}
                    id={id}
                  />
                )}
                <Button
                  look="quiet"
                  className="min-h-[26px]! text-[13px]"
                  disabled={dropping.isLoading}
                  onClick={() => void drop(id)}
                >
                  <Rich
                    id="mail.throwAway"
                    subject={<span className="sr-only">: {content.subject}</span>}
                  />
                </Button>
              </li>
            ))}
          </ul>
        )}
      </Panel>
    </>
  );
}

function PlannedTime({
  sendAt,
  me,
  unplanning,
  unplan,
  id,
}: {
  sendAt: string;
  me: Me;
  unplanning: ReturnType<typeof useUnplanMutation>[1];
  unplan: ReturnType<typeof useUnplanMutation>[0];
  id: string;
}) {
  return (
    <>
      <b className="font-[620] text-petrol">
        {t("mail.goesOut", { when: moment(sendAt, me.timeZone) })}
      </b>
      <Button
        className="min-h-[26px]! text-[13px]"
        disabled={unplanning.isLoading}
        onClick={() => void unplan(id)}
      >
        {t("mail.notAtThatTime")}
      </Button>
    </>
  );
}
