import { useVirtualizer, type ReactVirtualizer } from "@tanstack/react-virtual";
import { useRef } from "react";
import { useSearchParams } from "react-router";
import type { ListPage } from "@amigo/contract/lists";
import type { Member } from "@amigo/contract/members";
import { useMe } from "../data/me";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Empty, FaultLine, Loading } from "../ui/Page";
import { SearchField } from "../ui/SearchField";
import { dayOf, moment, today } from "../ui/time";
import { useMembersQuery, useSetHowOftenMutation } from "../data/lists";
import { DayField } from "../ui/DayField";
import { t } from "../texts/list";
import type { Me } from "@amigo/contract/accounts";

const COLUMNS = "minmax(110px,.9fr) minmax(160px,1.1fr) minmax(170px,1.3fr) 104px 96px";
const AT_ONCE = 200;
const HOW_OFTEN = [
  { value: "every message", name: t("list.eachMail") },
  { value: "daily", name: t("list.daily") },
  { value: "weekly", name: t("list.weekly") },
  { value: "nothing", name: t("list.nothing") },
] as const;

/** The members of a list: who, at which address, and why. The search and the page stand in the address of the page. */
export function Members({ list }: { list: ListPage }) {
  const me = useMe();
  const [search, setSearch] = useSearchParams();
  const q = search.get("q") ?? "";
  const from = Number(search.get("from") ?? 0);
  const on = search.get("on") ?? "";
  const set = (name: string, value: string): void =>
    setSearch(
      (before) => {
        before.delete("from");
        if (value === "") before.delete(name);
        else before.set(name, value);
        return before;
      },
      { replace: true },
    );
  const { data, error } = useMembersQuery({ id: list.id, q, from, on });
  if (list.members === 0 && on === "")
    return (
      <Empty title={t("list.nobodyIsOnThisList")}>
        {list.unreachable.length > 0 ? (
          <p>{t("list.peopleBelongOnItBut", { unreachable: list.unreachable.length })}</p>
        ) : (
          <p>{t("list.nobodyInTheSheetsBelongs")}</p>
        )}
      </Empty>
    );
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined) return <Loading what={t("list.theMembers")} />;
  return (
    <>
      <MembersHead q={q} set={set} data={data} list={list} on={on} me={me} from={from} />
      {data.members.length === 0 ? (
        q === "" ? (
          <Empty title={t("list.nobodyWasOnThisList", { when: dayOf(on) })}>
            <p>{t("list.itWasMadeLaterOr")}</p>
          </Empty>
        ) : (
          <Empty title={t("list.nobodyHereIsCalled", { q })}>
            <p>{t("list.tryFewerLetters")}</p>
          </Empty>
        )
      ) : (
        <Table members={data.members} list={list} isNow={on === ""} />
      )}
    </>
  );
}

function Table({
  members,
  list,
  isNow,
}: {
  members: readonly Member[];
  list: ListPage;
  isNow: boolean;
}) {
  const me = useMe();
  const [setHowOften] = useSetHowOftenMutation();
  const scroll = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: members.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => 50,
    overscan: 12,
  });
  return (
    <div
      ref={scroll}
      role="table"
      aria-label={t("list.members")}
      aria-rowcount={members.length}
      tabIndex={0}
      className="max-lg:h-[65dvh] overflow-auto lg:min-h-0 lg:flex-1 focus-visible:-outline-offset-2"
    >
      <div
        role="row"
        className="sticky top-0 z-10 grid min-w-fit gap-x-3 border-b border-hair-soft bg-panel px-4 py-1.5 text-[12px] font-[500] text-ink-3"
        style={{ gridTemplateColumns: COLUMNS }}
      >
        {[t("list.name"), t("list.address"), t("list.reason"), t("list.gets"), t("list.since")].map(
          (title) => (
            <span key={title} role="columnheader">
              {title}
            </span>
          ),
        )}
      </div>
      <MemberRows
        rows={rows}
        members={members}
        list={list}
        isNow={isNow}
        setHowOften={setHowOften}
        me={me}
      />
    </div>
  );
}

