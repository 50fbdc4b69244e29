import { useDeferredValue, type ReactNode } from "react";
import { Link, useSearchParams } from "react-router";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import type { TraceInLine, TraceLine } from "@amigo/contract/trace";
import { useMe } from "../data/me";
import { useTraceQuery } from "../data/trace";
import { t } from "../texts/mail";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { fileSize } from "../ui/fileSize";
import { Empty, FaultLine, Loading, Panel } from "../ui/Page";
import { SearchField } from "../ui/SearchField";
import { Warn } from "../ui/Signs";
import { moment } from "../ui/time";

/** What happened to mail: what came in, what was written, and every mail to an address, the newest first. */
export function Trace() {
  const [search, setSearch] = useSearchParams();
  const q = search.get("q") ?? "";
  const before = search.get("before") ?? undefined;
  const sought = useDeferredValue(q.trim());
  const { data, error } = useTraceQuery({ q: sought, ...(before === undefined ? {} : { before }) });
  const show = (words: string, older?: string): void =>
    setSearch(
      {
        show: "trace",
        ...(words === "" ? {} : { q: words }),
        ...(older === undefined ? {} : { before: older }),
      },
      { replace: older === undefined },
    );
  return (
    <>
      <div className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <SearchField
          label={t("mail.traceMail")}
          placeholder={t("mail.anAddressASubject")}
          value={q}
          onChange={(words) => show(words)}
          className="w-[26rem] max-w-full"
        />
        <p className="text-[13px] text-ink-2">{t("mail.whatTraceFinds")}</p>
      </div>
      <FaultLine error={error} />
      {data === undefined ? (
        error === undefined && <Loading what={t("mail.whatHappened")} />
      ) : data.lines.length === 0 ? (
        <Panel>
          <Empty
            title={sought === "" ? t("mail.noMailYet") : t("mail.nothingAbout", { q: sought })}
          >
            <p>{sought === "" ? t("mail.everyMailWillBeHere") : t("mail.tryTheWholeAddress")}</p>
          </Empty>
        </Panel>
      ) : (
        <Panel className="overflow-hidden">
          <ul>
            {data.lines.map((line) => (
              <li
                key={`${line.kind} ${line.id}`}
                className="border-b border-hair-soft px-4 py-2 last:border-b-0"
              >
                <Line line={line} />
              </li>
            ))}
          </ul>
        </Panel>
      )}
      {data !== undefined && data.before !== null && (
        <p className="mt-3">
          <Button onClick={() => show(q, data.before ?? undefined)}>{t("mail.showOlder")}</Button>
        </p>
      )}
    </>
  );
}

function Line({ line }: { line: TraceLine }) {
  const me = useMe();
  if (line.kind === "in") return <Incoming line={line} />;
  if (line.kind === "post")
    return (
      <Row at={moment(line.at, me.timeZone)} sign="→" way={t("mail.written")}>
        <p>
          <Link to={`/mail/${line.id}`} className="font-[620] hover:underline">
            {line.subject || t("mail.noSubject")}
          </Link>{" "}
          <span className="text-ink-2">
            {t("mail.fromTo", {
              from: line.from,
              to: say(each(line.lists)) || t("mail.peopleOfYourChoice"),
            })}
          </span>
        </p>
        <p className="text-[13px]">
          {t("mail.copiesFared", { sent: line.sent, waiting: line.waiting })}
          {line.failed > 0 && (
            <>
              {" · "}
              <Warn>{t("mail.copiesFailed", { failed: line.failed })}</Warn>
            </>
          )}
        </p>
      </Row>
    );
  return (
    <Row at={moment(line.at, me.timeZone)} sign="→" way={t(WHAT[line.what])}>
      <p>
        {line.post === null ? (
          <b className="font-[620]">{line.subject || t("mail.noSubject")}</b>
        ) : (
          <Link to={`/mail/${line.post}`} className="font-[620] hover:underline">
            {line.subject || t("mail.noSubject")}
          </Link>
        )}{" "}
        <span className="text-ink-2">
          {t("mail.toAddress")} <Address>{line.address}</Address>
          {line.list !== "" && <> · {line.list}</>}
        </span>
      </p>
      <p className="text-[13px] wrap-anywhere">
        {line.state === "bounced" ? (
          <Warn>{t("mail.notDelivered")}</Warn>
        ) : line.state === "sent" ? (
          <span className="text-leaf-ink">{t("mail.handedOver")}</span>
        ) : (
          t(WAITS[line.state])
        )}
        {line.attempts > 1 && <> · {t("mail.tries", { attempts: line.attempts })}</>}
        {line.nextAt !== null && (
          <> · {t("mail.nextTry", { when: moment(line.nextAt, me.timeZone) })}</>
        )}
        {line.reply !== "" && <span className="text-ink-2"> · {line.reply}</span>}
      </p>
    </Row>
  );
}

