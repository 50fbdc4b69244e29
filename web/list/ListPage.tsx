import { ListHead } from "./ListHead";
import { ListNotes } from "./ListNotes";
import { ListRules } from "./ListRules";
import { Suspense, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import type { EditWanted } from "@amigo/contract/edits";
import type { ListPage as List } from "@amigo/contract/lists";
import { useMe } from "../data/me";
import { FaultPage, Loading, Panel } from "../ui/Page";
import { fetched, useSoon } from "../ui/fetched";
import { Warn } from "../ui/Signs";
import { usualLastDay } from "../ui/time";
import { Keep } from "./Keep";
import { useListQuery } from "../data/lists";
import { TryAddress } from "./TryAddress";
import { t } from "../texts/list";
import { LedBy } from "./LedBy";
import { ClosedNote } from "./ClosedNote";
import { TABS, ListTabs } from "./ListTabs";

const AddMembers = fetched(() => import("./AddMembers"), "AddMembers");
const EditDialog = fetched(() => import("../edits/EditDialog"), "EditDialog");
const EditList = fetched(() => import("./EditList"), "EditList");

type Points = Extract<EditWanted, { what: "lists" }>["lists"][number]["points"];

/** One list: its address to copy, its rules as sentences, its members with the reason each is on it. */
export function ListPage() {
  const { id = "" } = useParams();
  const { data: list, error } = useListQuery(id);
  if (error !== undefined) return <FaultPage error={error} />;
  if (list === undefined) return <Loading what={t("list.theList")} />;
  return <Shown list={list} />;
}

function Shown({ list }: { list: List }) {
  const me = useMe();
  useSoon(AddMembers, EditDialog, EditList);
  const [search, setSearch] = useSearchParams();
  const [shown, setShown] = useState<"" | "edit" | "add">("");
  const [edit, setEdit] = useState<{ title: string; edit: EditWanted }>();
  const [said, setSaid] = useState("");
  const tab = TABS.find((name) => name === search.get("tab")) ?? "members";
  const isOpen = list.state === "open";
  const plan = (title: string, points: Points, aliasUntil = ""): void =>
    setEdit({ title, edit: { what: "lists", aliasUntil, lists: [{ key: list.key, points }] } });
  const closeOrOpen = (): void => {
    const { title } = list;
    if (isOpen) plan(t("list.close2", { title }), { state: "closed" });
    else plan(t("list.openAgain", { title }), { state: "open" });
  };
  const rename = (name: string): void =>
    plan(t("list.rename", { title: list.title }), { name }, usualLastDay(me.timeZone));
  const done = (sentence: string): void => {
    setShown("");
    setEdit(undefined);
    setSaid(sentence);
  };
  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <ListHead
        list={list}
        onAdd={() => setShown("add")}
        onEdit={() => setShown("edit")}
        onState={closeOrOpen}
      />
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
          <ListNotes list={list} onRename={rename} />
          <ListRules
            list={list}
            onReturn={({ point, words }) =>
              plan(t("list.byTheRecipeAgain", { title: list.title, words }), { [point]: null })
            }
          />
          {isOpen && list.may.see && <Keep list={list} />}
          {list.may.see && <TryAddress key={list.id} id={list.id} />}
          {list.unreachable.length > 0 && <UnreachablePanel list={list} />}
        </div>
      </div>
      <Suspense fallback={null}>
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
        {shown === "add" && <AddMembers list={list} onClose={() => setShown("")} onDone={done} />}
        {edit !== undefined && (
          <EditDialog {...edit} onClose={() => setEdit(undefined)} onDone={done} />
        )}
      </Suspense>
    </div>
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
