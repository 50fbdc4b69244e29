import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { may } from "@amigo/core/access/may";
import type { PersonPage as Page } from "@amigo/contract/people";
import { useMe } from "../data/me";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { moment } from "../ui/time";
import { usePersonQuery } from "../data/people";
import { AddressesDialog } from "./AddressesDialog";
import { Said } from "./ByHand";
import { FamilyCard } from "./FamilyCard";
import { JoinDialog } from "./JoinDialog";
import { PartDialog } from "./PartDialog";
import { t } from "../texts/people";

/** One person: the family, the lists and why, what became known and when. */
export function PersonPage() {
  const { id = "" } = useParams();
  const me = useMe();
  const navigate = useNavigate();
  const { data, error } = usePersonQuery(id);
  const [asking, setAsking] = useState<"join" | "part" | "addresses">();
  if (error !== undefined) return <FaultPage error={error} />;
  if (data === undefined) return <Loading what={t("people.thePerson")} />;
  const { person, lists } = data;
  const close = (): void => setAsking(undefined);
  const canPart = person.role === "guardian" && data.ties.length + person.addresses.length > 2;
  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <PageHead
        title={person.name}
        line={[person.role, person.number, person.detail].filter((part) => part !== "").join(", ")}
      >
        <Link to="/people" className="mr-2 text-petrol underline underline-offset-2">
          {t("people.allFamilies")}
        </Link>
        {may(me.role, "export people") && (
          <a
            href={`/api/people/${encodeURIComponent(id)}/record`}
            download
            className="mr-2 text-petrol underline underline-offset-2"
          >
            {t("people.downloadThisPersonsData")}
          </a>
        )}
        <Button onClick={() => setAsking("addresses")}>{t("people.chooseAddresses")}</Button>
        <Button onClick={() => setAsking("join")}>{t("people.mergeWith")}</Button>
        {canPart && (
          <Button onClick={() => setAsking("part")}>{t("people.splitIntoTwoPeople")}</Button>
        )}
      </PageHead>
      <div className="grid gap-3.5 lg:min-h-0 lg:flex-1 lg:grid-cols-[minmax(300px,380px)_minmax(0,1fr)] items-start">
        <div className="flex flex-col gap-3">
          <FamilyCard family={data.family} chosen={person.id} />
          {data.byHand.length > 0 && (
            <Panel className="px-4 py-3">
              <h2>{t("people.manualChanges")}</h2>
              <Said entries={data.byHand} />
            </Panel>
          )}
        </div>
        <div className="flex min-w-0 flex-col gap-3">
          <Panel className="overflow-hidden">
            <h2 className="border-b border-hair px-4 py-2">
              {lists.length === 0
                ? t("people.onNoList2")
                : t("people.onLists2", { lists: lists.length })}
            </h2>
            <ListsOfPerson lists={lists} />
          </Panel>
          <Timeline
            lines={data.timeline}
            addresses={
              may(me.role, "change the house") ? person.addresses.map(({ address }) => address) : []
            }
          />
        </div>
      </div>
      {asking === "join" && <JoinDialog person={person} onClose={close} />}
      {asking === "part" && (
        <PartDialog
          page={data}
          onClose={close}
          onParted={(other) => {
            close();
            void navigate(`/people/${other}`);
          }}
        />
      )}
      {asking === "addresses" && <AddressesDialog person={person} onClose={close} />}
    </div>
  );
}

const COLOURS = { "+": "text-leaf-ink", "−": "text-brick", "~": "text-ink-2", "→": "text-petrol" };

function Timeline({
  lines,
  addresses,
}: {
  lines: Page["timeline"];
  /** Those whose mail can be traced from here. */
  addresses: readonly string[];
}) {
  const me = useMe();
  return (
    <Panel className="overflow-hidden">
      <div className="flex flex-wrap items-baseline gap-x-4 border-b border-hair px-4 py-2">
        <h2>{t("people.history")}</h2>
        {addresses.map((address) => (
          <Link
            key={address}
            to={`/mail?show=trace&q=${encodeURIComponent(address)}`}
            className="ml-auto text-[13px] text-petrol underline underline-offset-2"
          >
            {t("people.traceMailTo", { address })}
          </Link>
        ))}
      </div>
      <ol>
        {lines.map(({ at, what, sign, where, round }, index) => (
          <li
            key={`${at} ${what} ${index}`}
            className="flex flex-wrap gap-x-3 border-t border-hair-soft px-4 py-1.5 first:border-t-0"
          >
            <span className="w-28 shrink-0 text-[13px] text-ink-3">{moment(at, me.timeZone)}</span>
            <b className={`w-3 self-start ${COLOURS[sign]}`}>{sign}</b>
            <span className="min-w-0 flex-1 basis-48 wrap-anywhere">
              {what}
              {where.text !== "" &&
                (where.source === null || !may(me.role, "see sources") ? (
                  <span className="block text-[13px] text-ink-3">{where.text}</span>
                ) : (
                  <Link
                    to={`/sources/${where.source}`}
                    className="block text-[13px] text-petrol hover:underline"
                  >
                    {where.text}
                  </Link>
                ))}
            </span>
            {sign === "→" ? null : round === null ? (
              <span className="text-[13px] text-ink-3">{t("people.byHand")}</span>
            ) : may(me.role, "see rounds") ? (
              <Link
                to={`/changes/${round}`}
                className="text-[13px] text-petrol underline underline-offset-2"
              >
                {t("people.round", { round })}
              </Link>
            ) : (
              <span className="text-[13px] text-ink-3">{t("people.round", { round })}</span>
            )}
          </li>
        ))}
      </ol>
    </Panel>
  );
}

function ListsOfPerson({
  lists,
}: {
  lists: {
    id: string;
    title: string;
    address: string;
    because: string;
    where: string;
    since: string;
  }[];
}) {
  return (
    <ul>
      {lists.map((list) => (
        <li
          key={`${list.id} ${list.address}`}
          className="grid gap-x-3 md:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)_minmax(0,1.2fr)] border-t border-hair-soft px-4 py-1.5 first:border-t-0"
        >
          <Link to={`/lists/${list.id}`} className="font-[620] hover:underline">
            {list.title}
          </Link>
          <Address>{list.address}</Address>
          <span className="text-[13px]">
            {list.because}
            <span className="block text-ink-3">{list.where}</span>
          </span>
        </li>
      ))}
    </ul>
  );
}
