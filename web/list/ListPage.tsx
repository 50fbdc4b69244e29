import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { counted, joined } from "@amigo/core/text/sentence";
import { useMe } from "../data/me";
import { PostTable } from "../ui/PostTable";
import { usePostsQuery } from "../data/posts";
import { Button } from "../ui/Button";
import { Empty, FaultLine, Loading, PageHead, Panel } from "../ui/Page";
import { Minus, Plus, Warn } from "../ui/Signs";
import { StepBar } from "../ui/StepBar";
import { moment } from "../ui/time";
import { Keep } from "./Keep";
import { Members } from "./Members";
import { useListJournalQuery, useListQuery } from "../data/lists";
import { TryAddress } from "./TryAddress";

const TABS = ["members", "posts", "journal"] as const;
const TAB_NAMES = { members: "Members", posts: "Posts", journal: "Journal" };

/** One list: its address to copy, its rules as sentences, its members with the reason each is on it. */
export function ListPage() {
  const { id = "" } = useParams();
  const me = useMe();
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const { data: list, error } = useListQuery(id);
  if (error !== undefined) return <FaultLine error={error} />;
  if (list === undefined) return <Loading what="the list" />;
  const tab = TABS.find((name) => name === search.get("tab")) ?? "members";
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <PageHead title={list.title} line={`${counted(list.members, "address", "addresses")}, ${counted(list.families, "family", "families")}, ${list.preset.toLowerCase()}`}>
        <Button look="go" onClick={() => void navigate(`/mail/write?to=${list.id}`)} disabled={list.members === 0}>Write to {counted(list.members, "address", "addresses")}</Button>
      </PageHead>
      <div className="mb-3 flex flex-wrap items-center gap-2.5 text-[13px] text-ink-2">
        <span className="mono text-[15px]! font-[560] text-ink select-all">{list.address}</span><Copy text={list.address} />
        <span>{list.leads.length === 0 ? "no lead with an account" : `led by ${joined(list.leads)}`}{list.recipe !== null && <> · by recipe <b className="font-[620]">{list.recipe}</b></>} · {list.site}{list.site === "" ? "" : ", "}{list.season}</span>
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(280px,372px)] gap-3.5">
        <Panel className="flex min-h-[300px] flex-col overflow-hidden">
          <div className="flex items-center gap-4 px-4 py-3">
            <div className="w-[220px]"><StepBar count={list.members} joins={list.joins} leaves={list.leaves} /></div>
            <span className="text-[13px]">{list.joins + list.leaves === 0 ? "In step with the roster" : <><Plus count={list.joins} />{list.joins > 0 && " to join "}<Minus count={list.leaves} />{list.leaves > 0 && " to leave "}{me.role === "coordinator" && <>· <Link to="/changes" className="text-petrol underline underline-offset-2">see why</Link></>}</>}</span>
          </div>
          <div role="tablist" aria-label="About this list" className="flex gap-[18px] border-b border-hair px-4">
            {TABS.map((name) => <button key={name} type="button" role="tab" aria-selected={tab === name} onClick={() => setSearch(name === "members" ? {} : { tab: name }, { replace: true })} className={`-mb-px border-b-2 pt-2 pb-[7px] ${tab === name ? "border-petrol font-[640] text-petrol" : "border-transparent text-ink-2 hover:text-ink"}`}>{TAB_NAMES[name]}</button>)}
          </div>
          {tab === "members" && <Members list={list} />}
          {tab === "posts" && <Posts id={list.id} />}
          {tab === "journal" && <ListJournal id={list.id} />}
        </Panel>
        <div className="flex min-h-0 flex-col gap-3 overflow-auto">
          <Panel className="px-[18px] py-3.5">
            <h2 className="mb-1.5">Rules</h2>
            {list.rules.map((sentence, index) => <p key={index} className="border-t border-hair-soft py-1.5 leading-normal">{sentence.map(({ text, choice }, part) => choice ? <b key={part} className="rounded bg-petrol-soft px-1.5 py-px font-semibold text-petrol">{text}</b> : <span key={part}>{text}</span>)}</p>)}
            <p className="border-t border-hair-soft pt-1.5 text-[13px] text-ink-3">From the preset {list.preset}, by the recipe.</p>
          </Panel>
          <Keep list={list} />
          <TryAddress id={list.id} />
          {list.unreachable.length > 0 && (
            <Panel className="px-[18px] py-3.5">
              <h2 className="mb-1.5"><Warn>{counted(list.unreachable.length, "person", "people")} cannot be reached</Warn></h2>
              <ul>{list.unreachable.map(({ name, because }) => <li key={`${name} ${because}`} className="border-t border-hair-soft py-1.5"><b className="font-[620]">{name}</b><span className="block text-[13px] text-ink-2">{because}</span></li>)}</ul>
            </Panel>
          )}
        </div>
      </div>
    </div>
  );
}

function Copy({ text }: { text: string }) {
  const [copied, setCopied] = useState(false);
  return <Button className="min-h-[26px]! px-2.5! text-[13px]" onClick={() => void navigator.clipboard.writeText(text).then(() => { setCopied(true); setTimeout(() => setCopied(false), 2000); })}>{copied ? "Copied" : "Copy"}<span className="sr-only"> the address</span></Button>;
}

function Posts({ id }: { id: string }) {
  const { data: posts, error } = usePostsQuery({ list: id });
  if (error !== undefined) return <FaultLine error={error} />;
  if (posts === undefined) return <Loading what="the posts" />;
  return posts.length === 0 ? <Empty title="Nothing was written to this list yet"><p>A post that you or another lead writes stands here with its delivery.</p></Empty> : <div className="overflow-auto"><PostTable posts={posts} showLists={false} /></div>;
}

function ListJournal({ id }: { id: string }) {
  const me = useMe();
  const { data: entries, error } = useListJournalQuery(id);
  if (error !== undefined) return <FaultLine error={error} />;
  if (entries === undefined) return <Loading what="the journal" />;
  return <ul className="overflow-auto">{entries.map((entry) => <li key={entry.id} className="flex gap-4 border-b border-hair-soft px-4 py-2"><span className="w-32 shrink-0 text-ink-3">{moment(entry.at, me.timeZone)}</span><span className="min-w-0 flex-1">{entry.sentence}</span><span className="text-ink-2">{entry.actor}</span></li>)}</ul>;
}
