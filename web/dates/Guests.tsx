import { useState } from "react";
import type { DateGuest, DatePage as DateShown } from "@amigo/contract/dates";
import { byFamily, familyAnswer } from "@amigo/core/calendar/familyAnswer";
import { useAskAgainMutation, useDeclineProposalMutation } from "../data/dates";
import { useMe } from "../data/me";
import { t } from "../texts/dates";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { FaultLine, Panel } from "../ui/Page";
import { Tabs } from "../ui/Tabs";
import { moment } from "../ui/time";
import { AnswerBar } from "./AnswerBar";
import { whenWords } from "../ui/whenWords";

type Group = "yes" | "maybe" | "no" | "silent" | "waiting";

/** Who comes to a date, who doesn't, and who hasn't said: by class and by family. */
export function Guests({ date }: { date: DateShown }) {
  const [shown, setShown] = useState<Group>();
  const { counts } = date;
  const group = shown ?? (counts.yes > 0 ? "yes" : "silent");
  const families = familiesIn(date.guests).filter((family) => family.group === group);
  const isBeginning = !date.isCancelled && counts.addresses === 0;
  return (
    <Panel className="px-[18px] py-3.5">
      <div className="mb-2 flex flex-wrap items-start justify-between gap-2">
        <h2>{t("dates.whoComes")}</h2>
        <GuestActions date={date} />
      </div>
      <AnswerBar counts={counts} />
      <p className="mt-1.5 mb-3 text-[13px] text-ink-2">
        {t("dates.answersInWords", counts)}{" "}
        {date.places === null
          ? t("dates.peopleCome", { people: counts.people })
          : t("dates.peopleOfPlaces", { people: counts.people, places: date.places })}
      </p>
      <Tabs
        label={t("dates.answers")}
        value={group}
        tabs={[
          ["yes", t("dates.come", { count: counts.yes })],
          ...(counts.waiting > 0
            ? [["waiting", t("dates.wait", { count: counts.waiting })] as const]
            : []),
          ["maybe", t("dates.maybe", { count: counts.maybe })],
          ["no", t("dates.cant", { count: counts.no })],
          ["silent", t("dates.notSaid", { count: counts.silent })],
        ]}
        onChange={(value) => setShown(value as Group)}
      />
      {families.length === 0 ? (
        <p role="status" className="py-3 text-ink-2">
          {isBeginning ? t("dates.invitationsAreOnTheirWay") : t("dates.nobodyHere")}
        </p>
      ) : (
        <ByClass date={date} families={families} />
      )}
    </Panel>
  );
}

function GuestActions({ date }: { date: DateShown }) {
  const [ask, asking] = useAskAgainMutation();
  const { timeZone } = useMe();
  const { toAsk, askedAt } = date;
  return (
    <div data-no-print className="flex flex-col items-end gap-1">
      <div className="flex flex-wrap justify-end gap-2">
        <a
          href={`/api/dates/${date.id}/guests.pdf`}
          target="_blank"
          rel="noreferrer"
          className="inline-flex min-h-[30px] items-center rounded-md border border-hair bg-panel px-3 font-[560] hover:border-petrol"
        >
          {t("dates.print")}
        </a>
        <a
          href={`/api/dates/${date.id}/guests.csv`}
          className="inline-flex min-h-[30px] items-center rounded-md border border-hair bg-panel px-3 font-[560] hover:border-petrol"
        >
          {t("dates.download")}
        </a>
        {date.mayChange && toAsk > 0 && (
          <Button
            look="go"
            disabled={asking.isLoading || asking.isSuccess}
            onClick={() => void ask(date.id)}
          >
            {t("dates.askAgain", { addresses: toAsk })}
          </Button>
        )}
      </div>
      {(asking.data !== undefined || askedAt !== null) && (
        <p role="status" className="text-[13px] text-ink-2">
          {asking.data === undefined
            ? t("dates.askedAt", { at: moment(askedAt ?? "", timeZone) })
            : t("dates.askedNow", { addresses: asking.data.addresses })}
        </p>
      )}
      <FaultLine error={asking.error} />
    </div>
  );
}

interface Family {
  key: string;
  guests: DateGuest[];
  group: Group;
  /** Those of the date's lists that any of them is on. */
  lists: string[];
}

/** Returns the families behind some guests, each with what they say as one. */
function familiesIn(guests: readonly DateGuest[]): Family[] {
  return [...byFamily(guests)].map(([key, members]) => ({
    key,
    guests: members,
    group: familyAnswer(members) ?? "silent",
    lists: [...new Set(members.flatMap(({ lists }) => lists))],
  }));
}

/** Families below the titles of the lists that they are on; a family of two classes stands with both. */
function ByClass({ date, families }: { date: DateShown; families: readonly Family[] }) {
  // Those who were invited by themselves are on none of the lists.
  const sections = [...date.lists, { id: "", title: t("dates.otherPeople") }]
    .map(({ id, title }) => ({
      id,
      title,
      families: families.filter(({ lists }) =>
        id === "" ? lists.length === 0 : lists.includes(id),
      ),
    }))
    .filter((section) => section.families.length > 0);
  return sections.map(({ id, title, families: ofList }) => (
    <section key={id} aria-label={title}>
      {date.lists.length > 1 && (
        <h3 className="mt-2 border-b border-hair pb-1 text-[13px] text-ink-2">
          {title} · {t("dates.families", { families: ofList.length })}
        </h3>
      )}
      <ul>
        {ofList.map((family) => (
          <li key={family.key} className="border-t border-hair-soft py-2 first:border-t-0">
            {family.guests.map((guest) => (
              <GuestLine key={guest.address} guest={guest} date={date} />
            ))}
          </li>
        ))}
      </ul>
    </section>
  ));
}

function GuestLine({ guest, date }: { guest: DateGuest; date: DateShown }) {
  const [decline, declining] = useDeclineProposalMutation();
  return (
    <div className="grid gap-x-4 sm:grid-cols-[minmax(0,1fr)_minmax(0,1.2fr)_5rem]">
      <span className="font-[560] wrap-anywhere">{guest.name}</span>
      <Address className="text-[13px] text-ink-2">{guest.address}</Address>
      <span className="text-[13px] tabular-nums text-ink-2 sm:text-right">
        {guest.answer === "yes" && t("dates.people", { people: guest.people })}
      </span>
      {guest.word !== "" && (
        <span className="text-ink-2 wrap-anywhere sm:col-span-3">“{guest.word}”</span>
      )}
      {guest.proposes !== null && (
        <span className="flex flex-wrap items-center gap-2 text-[13px] sm:col-span-3">
          {t("dates.proposes", { when: whenWords(guest.proposes) })}
          {date.mayChange && (
            <Button
              disabled={declining.isLoading}
              onClick={() => void decline({ id: date.id, address: guest.address })}
            >
              {t("dates.declineProposal")}
              <span className="sr-only"> {guest.name}</span>
            </Button>
          )}
        </span>
      )}
      <FaultLine error={declining.error} />
    </div>
  );
}
