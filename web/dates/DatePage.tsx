import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { DatePage as DateShown } from "@amigo/contract/dates";
import { useCancelDateMutation, useDateQuery } from "../data/dates";
import { t } from "../texts/t";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { FaultLine, FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { Tabs } from "../ui/Tabs";
import { dayOf } from "../ui/time";
import { AnswerBar } from "./AnswerBar";
import { repeatWords, whenWords } from "./whenWords";

/** One date: what it is, who comes, and who hasn't said. */
export function DatePage() {
  const { id = "" } = useParams();
  const navigate = useNavigate();
  const { data: date, error } = useDateQuery(id);
  const [cancelling, setCancelling] = useState(false);
  if (error !== undefined) return <FaultPage error={error} />;
  if (date === undefined) return <Loading what={t("dates.theDate")} />;
  return (
    <>
      <PageHead title={date.title} line={whenWords(date.when)}>
        {date.mayChange && (
          <>
            <Button onClick={() => setCancelling(true)}>{t("dates.callOff")}</Button>
            <Button onClick={() => void navigate(`/dates/${id}/change`)}>
              {t("dates.change")}
            </Button>
          </>
        )}
      </PageHead>
      {date.isCancelled && (
        <p className="mb-3 rounded-md border border-brick bg-panel px-3 py-2 text-brick">
          − {t("dates.wasCalledOff", { reason: date.reason })}
        </p>
      )}
      <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,22rem)_minmax(0,1fr)]">
        <About date={date} />
        <Guests date={date} />
      </div>
      {cancelling && <CallOff date={date} onClose={() => setCancelling(false)} />}
    </>
  );
}

function About({ date }: { date: DateShown }) {
  const others = date.repeat === null ? [] : date.next;
  const rows: [string, React.ReactNode][] = [
    [
      t("dates.lists"),
      date.lists.map(({ id, title }) => (
        <Link key={id} to={`/lists/${id}`} className="block text-petrol hover:underline">
          {title}
        </Link>
      )),
    ],
    [t("dates.place"), date.place],
    [
      t("dates.linkToMeet"),
      date.link !== "" && (
        <a
          href={date.link}
          target="_blank"
          rel="noreferrer"
          className="text-petrol underline underline-offset-2 wrap-anywhere"
        >
          {date.link}
        </a>
      ),
    ],
    [t("dates.howOften"), repeatWords(date.repeat)],
    [
      t("dates.timesToCome"),
      others.length > 1 && others.map((when) => <p key={when.from}>{whenWords(when)}</p>),
    ],
    [t("dates.answerWantedBy"), date.answerUntil !== "" && dayOf(date.answerUntil)],
    [t("dates.madeBy"), date.madeBy],
  ];
  return (
    <Panel className="px-[18px] py-3.5">
      {date.text !== "" && <p className="mb-3 whitespace-pre-line wrap-anywhere">{date.text}</p>}
      <dl className="grid gap-2">
        {rows
          .filter(([, value]) => value !== "" && value !== false)
          .map(([name, value]) => (
            <div key={name}>
              <dt className="text-[13px] text-ink-3">{name}</dt>
              <dd className="wrap-anywhere">{value}</dd>
            </div>
          ))}
      </dl>
    </Panel>
  );
}

type Group = "yes" | "maybe" | "no" | "silent";

function Guests({ date }: { date: DateShown }) {
  const [shown, setShown] = useState<Group>();
  const { counts } = date;
  const group = shown ?? (counts.yes > 0 ? "yes" : "silent");
  const guests = date.guests.filter(({ answer }) => (answer ?? "silent") === group);
  const isBeginning =
    !date.isCancelled && counts.yes + counts.maybe + counts.no + counts.silent === 0;
  return (
    <Panel className="px-[18px] py-3.5">
      <h2 className="mb-2">{t("dates.whoComes")}</h2>
      <AnswerBar counts={counts} />
      <p className="mt-1.5 mb-3 text-[13px] text-ink-2">
        {t("dates.answersInWords", counts)} {t("dates.peopleCome", { people: counts.people })}
      </p>
      <Tabs
        label={t("dates.answers")}
        value={group}
        tabs={[
          ["yes", t("dates.come", { count: counts.yes })],
          ["maybe", t("dates.maybe", { count: counts.maybe })],
          ["no", t("dates.cant", { count: counts.no })],
          ["silent", t("dates.notSaid", { count: counts.silent })],
        ]}
        onChange={(value) => setShown(value as Group)}
      />
      {guests.length === 0 ? (
        <p role="status" className="py-3 text-ink-2">
          {isBeginning ? t("dates.invitationsAreOnTheirWay") : t("dates.nobodyHere")}
        </p>
      ) : (
        <ul>
          {guests.map((guest) => (
            <li
              key={guest.address}
              className="grid gap-x-4 border-t border-hair-soft py-2 first:border-t-0 sm:grid-cols-[minmax(0,1fr)_minmax(0,1.2fr)_auto]"
            >
              <span className="font-[560] wrap-anywhere">{guest.name}</span>
              <Address className="text-[13px] text-ink-2">{guest.address}</Address>
              <span className="text-[13px] tabular-nums text-ink-2">
                {guest.answer === "yes" && t("dates.people", { people: guest.people })}
              </span>
              {guest.word !== "" && (
                <span className="text-ink-2 wrap-anywhere sm:col-span-3">“{guest.word}”</span>
              )}
            </li>
          ))}
        </ul>
      )}
    </Panel>
  );
}

function CallOff({ date, onClose }: { date: DateShown; onClose: () => void }) {
  const [reason, setReason] = useState("");
  const [cancel, cancelling] = useCancelDateMutation();
  const { yes, maybe, no, silent } = date.counts;
  const confirm = async (): Promise<void> => {
    if ((await cancel({ id: date.id, reason })).error === undefined) onClose();
  };
  return (
    <Modal title={t("dates.callOffTitle", { title: date.title })} onClose={onClose}>
      <p className="mb-3">{t("dates.everybodyIsTold")}</p>
      <Field
        label={t("dates.reasonForThem")}
        maxLength={500}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <FaultLine error={cancelling.error} />
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        <Button onClick={onClose}>{t("dates.keepIt")}</Button>
        <Button look="go" disabled={cancelling.isLoading} onClick={() => void confirm()}>
          {t("dates.callOffAndTell", { addresses: yes + maybe + no + silent })}
        </Button>
      </div>
    </Modal>
  );
}