const WHAT = { post: "mail.traceCopy", digest: "mail.digest", note: "mail.note" } as const;

const WAITS = {
  queued: "mail.waiting",
  sending: "mail.beingSent",
  deferred: "mail.traceRetrying",
  cancelled: "mail.traceCancelled",
} as const;

const PROOFS = {
  "signed-in": "mail.provenBySignIn",
  dkim: "mail.provenByDkim",
  spf: "mail.provenBySpf",
  none: "mail.notProven",
  forged: "mail.forged",
} as const;

const RESULTS = {
  "goes out": "mail.wentOut",
  held: "mail.wasHeld",
  returned: "mail.wasReturned",
  refused: "mail.wasRefused",
  discarded: "mail.wasDiscarded",
  repeated: "mail.wasRepeated",
  "to the leads": "mail.wentToLeads",
  "to the coordinators": "mail.wentToCoordinators",
  answered: "mail.wasAnswered",
  "returned mail": "mail.wasReturnedMail",
  nothing: "mail.wasNothing",
} as const;

function Incoming({ line }: { line: TraceInLine }) {
  const me = useMe();
  const details = [
    [t("mail.nameOnIt"), line.from || t("mail.none")],
    [t("mail.proof"), t(PROOFS[line.proof])],
    [t("mail.returnPath"), line.returnPath || t("mail.none")],
    [
      t("mail.cameFrom"),
      t(line.secure ? "mail.networkEncrypted" : "mail.networkInClear", {
        network: line.network,
        helo: line.helo || "?",
      }),
    ],
    [t("mail.size"), fileSize(line.size)],
    [t("mail.ourAnswer"), line.answer],
    [t("mail.id"), line.id],
  ] as const;
  return (
    <Row at={moment(line.at, me.timeZone)} sign="←" way={t("mail.cameIn")}>
      <p>
        <b className="font-[620]">{line.subject || t("mail.noSubject")}</b>{" "}
        <span className="text-ink-2">
          {t("mail.fromWhom")} <Address>{line.fromAddress || t("mail.nobody")}</Address>
        </span>
      </p>
      <ul className="text-[13px]">
        {line.parts.map(({ recipient, list, result, post }, at) => (
          <li key={at} className="wrap-anywhere">
            {isTrouble(result) ? <Warn>{t(RESULTS[result])}</Warn> : t(RESULTS[result])}
            <span className="text-ink-2">
              {" · "}
              {post === null ? (
                (list?.title ?? recipient)
              ) : (
                <Link to={`/mail/${post}`} className="underline underline-offset-2">
                  {list?.title ?? recipient}
                </Link>
              )}
            </span>
          </li>
        ))}
      </ul>
      <details className="mt-0.5 text-[13px]">
        <summary className="cursor-pointer text-petrol">{t("mail.details")}</summary>
        <dl className="mt-1 grid grid-cols-[max-content_minmax(0,1fr)] gap-x-3 gap-y-0.5">
          {details.map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="text-ink-3">{name}</dt>
              <dd className="wrap-anywhere">{value}</dd>
            </div>
          ))}
        </dl>
        {line.parts.map(({ recipient, reasons }, at) =>
          reasons.length === 0 ? null : (
            <div key={at} className="mt-1">
              <p className="text-ink-3">{t("mail.whyFor", { recipient })}</p>
              <ol className="list-decimal pl-5">
                {reasons.map((reason) => (
                  <li key={reason}>{reason}</li>
                ))}
              </ol>
            </div>
          ),
        )}
      </details>
    </Row>
  );
}

function isTrouble(result: TraceInLine["parts"][number]["result"]): boolean {
  return result === "refused" || result === "held" || result === "returned";
}

/** A line with its time and its direction. */
function Row({
  at,
  sign,
  way,
  children,
}: {
  at: string;
  sign: string;
  way: string;
  children: ReactNode;
}) {
  return (
    <div className="grid gap-x-3 md:grid-cols-[8.5rem_6.5rem_minmax(0,1fr)]">
      <span className="text-[13px] text-ink-3 tabular-nums">{at}</span>
      <span className="text-[13px] text-ink-2">
        <span aria-hidden="true">{sign} </span>
        {way}
      </span>
      <div className="min-w-0">{children}</div>
    </div>
  );
}
