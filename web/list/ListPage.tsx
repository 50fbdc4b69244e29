import { useState } from "react";
import {
  Link,
  useNavigate,
  useParams,
  useSearchParams,
  type SetURLSearchParams,
} from "react-router";
import type { EditWanted } from "@amigo/contract/edits";
import type { ListPage as List } from "@amigo/contract/lists";
import { useSetWatchMutation } from "../data/intakes";
import { useMe } from "../data/me";
import { PostTable } from "../posts/PostTable";
import { usePostsQuery } from "../data/posts";
import { Button } from "../ui/Button";
import { EditDialog } from "../edits/EditDialog";
import { Empty, FaultLine, FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { RuleSentences } from "../rules/RuleSentences";
import { Minus, Plus, Warn } from "../ui/Signs";
import { StepBar } from "../ui/StepBar";
import { moment, usualLastDay } from "../ui/time";
import { AddMembers } from "./AddMembers";
import { EditList } from "./EditList";
import { Keep } from "./Keep";
import { Members } from "./Members";
import { useListJournalQuery, useListQuery } from "../data/lists";
import { TryAddress } from "./TryAddress";
import { Waiting } from "./Waiting";
import { t } from "../texts/t";
import { Rich } from "../texts/Rich";
import type { Me } from "@amigo/contract/accounts";
import { LedBy } from "./LedBy";
import { ClosedNote } from "./ClosedNote";
import { RequestNote } from "./RequestNote";
import { ListMenu } from "./ListMenu";

const TABS = ["members", "posts", "journal"] as const;
const TAB_NAMES = {
  members: t("list.members"),
  posts: t("list.posts"),
  journal: t("list.journal"),
};

/** One list: its address to copy, its rules as sentences, its members with the reason each is on it. */
export function ListPage() {
  const { id = "" } = useParams();
  const me = useMe();
  const [search, setSearch] = useSearchParams();
  const { data: list, error } = useListQuery(id);
  const [shown, setShown] = useState<"" | "edit" | "add">("");
  const [edit, setEdit] = useState<{ title: string; edit: EditWanted }>();
  const [said, setSaid] = useState("");
  const [setWatch] = useSetWatchMutation();
  if (error !== undefined) return <FaultPage error={error} />;
  if (list === undefined) return <Loading what={t("list.theList")} />;
  const tab = TABS.find((name) => name === search.get("tab")) ?? "members";
  const isOpen = list.state === "open";
  const mayEdit = list.may.change;
  const mayAdd = list.may.add;
  const point = (
    title: string,
    points: Extract<EditWanted, { what: "lists" }>["lists"][number]["points"],
    aliasUntil = "",
  ): void =>
    setEdit({ title, edit: { what: "lists", aliasUntil, lists: [{ key: list.key, points }] } });
  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <PageHead
        title={list.title}
        line={[
          t("list.addresses4", { members: list.members }),
          ...(list.kind === "staff"
            ? [t("list.people", { people: list.people })]
            : list.families === 0
              ? []
              : [t("list.families", { families: list.families })]),
          list.preset.name.toLowerCase(),
        ].join(", ")}
      >
        {mayAdd && <Button onClick={() => setShown("add")}>{t("list.addMembers")}</Button>}
        {list.may.see && (
          <ListMenu
            list={list}
            q={search.get("q") ?? ""}
            onEdit={mayEdit ? () => setShown("edit") : undefined}
            onState={
              mayEdit
                ? () =>
                    point(
                      isOpen
                        ? t("list.close2", { title: list.title })
                        : t("list.openAgain", { title: list.title }),
                      {
                        state: isOpen ? "closed" : "open",
                      },
                    )
                : undefined
            }
          />
        )}
        {isOpen && list.may.see && (
          <Button
            aria-pressed={list.watching}
            title={t("list.aMailWhenSomebodyWas")}
            onClick={() => void setWatch({ what: "list", id: list.id, watching: !list.watching })}
          >
            {list.watching ? t("list.stopWatching") : t("list.watch")}
          </Button>
        )}
        {isOpen && <WriteButton list={list} />}
      </PageHead>
      {said !== "" && (
        <p role="status" className="mb-2.5 rounded-md border border-leaf bg-leaf-soft px-3 py-2">
          {said}
        </p>
      )}
      {!isOpen && <ClosedNote list={list} />}
      <LedBy list={list} isOpen={isOpen} />
      <div className="grid gap-3.5 lg:min-h-0 lg:flex-1 lg:grid-cols-[minmax(0,1fr)_minmax(280px,350px)]">
        <ListTabs list={list} isOpen={isOpen} me={me} tab={tab} setSearch={setSearch} />
        <div className="flex min-w-0 flex-col lg:min-h-0 gap-3 overflow-auto">
          {isOpen && list.broken.length > 0 && (
            <Panel className="px-[18px] py-3">
              {list.broken.map((sentence) => (
                <p key={sentence}>
                  <Warn>{sentence}</Warn>
                </p>
              ))}
            </Panel>
          )}
          {list.requests.map(({ id: request, sentence, by, at }) => (
            <Panel key={request} className="px-[18px] py-3 text-[13px]">
              <RequestNote by={by} sentence={sentence} at={at} me={me} />
            </Panel>
          ))}
          <Waiting list={list} />
          {list.breach !== null && (
            <Panel className="px-[18px] py-3">
              <p>
                <Warn>{list.breach.sentence}</Warn>
              </p>
              {mayEdit && (
                <Button
                  className="mt-2"
                  onClick={() =>
                    point(
                      t("list.rename", { title: list.title }),
                      { name: list.breach?.proposal ?? list.name },
                      usualLastDay(me.timeZone),
                    )
                  }
                >
                  {t("list.callIt", { proposal: list.breach.proposal })}
                </Button>
              )}
            </Panel>
          )}
          <Panel className="px-[18px] py-3.5">
            <h2 className="mb-1.5">{t("list.rules")}</h2>
            <p className="border-t border-hair-soft py-1.5 leading-normal">
              <Rich
                id="list.for"
                audienceSentence={
                  <b className="rounded bg-petrol-soft px-1.5 py-px font-semibold text-petrol">
                    {list.audienceSentence
                      .replace(/\.$/, "")
                      .replace(/^(The|All) /, (start) => start.toLowerCase())}
                  </b>
                }
              />
            </p>
            <RuleSentences rules={list.rules} notes={list.notes} />
            {list.apart.length === 0 ? (
              <p className="border-t border-hair-soft pt-1.5 text-[13px] text-ink-3">
                {list.recipe === null
                  ? t("list.aListOfItsOwn", { name: list.preset.name })
                  : t("list.fromThePresetByThe", { name: list.preset.name })}
              </p>
            ) : (
              <div className="border-t border-hair-soft pt-1.5 text-[13px]">
                <p className="text-marigold-ink">
                  <Rich id="list.changedFromItsRecipe" b={<b>! </b>} />
                </p>
                <ul>
                  {list.apart.map(({ point: eachPoint, words }) => (
                    <li key={eachPoint} className="flex items-center gap-2 py-0.5">
                      <span className="flex-1">{words}</span>
                      {mayEdit && (
                        <Button
                          className="min-h-[24px]! px-2! text-[13px]"
                          onClick={() =>
                            point(t("list.byTheRecipeAgain", { title: list.title, words }), {
                              [eachPoint]: null,
                            })
                          }
                        >
                          <Rich
                            id="list.returnToTheRecipeIn"
                            words={words}
                            span={(chunks) => <span className="sr-only">{chunks}</span>}
                          />
                        </Button>
                      )}
                    </li>
                  ))}
                </ul>
              </div>
            )}
          </Panel>
          {isOpen && list.may.see && <Keep list={list} />}
          {list.may.see && <TryAddress key={list.id} id={list.id} />}
          {list.unreachable.length > 0 && <UnreachablePanel list={list} />}
        </div>
      </div>
      {shown === "edit" && (
        <EditList
          list={list}
          onClose={() => setShown("")}
          onSee={(item) => {
            setShown("");
            setEdit(item);
          }}
        />
      )}
      {shown === "add" && (
        <AddMembers
          list={list}
          onClose={() => setShown("")}
          onDone={(sentence) => {
            setShown("");
            setSaid(sentence);
          }}
        />
      )}
      {edit !== undefined && (
        <EditDialog
          {...edit}
          onClose={() => setEdit(undefined)}
          onDone={(sentence) => {
            setEdit(undefined);
            setSaid(sentence);
          }}
        />
      )}
    </div>
  );
}

function WriteButton({ list }: { list: List }) {
  const navigate = useNavigate();
  return (
    <Button
      look="go"
      onClick={() => void navigate(`/mail/write?to=${list.id}`)}
      disabled={list.members === 0}
    >
      {t("list.writeToAddresses", { members: list.members })}
    </Button>
  );
}

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

function ListTabs({
  list,
  isOpen,
  me,
  tab,
  setSearch,
}: {
  list: List;
  isOpen: boolean;
  me: Me;
  tab: "journal" | "members" | "posts";
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
      {tab === "journal" && list.may.see && <ListJournal id={list.id} />}
    </Panel>
  );
}

function UnreachablePanel({ list }: { list: List }) {
  return (
    <Panel className="px-[18px] py-3.5">
      <h2 className="mb-1.5">
        <Warn>{t("list.peopleCannotBeReached", { unreachable: list.unreachable.length })}</Warn>
      </h2>
      <ul>
        {list.unreachable.map(({ name, because }) => (
          <li key={`${name} ${because}`} className="border-t border-hair-soft py-1.5">
            <b className="font-[620]">{name}</b>
            <span className="block text-[13px] text-ink-2">{because}</span>
          </li>
        ))}
      </ul>
    </Panel>
  );
}
