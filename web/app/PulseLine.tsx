import { Link } from "react-router";
import { may } from "@amigo/core/access/may";
import { useMe } from "../data/me";
import { moment } from "../ui/time";
import { usePulseQuery } from "../data/accounts";
import { Rich, t } from "../texts/app";
import type { Me } from "@amigo/contract/accounts";
import type { Pulse } from "@amigo/contract/house";

/** The dark line on top of every page: what needs somebody now. */
export function PulseLine({ onFind }: { onFind: () => void }) {
  const me = useMe();
  const isStaff = may(me.role, "see the board");
  const { data: pulse } = usePulseQuery(undefined, { skip: !isStaff });
  const coordinator = me.role === "coordinator";
  const signals =
    pulse === undefined
      ? []
      : [
          ...(pulse.pausedBy === ""
            ? []
            : [
                {
                  count: 1,
                  bold: t("app.sendingIsPaused"),
                  rest: t("app.pausedByWhom", { who: pulse.pausedBy }),
                  to: may(me.role, "see the house") ? "/house?tab=mail" : "/mail",
                  urgent: true,
                },
              ]),
          ...(pulse.relayAway === null
            ? []
            : [
                {
                  count: 1,
                  bold: t("app.noMailGoesOut"),
                  rest: t("app.relayAwaySince", {
                    when: moment(pulse.relayAway.since, me.timeZone),
                  }),
                  to: "/house?tab=mail",
                  urgent: true,
                },
              ]),
          {
            count: pulse.failedAtOnce,
            bold: t("app.addressesAtOnce", { count: pulse.failedAtOnce }),
            rest: t("app.failedAtOnce"),
            to: "/reach",
            urgent: true,
          },
          {
            count: pulse.guards,
            bold: t("app.safetyChecks", { guards: pulse.guards }),
            rest: t("app.toConfirm"),
            to: "/changes",
            urgent: true,
          },
          {
            count: pulse.outOfStep,
            bold: t("app.lists", { outOfStep: pulse.outOfStep }),
            rest: t("app.outOfStep"),
            to: coordinator ? "/changes" : "/",
            urgent: false,
          },
          {
            count: pulse.held,
            bold: t("app.mails", { held: pulse.held }),
            rest: t("app.held"),
            to: "/mail/held",
            urgent: false,
          },
          {
            count: pulse.toApprove,
            bold: t("app.rows", { toApprove: pulse.toApprove }),
            rest: t("app.toApprove"),
            to: "/intakes",
            urgent: false,
          },
          {
            count: pulse.requests,
            bold: t("app.requests2", { requests: pulse.requests }),
            rest: t("app.toAnswer"),
            to: "/requests",
            urgent: false,
          },
          ...pulse.failing.map(({ id, name, since }) => ({
            count: 1,
            bold: name,
            rest: t("app.notImportedSince", { when: moment(since, me.timeZone) }),
            to: `/sources/${id}`,
            urgent: true,
          })),
          {
            count: pulse.dates,
            bold: t("app.changedDates", { dates: pulse.dates }),
            rest: t("app.toReview"),
            to: "/dates/import?from=web",
            urgent: false,
          },
          ...pulse.failingDates.map(({ id, name, since }) => ({
            count: 1,
            bold: name,
            rest: t("app.notImportedSince", { when: moment(since, me.timeZone) }),
            to: `/dates/import?watch=${id}`,
            urgent: true,
          })),
          {
            count: pulse.questions,
            bold: t("app.questions", { questions: pulse.questions }),
            rest: t("app.waiting"),
            to: "/people?show=questions",
            urgent: false,
          },
          {
            count: pulse.faults,
            bold: t("app.addresses", { faults: pulse.faults }),
            rest: t("app.toFixInTheSheets"),
            to: "/sources",
            urgent: false,
          },
          {
            count: pulse.undelivered,
            bold: t("app.mails2", { undelivered: pulse.undelivered }),
            rest: t("app.notDelivered"),
            to: "/mail",
            urgent: true,
          },
        ].filter(({ count }) => count > 0);
  return <PulseHeader signals={signals} pulse={pulse} isStaff={isStaff} onFind={onFind} me={me} />;
}

function PulseHeader({
  signals,
  pulse,
  isStaff,
  onFind,
  me,
}: {
  signals: { count: number; bold: string; rest: string; to: string; urgent: boolean }[];
  pulse: Pulse | undefined;
  isStaff: boolean;
  onFind: () => void;
  me: Me;
}) {
  return (
    <header className="flex h-[38px] shrink-0 items-center gap-5 bg-pulse px-3 text-[13px] md:px-5 text-pulse-ink">
      {/* What needs somebody is moved along where there is much of it; finding and the season stay in sight. */}
      <div className="flex h-full min-w-0 flex-1 items-center gap-5 overflow-x-auto [scrollbar-width:none]">
        {signals.map(({ bold, rest, to, urgent }) => (
          <Link
            key={rest}
            to={to}
            className="flex items-center gap-[7px] rounded whitespace-nowrap focus-visible:-outline-offset-2 hover:underline focus-visible:outline-white"
          >
            <i
              aria-hidden="true"
              className="inline-block size-2 rotate-45 rounded-[2px]"
              style={{ background: urgent ? "#E58B7B" : "var(--marigold)" }}
            />
            <span>
              <b className="font-semibold text-white">{bold}</b> {rest}
            </span>
          </Link>
        ))}
        {pulse !== undefined && signals.length === 0 && (
          <span>{t("app.nothingNeedsYourAttention")}</span>
        )}
      </div>
      {isStaff && (
        <button
          type="button"
          onClick={onFind}
          className="flex h-[26px] w-[250px] shrink-0 items-center max-md:hidden justify-between rounded-md border border-white/20 bg-white/10 px-2.5 text-left text-pulse-ink hover:bg-white/15 focus-visible:outline-white"
        >
          {t("app.findAListClassPerson2")}
          <kbd>{t("app.ctrlK")}</kbd>
        </button>
      )}
      <span className="whitespace-nowrap max-md:hidden">
        <Rich
          id="app.season"
          season={<b className="font-semibold text-white">{me.season.replace("-", "–")}</b>}
        />
      </span>
    </header>
  );
}
