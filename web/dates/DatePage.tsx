import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { DatePage as DateShown } from "@amigo/contract/dates";
import { useCancelDateMutation, useDateQuery, useRestoreDateMutation } from "../data/dates";
import { t } from "../texts/dates";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { FaultLine, FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { fileSize } from "../ui/fileSize";
import { dayOf } from "../ui/time";
import { datePath } from "./DateFiles";
import { Guests } from "./Guests";
import { reminderChoice, reminderWords } from "./reminders";
import { TimesToCome } from "./TimesToCome";
import { whenWords } from "../ui/whenWords";
import { repeatWords } from "./dateWords";

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
      {date.isCancelled && <CalledOff date={date} />}
      <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,22rem)_minmax(0,1fr)]">
        <About date={date} />
        <Guests date={date} />
      </div>
      {cancelling && <CallOff date={date} onClose={() => setCancelling(false)} />}
    </>
  );
}

function About({ date }: { date: DateShown }) {
  const rows: [string, React.ReactNode][] = [
    [
      t("dates.lists"),
      date.lists.length > 0 &&
        date.lists.map(({ id, title }) => (
          <Link key={id} to={`/lists/${id}`} className="block text-petrol hover:underline">
            {title}
          </Link>
        )),
    ],
    [
      t("dates.people2"),
      date.people.length + date.privateLists.length > 0 &&
        [...date.privateLists, ...date.people].map(({ id, name }) => <p key={id}>{name}</p>),
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
    [t("dates.timesToCome"), date.repeat !== null && <TimesToCome date={date} />],
    [t("dates.answerWantedBy"), date.answerUntil !== "" && dayOf(date.answerUntil)],
    [t("dates.places"), date.places !== null && date.places],
    [
      t("dates.reminders"),
      date.reminders.length > 0 && reminderWords(reminderChoice(date.reminders)),
    ],
    [
      t("dates.files"),
      date.files.length > 0 &&
        date.files.map(({ id, name, size }) => (
          <p key={id}>
            <a
              href={datePath(id)}
              className="text-petrol underline underline-offset-2 wrap-anywhere"
            >
              {name}
            </a>{" "}
            <span className="text-[13px] text-ink-3">{fileSize(size)}</span>
          </p>
        )),
    ],
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

/** That it was called off, and the way back as long as it isn't over. */
function CalledOff({ date }: { date: DateShown }) {
  const [restore, { error, isLoading }] = useRestoreDateMutation();
  return (
    <div className="mb-3 rounded-md border border-brick bg-panel px-3 py-2">
      <p className="flex flex-wrap items-center justify-between gap-2">
        <span className="text-brick">− {t("dates.wasCalledOff", { reason: date.reason })}</span>
        {date.mayRestore && (
          <Button disabled={isLoading} onClick={() => void restore(date.id)}>
            {t("dates.undoCallingOff")}
          </Button>
        )}
      </p>
      <FaultLine error={error} />
    </div>
  );
}

function CallOff({ date, onClose }: { date: DateShown; onClose: () => void }) {
  const [reason, setReason] = useState("");
  const [cancel, cancelling] = useCancelDateMutation();
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
          {t("dates.callOffAndTell", { addresses: date.counts.addresses })}
        </Button>
      </div>
    </Modal>
  );
}
