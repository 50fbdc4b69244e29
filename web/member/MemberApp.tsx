import { useEffect, type ReactNode } from "react";
import { Link, Route, Routes, useNavigate, useParams } from "react-router";
import type { MemberLists } from "@amigo/contract/member";
import {
  useConfirmAddressMutation,
  useMemberPostQuery,
  useMemberEnterMutation,
  useMemberGoMutation,
  useMemberOthersQuery,
  useMemberQuery,
} from "../data/member";
import { Button } from "../ui/Button";
import { Empty, FaultLine, Loading, Panel } from "../ui/Page";
import { Rich, t } from "../texts/member";
import { Children } from "./Children";
import { Shelf } from "./Shelf";
import { Dates } from "./Dates";
import { OneList } from "./OneList";
import { Addresses } from "./Addresses";
import { AskForLink } from "./AskForLink";
import { Pause } from "./Pause";
import { OnePost } from "./OnePost";
import { Posts } from "./Posts";
import { takeWanted, wantThing } from "./wantedThing";
import { OpenLists } from "./OpenLists";
import { LanguageChoice } from "./LanguageChoice";
import { useFamilyLanguage } from "./useFamilyLanguage";

/** The pages of members, who have no account: opened by a mailed link, made for a phone. */
export function MemberApp() {
  const { data } = useMemberQuery();
  const language = useFamilyLanguage(data);
  if (language === undefined) return null;
  return (
    <main key={language} className="mx-auto flex min-h-dvh w-full max-w-2xl flex-col gap-3.5 p-4">
      <Routes>
        <Route path="/member" element={<Page />} />
        <Route path="/member/lists/:id" element={<Archive />} />
        <Route path="/member/posts/:id" element={<PostByAddress />} />
        <Route path="/member/shelf/:id" element={<OnShelf />} />
        <Route path="/member/address/:token" element={<NewAddress />} />
        <Route path="/member/:token" element={<Enter />} />
        <Route path="*" element={<Empty title={t("member.pageNotFound")} />} />
      </Routes>
    </main>
  );
}

/** Where a link in a mail leads to something on a shelf: it opens from the member's own page. */
function OnShelf() {
  const { id = "" } = useParams();
  const { data, error } = useMemberQuery();
  const isClosed = error !== undefined;
  useEffect(() => {
    if (isClosed) wantThing(id);
  }, [isClosed, id]);
  if (isClosed)
    return (
      <>
        <Head title={t("member.sharedWithYou")} line={t("member.yourPageOpensByA")} />
        <AskForLink />
      </>
    );
  if (data === undefined) return <Loading what={t("member.yourLists2")} />;
  return (
    <>
      <Head title={data.name === "" ? data.house : data.name} line={data.house} />
      <Shelf first={id} />
      <p>
        <Link to="/member" className="text-petrol underline underline-offset-2">
          {t("member.toYourPage")}
        </Link>
      </p>
    </>
  );
}

function Head({ title, line }: { title: string; line?: ReactNode }) {
  return (
    <div className="min-w-0">
      <h1 className="text-[22px]!">{title}</h1>
      {line !== undefined && <p className="text-ink-2">{line}</p>}
    </div>
  );
}

/** Behind the mailed link. Programs that look at links in mails must not use it up, so it waits for a tap. */
function Enter() {
  const { token = "" } = useParams();
  const navigate = useNavigate();
  const [enter, { error, isLoading }] = useMemberEnterMutation();
  return (
    <>
      <Head title={t("member.yourLists")} line={t("member.thisLinkOpensYourPage")} />
      <FaultLine error={error} />
      {error === undefined ? (
        <Button
          look="go"
          className="min-h-[44px]!"
          autoFocus
          disabled={isLoading}
          onClick={() =>
            void enter(token).then((answer) => {
              if (answer.error === undefined) void navigate(takeWanted(), { replace: true });
            })
          }
        >
          {t("member.openMyPage")}
        </Button>
      ) : (
        <AskForLink />
      )}
    </>
  );
}

function Page() {
  const { data, error } = useMemberQuery();
  if (error !== undefined)
    return (
      <>
        <Head title={t("member.yourLists")} line={t("member.yourPageOpensByA")} />
        <AskForLink />
      </>
    );
  if (data === undefined) return <Loading what={t("member.yourLists2")} />;
  return <Lists own={data} />;
}

