import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef } from "react";
import { useSearchParams } from "react-router";
import { counted } from "@amigo/core/text/sentence";
import type { ListPage, Member } from "@amigo/contract/lists";
import { useMe } from "../data/me";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Empty, FaultLine, Loading } from "../ui/Page";
import { SearchField } from "../ui/SearchField";
import { dayOf, moment, today } from "../ui/time";
import { useMembersQuery, useSetHowOftenMutation } from "../data/lists";
import { DayField } from "../ui/DayField";

const COLUMNS = "minmax(110px,.9fr) minmax(160px,1.1fr) minmax(170px,1.3fr) 104px 96px";
const AT_ONCE = 200;
const HOW_OFTEN = [
  { value: "every message", name: "each mail" },
  { value: "daily", name: "daily" },
  { value: "weekly", name: "weekly" },
  { value: "nothing", name: "nothing" },
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
      <Empty title="Nobody is on this list">
        {list.unreachable.length > 0 ? (
          <p>
            {counted(list.unreachable.length, "person", "people")} belong on it, but none of them
            has an address that works.
          </p>
        ) : (
          <p>Nobody in the sheets belongs on it.</p>
        )}
      </Empty>
    );
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined) return <Loading what="the members" />;
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2 border-b border-hair-soft px-3 py-2 md:px-4">
        <SearchField
          label="Find a member"
          placeholder="Find a name, address or child"
          value={q}
          onChange={(value) => set("q", value)}
          className="w-64 max-w-full"
        />
        <span role="status" className="text-[13px] text-ink-3">
          {q === ""
            ? counted(data.total, "address", "addresses")
            : `${data.total} of ${list.members} found`}
          {on !== "" && ` on ${dayOf(on)}`}
        </span>
        <DayField
          inline
          label="As of"
          value={on}
          onChange={(day) => set("on", day)}
          max={today(me.timeZone)}
        />
        {on !== "" && (
          <Button className="min-h-[26px]! px-2.5! text-[13px]" onClick={() => set("on", "")}>
            Today
          </Button>
        )}
        {data.total > AT_ONCE && (
          <span className="ml-auto flex items-center gap-2 text-[13px]">
            <Button
              disabled={from === 0}
              onClick={() => set("from", String(Math.max(0, from - AT_ONCE)))}
            >
              Before
            </Button>
            {from + 1}–{Math.min(from + AT_ONCE, data.total)}
            <Button
              disabled={from + AT_ONCE >= data.total}
              onClick={() => set("from", String(from + AT_ONCE))}
            >
              Next
            </Button>
          </span>
        )}
      </div>
      {data.members.length === 0 ? (
        q === "" ? (
          <Empty title={`Nobody was on this list on ${dayOf(on)}`}>
            <p>It was made later, or nobody belonged on it yet.</p>
          </Empty>
        ) : (
          <Empty title={`Nobody here is called "${q}"`}>
            <p>Try fewer letters.</p>
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
      aria-label="Members"
      aria-rowcount={members.length}
      tabIndex={0}
      className="max-lg:h-[65dvh] overflow-auto lg:min-h-0 lg:flex-1 focus-visible:-outline-offset-2"
    >
      <div
        role="row"
        className="sticky top-0 z-10 grid min-w-fit gap-x-3 border-b border-hair-soft bg-panel px-4 py-1.5 text-[12px] font-[500] text-ink-3"
        style={{ gridTemplateColumns: COLUMNS }}
      >
        {["Name", "Address", "Reason", "Gets", "Since"].map((title) => (
          <span key={title} role="columnheader">
            {title}
          </span>
        ))}
      </div>
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
                    .join(", ") || "nobody known"}
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
                    label={`How often ${member.address} gets mail`}
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
                {member.gets.startsWith("nothing until") && list.may.change && isNow && (
                  <span className="block">{member.gets}</span>
                )}
              </span>
              <span role="cell" className="text-ink-2">
                {moment(member.since, me.timeZone)}
                {member.lastMail !== null && (
                  <span className="block text-ink-3">
                    last mail {moment(member.lastMail, me.timeZone)}
                  </span>
                )}
              </span>
            </div>
          );
        })}
      </div>
    </div>
  );
}
