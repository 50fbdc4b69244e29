import { Suspense } from "react";
import { Link, type SetURLSearchParams } from "react-router";
import type { ListPage as List } from "@amigo/contract/lists";
import { useMe } from "../data/me";
import { PostTable } from "../posts/PostTable";
import { usePostsQuery } from "../data/posts";
import { Empty, FaultLine, Loading, Panel } from "../ui/Page";
import { Minus, Plus } from "../ui/Signs";
import { fetched } from "../ui/fetched";
import { StepBar } from "../ui/StepBar";
import { moment } from "../ui/time";
import { Members } from "./Members";
import { useListJournalQuery } from "../data/lists";
import { Rich, t } from "../texts/list";
import type { Me } from "@amigo/contract/accounts";

const MailWeeks = fetched(() => import("../posts/MailWeeks"), "MailWeeks");
const Shelf = fetched(() => import("../shelf/Shelf"), "Shelf");

export const TABS = ["members", "posts", "shelf", "journal"] as const;

const TAB_NAMES = {
  members: t("list.members"),
  posts: t("list.posts"),
  shelf: t("list.shelf"),
  journal: t("list.journal"),
};

function Posts({ id }: { id: string }) {
  const { data: posts, error } = usePostsQuery({ list: id });
  if (error !== undefined) return <FaultLine error={error} />;
  if (posts === undefined) return <Loading what={t("list.thePosts")} />;
  return posts.length === 0 ? (
    <Empty title={t("list.nothingWasWrittenToThis")}>
      <p>{t("list.aPostThatYouOr")}</p>
    </Empty>
  ) : (
    <div className="overflow-auto">
      <PostTable posts={posts} showLists={false} />
      <Suspense fallback={<Loading what={t("list.thePosts")} />}>
        <MailWeeks list={id} />
      </Suspense>
    </div>
  );
}

function ListJournal({ id }: { id: string }) {
  const me = useMe();
  const { data: entries, error } = useListJournalQuery(id);
  if (error !== undefined) return <FaultLine error={error} />;
  if (entries === undefined) return <Loading what={t("list.theJournal")} />;
  return (
    <ul className="overflow-auto">
      {entries.map((entry) => (
        <li key={entry.id} className="flex flex-wrap gap-x-4 border-b border-hair-soft px-4 py-2">
          <span className="w-32 shrink-0 text-ink-3">{moment(entry.at, me.timeZone)}</span>
          <span className="min-w-0 flex-1 basis-60 wrap-anywhere">{entry.sentence}</span>
          <span className="text-ink-2">{entry.actor}</span>
        </li>
      ))}
    </ul>
  );
}

export function ListTabs({
  list,
  isOpen,
  me,
  tab,
  setSearch,
}: {
  list: List;
  isOpen: boolean;
  me: Me;
  tab: (typeof TABS)[number];
  setSearch: SetURLSearchParams;
}) {
  return (
    <Panel className="flex min-h-[300px] flex-col overflow-hidden">
      <div className="flex items-center gap-4 px-4 py-3">
        <div className="w-[220px]">
          <StepBar count={list.members} joins={list.joins} leaves={list.leaves} />
        </div>
        <span className="text-[13px]">
          {!isOpen ? (
            t("list.closedMembersAsTheyWere")
          ) : list.joins + list.leaves === 0 ? (
            t("list.inStepWithTheRoster")
          ) : (
            <>
              <Rich
                id="list.toJoinToLeave"
                plus={<Plus count={list.joins} />}
                isJoins={String(list.joins > 0)}
                minus={<Minus count={list.leaves} />}
                isLeaves={String(list.leaves > 0)}
                link={
                  me.role === "coordinator" && (
                    <>
                      ·{" "}
                      <Link to="/changes" className="text-petrol underline underline-offset-2">
                        {t("list.seeWhy")}
                      </Link>
                    </>
                  )
                }
              />
            </>
          )}
          {list.asked > 0 && t("list.addressesAskedNotAnsweredYet", { asked: list.asked })}
        </span>
      </div>
      <div
        role="tablist"
        aria-label={t("list.aboutThisList")}
        className="flex gap-[18px] border-b border-hair px-4"
      >
        {TABS.filter((name) => name === "members" || list.may.see).map((name) => (
          <button
            key={name}
            type="button"
            role="tab"
            aria-selected={tab === name}
            onClick={() => setSearch(name === "members" ? {} : { tab: name }, { replace: true })}
            className={`-mb-px border-b-2 pt-2 pb-[7px] ${tab === name ? "border-petrol font-[640] text-petrol" : "border-transparent forced-colors:border-b-0 forced-colors:pb-[9px] text-ink-2 hover:text-ink"}`}
          >
            {TAB_NAMES[name]}
          </button>
        ))}
      </div>
      {tab === "members" && <Members list={list} />}
      {tab === "posts" && list.may.see && <Posts id={list.id} />}
      <Suspense fallback={<Loading what={t("list.theShelf")} />}>
        {tab === "shelf" && list.may.see && (
          <Shelf
            list={{
              id: list.id,
              isOpen: list.state === "open",
              isPrivate: false,
              members: list.members,
            }}
          />
        )}
      </Suspense>
      {tab === "journal" && list.may.see && <ListJournal id={list.id} />}
    </Panel>
  );
}
