import { Link } from "react-router";
import { counted } from "@amigo/core/text/sentence";
import { may } from "@amigo/core/access/may";
import { useMe } from "../data/me";
import { moment } from "../ui/time";
import { usePulseQuery } from "../data/accounts";

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
          {
            count: pulse.guards,
            bold: counted(pulse.guards, "safety check"),
            rest: "to confirm",
            to: "/changes",
            urgent: true,
          },
          {
            count: pulse.outOfStep,
            bold: counted(pulse.outOfStep, "list"),
            rest: "out of step",
            to: coordinator ? "/changes" : "/",
            urgent: false,
          },
          {
            count: pulse.held,
            bold: counted(pulse.held, "mail"),
            rest: "held",
            to: "/mail/held",
            urgent: false,
          },
          {
            count: pulse.toApprove,
            bold: counted(pulse.toApprove, "row"),
            rest: "to approve",
            to: "/intakes",
            urgent: false,
          },
          {
            count: pulse.requests,
            bold: counted(pulse.requests, "request"),
            rest: "to answer",
            to: "/requests",
            urgent: false,
          },
          ...pulse.failing.map(({ id, name, since }) => ({
            count: 1,
            bold: name,
            rest: `not imported since ${moment(since, me.timeZone)}`,
            to: `/sources/${id}`,
            urgent: true,
          })),
          {
            count: pulse.questions,
            bold: counted(pulse.questions, "question"),
            rest: "waiting",
            to: "/people?show=questions",
            urgent: false,
          },
          {
            count: pulse.faults,
            bold: counted(pulse.faults, "address", "addresses"),
            rest: "to fix in the sheets",
            to: "/sources",
            urgent: false,
          },
          {
            count: pulse.undelivered,
            bold: counted(pulse.undelivered, "mail"),
            rest: "not delivered",
            to: "/mail",
            urgent: true,
          },
        ].filter(({ count }) => count > 0);
  return (
    <header className="flex h-[38px] shrink-0 items-center gap-5 overflow-x-auto bg-pulse px-3 text-[13px] [scrollbar-width:none] md:px-5 text-pulse-ink">
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
      {pulse !== undefined && signals.length === 0 && <span>Nothing needs your attention.</span>}
      {isStaff && (
        <button
          type="button"
          onClick={onFind}
          className="ml-auto flex h-[26px] w-[250px] shrink-0 items-center max-md:hidden justify-between rounded-md border border-white/20 bg-white/10 px-2.5 text-left text-pulse-ink hover:bg-white/15 focus-visible:outline-white"
        >
          Find a list, class, person …<kbd>Ctrl K</kbd>
        </button>
      )}
      <span className={`whitespace-nowrap max-md:hidden ${isStaff ? "" : "ml-auto"}`}>
        Season <b className="font-semibold text-white">{me.season.replace("-", "–")}</b>
      </span>
    </header>
  );
}