function MembersHead({
  q,
  set,
  data,
  list,
  on,
  me,
  from,
}: {
  q: string;
  set: (name: string, value: string) => void;
  data: { total: number; members: Member[] };
  list: ListPage;
  on: string;
  me: Me;
  from: number;
}) {
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-2 border-b border-hair-soft px-3 py-2 md:px-4">
      <SearchField
        label={t("list.findAMember")}
        placeholder={t("list.findANameAddressOr")}
        value={q}
        onChange={(value) => set("q", value)}
        className="w-64 max-w-full"
      />
      <span role="status" className="text-[13px] text-ink-3">
        {q === ""
          ? t("list.addresses5", { total: data.total })
          : t("list.ofFound", { total: data.total, members: list.members })}
        {on !== "" && t("list.on2", { when: dayOf(on) })}
      </span>
      <DayField
        inline
        label={t("list.asOf")}
        value={on}
        onChange={(day) => set("on", day)}
        max={today(me.timeZone)}
      />
      {on !== "" && (
        <Button className="min-h-[26px]! px-2.5! text-[13px]" onClick={() => set("on", "")}>
          {t("list.today")}
        </Button>
      )}
      {data.total > AT_ONCE && (
        <span className="ml-auto flex items-center gap-2 text-[13px]">
          <Button
            disabled={from === 0}
            onClick={() => set("from", String(Math.max(0, from - AT_ONCE)))}
          >
            {t("list.before")}
          </Button>
          {from + 1}–{Math.min(from + AT_ONCE, data.total)}
          <Button
            disabled={from + AT_ONCE >= data.total}
            onClick={() => set("from", String(from + AT_ONCE))}
          >
            {t("list.next")}
          </Button>
        </span>
      )}
    </div>
  );
}

function MemberRows({
  rows,
  members,
  list,
  isNow,
  setHowOften,
  me,
}: {
  rows: ReactVirtualizer<HTMLDivElement, Element>;
  members: readonly Member[];
  list: ListPage;
  isNow: boolean;
  setHowOften: ReturnType<typeof useSetHowOftenMutation>[0];
  me: Me;
}) {
  return (
    <div role="rowgroup" className="relative min-w-fit" style={{ height: rows.getTotalSize() }}>
      {rows.getVirtualItems().map(({ index, key, start }) => {
        const member = members[index];
        if (member === undefined) return null;
        const where = [...new Set(member.people.map((person) => person.where))].join("; ");
        return (
          <div
            key={key}
            ref={rows.measureElement}
            data-index={index}
            role="row"
            className="absolute inset-x-0 grid min-w-fit gap-x-3 border-b border-hair-soft px-4 py-1.5 text-[13px]"
            style={{ gridTemplateColumns: COLUMNS, transform: `translateY(${start}px)` }}
          >
            <span role="cell" className="sticky left-0 z-1 bg-panel">
              <b className="block text-[14px] font-[620]">
                {member.people.map(({ name }) => name).join(", ") || "—"}
              </b>
              <span className="text-ink-3">
                {[member.what, member.role === "member" ? "" : member.role]
                  .filter((part) => part !== "")
                  .join(", ") || t("list.nobodyKnown")}
              </span>
            </span>
            <span role="cell">
              <Address>{member.address}</Address>
              {member.state.startsWith("bounced") && (
                <span className="block text-brick">! {member.state}</span>
              )}
            </span>
            <span role="cell">
              {[...new Set(member.people.map(({ because }) => because))].join("; ")}
              <span className="block text-ink-3">{where}</span>
              {member.kept !== "" && <span className="block text-petrol">{member.kept}</span>}
            </span>
            <span role="cell" className="text-ink-2">
              {list.may.change && isNow ? (
                <Choice
                  small
                  label={t("list.howOftenGetsMail", { address: member.address })}
                  value={member.howOften}
                  onChange={(howOften) =>
                    void setHowOften({ id: list.id, address: member.address, howOften })
                  }
                  className="max-w-full"
                  options={HOW_OFTEN}
                />
              ) : (
                member.gets
              )}
              {member.isPaused && list.may.change && isNow && (
                <span className="block">{member.gets}</span>
              )}
            </span>
            <span role="cell" className="text-ink-2">
              {moment(member.since, me.timeZone)}
              {member.lastMail !== null && (
                <span className="block text-ink-3">
                  {t("list.lastMail", { when: moment(member.lastMail, me.timeZone) })}
                </span>
              )}
            </span>
          </div>
        );
      })}
    </div>
  );
}