function Lists({ own: item }: { own: MemberLists }) {
  const [go] = useMemberGoMutation();
  return (
    <>
      <div className="flex flex-wrap items-start justify-between gap-x-3 gap-y-2">
        <Head
          title={item.name === "" ? t("member.yourLists") : item.name}
          line={
            <>
              {item.house} · <span className="mono">{item.address}</span>
            </>
          }
        />
        <div className="flex flex-wrap items-start gap-2">
          <LanguageChoice own={item} />
          <Button className="min-h-[44px]!" onClick={() => void go()}>
            {t("member.closeMyPage")}
          </Button>
        </div>
      </div>
      <Pause own={item} />
      <section aria-label={t("member.myLists")} className="flex flex-col gap-2.5">
        <h2>{item.lists.length === 0 ? t("member.youAreOnNoList") : t("member.myLists")}</h2>
        {item.lists.map((list) => (
          <OneList key={list.id} list={list} />
        ))}
      </section>
      <Shelf />
      <Dates />
      {item.open.length > 0 && (
        <section aria-label={t("member.otherLists")}>
          <h2 className="mb-2">{t("member.otherLists")}</h2>
          <Panel>
            <ul>
              {item.open.map((list) => (
                <OpenLists key={list.id} list={list} />
              ))}
            </ul>
          </Panel>
        </section>
      )}
      <Children own={item} />
      <Addresses own={item} />
    </>
  );
}

function NewAddress() {
  const { token = "" } = useParams();
  const [confirm, { error, isLoading, data }] = useConfirmAddressMutation();
  return (
    <>
      <Head title={t("member.isThisYourAddress")} />
      <FaultLine error={error} />
      {data !== undefined ? (
        <p role="status">
          <Rich id="member.thankYouTheOfficeHasBeen" address={<b>{data.address}</b>} />
        </p>
      ) : (
        error === undefined && (
          <Button
            look="go"
            className="min-h-[44px]!"
            autoFocus
            disabled={isLoading}
            onClick={() => void confirm(token)}
          >
            {t("member.yesMailForMeComes")}
          </Button>
        )
      )}
    </>
  );
}

function Archive() {
  const { id = "" } = useParams();
  const { data: item, error } = useMemberQuery();
  const mine = item?.lists.find((line) => line.id === id);
  const list =
    mine ??
    item?.open
      .filter(({ readsArchive }) => readsArchive)
      .map((line) => ({ ...line, members: null }))
      .find((line) => line.id === id);
  if (error !== undefined) return <Page />;
  if (item === undefined) return <Loading what={t("member.theList")} />;
  if (list === undefined) return <Empty title={t("member.youAreNotOnThis")} />;
  return (
    <>
      <Head
        title={list.title}
        line={
          <Link to="/member" className="text-petrol underline underline-offset-2">
            {t("member.allMyLists")}
          </Link>
        }
      />
      {list.members !== null && <Others id={id} />}
      {list.readsArchive && <Posts id={id} />}
    </>
  );
}

function Others({ id }: { id: string }) {
  const { data: others = [] } = useMemberOthersQuery(id);
  return (
    <details>
      <summary className="cursor-pointer font-[560] text-petrol">
        {t("member.whoIsOnIt", { others: others.length })}
      </summary>
      <ul className="mt-1 text-[13px]">
        {others.map(({ name, address }) => (
          <li key={address} className="py-0.5">
            <b className="font-[560]">{name}</b> <span className="mono">{address}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** A post by the address that its mail gives. */
function PostByAddress() {
  const { id = "" } = useParams();
  const { data: post, error } = useMemberPostQuery(id);
  if (error !== undefined && "status" in error && error.status === 401)
    return (
      <>
        <Head title={t("member.aMailOfAList")} line={t("member.itOpensOnYourOwn")} />
        <AskForLink />
      </>
    );
  if (error !== undefined) return <FaultLine error={error} />;
  if (post === undefined) return <Loading what={t("member.theMail")} />;
  return (
    <>
      <Head
        title={post.list.title}
        line={
          <Link
            to={`/member/lists/${post.list.id}`}
            className="text-petrol underline underline-offset-2"
          >
            {t("member.allThatWasWrittenTo")}
          </Link>
        }
      />
      <OnePost post={post} />
    </>
  );
}
