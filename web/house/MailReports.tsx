import type { MailReports as Reports } from "@amigo/contract/mail";
import { useMailReportsQuery } from "../data/mail";
import { useMe } from "../data/me";
import { Rich, t } from "../texts/house";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { dayOf, today } from "../ui/time";

const KINDS = {
  ours: t("house.reportYourMail"),
  "handed on": t("house.reportForwarded"),
  unsigned: t("house.reportUnsigned"),
  unknown: t("house.reportUnknown"),
} as const;

/** What receivers of the school's mail report by themselves on signatures and encryption, and what to do. */
export function MailReports() {
  const { data, error } = useMailReportsQuery();
  if (data === undefined)
    return error === undefined ? (
      <Loading what={t("house.receiversReports")} />
    ) : (
      <FaultLine error={error} />
    );
  const { proofs, sessions, days } = data;
  const nothing = proofs.length + sessions.problems.length + sessions.encrypted === 0;
  return (
    <Panel className="px-[18px] py-3.5">
      <h2>{t("house.whatReceiversReport")}</h2>
      <p className="mt-1 mb-2 text-[13px] text-ink-2">
        {nothing ? t("house.noReportsYet", { days }) : t("house.receiversReportHelp", { days })}
      </p>
      {proofs.length > 0 && (
        <ul aria-label={t("house.machinesThatSendInYourName")}>
          {proofs.map((row) => (
            <Machine key={`${row.source} ${row.kind}`} of={row} />
          ))}
        </ul>
      )}
      {sessions.problems.length + sessions.encrypted > 0 && (
        <>
          <h3 className="mt-2 border-t border-hair pt-2">{t("house.encryptionOfMailToYou")}</h3>
          <p className="text-[13px]">
            {t("house.encryptedConnections", { count: sessions.encrypted })}
          </p>
          <ul>
            {sessions.problems.map(({ server, problem, sessions: count, ...rest }) => (
              <li key={`${server} ${problem}`} className="border-t border-hair-soft py-2">
                <p className="flex flex-wrap items-baseline gap-x-2">
                  <b className="mono min-w-0 wrap-anywhere">{server}</b>
                  <span className="ml-auto text-[13px]">
                    <Warn>{t("house.failedConnections", { count, problem })}</Warn>
                  </span>
                </p>
                <Advice {...rest} />
              </li>
            ))}
          </ul>
        </>
      )}
    </Panel>
  );
}

function Machine({ of }: { of: Reports["proofs"][number] }) {
  const { source, kind, mails, refused, ...rest } = of;
  const isFine = kind === "ours" || kind === "handed on";
  const mailsText = t("house.mailsReported", { mails, refused });
  return (
    <li className="border-t border-hair-soft py-2">
      <p className="flex flex-wrap items-baseline gap-x-2">
        <b className="mono min-w-0 wrap-anywhere">{source}</b>
        <span className={`text-[13px] ${isFine ? "text-leaf-ink" : "text-marigold-ink"}`}>
          {KINDS[kind]}
        </span>
        <span className="ml-auto text-[13px]">{isFine ? mailsText : <Warn>{mailsText}</Warn>}</span>
      </p>
      <Advice {...rest} />
    </li>
  );
}

function Advice({
  advice,
  reporters,
  last,
}: {
  advice: string;
  reporters: string[];
  last: string;
}) {
  const me = useMe();
  return (
    <p className="text-[13px] text-ink-2">
      <Rich
        id="house.adviceAndWhoReported"
        advice={advice}
        reporters={<span className="mono wrap-anywhere">{reporters.join(", ")}</span>}
        day={dayOf(today(me.timeZone, new Date(last)))}
      />
    </p>
  );
}
