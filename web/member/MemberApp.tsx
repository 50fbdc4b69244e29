import { each } from "@amigo/language/message";
import { useDeferredValue, useState, type FormEvent, type ReactNode } from "react";
import { Link, Route, Routes, useNavigate, useParams } from "react-router";
import { say, writeTextsAs } from "@amigo/language/say";
import { HOW_OFTEN, type MemberLists, type MemberPost } from "@amigo/contract/member";
import { wordsOf } from "@amigo/core/posting/rules/allRules";
import {
  useConfirmAddressMutation,
  useHowOftenMutation,
  useMemberArchiveQuery,
  useMemberPostQuery,
  useMemberEnterMutation,
  useMemberGoMutation,
  useMemberJoinMutation,
  useMemberLeaveMutation,
  useMemberLinkMutation,
  useMemberOthersQuery,
  useMemberQuery,
  useNewAddressMutation,
  usePauseMutation,
  useWrongMutation,
} from "../data/member";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { Empty, FaultLine, Loading, Panel } from "../ui/Page";
import { SearchField } from "../ui/SearchField";
import { Warn } from "../ui/Signs";
import { dayOf, moment, today, writeDatesAs } from "../ui/time";
import { DayField } from "../ui/DayField";
import { t } from "../texts/t";
import { Rich } from "../texts/Rich";
import { fileSize } from "../ui/fileSize";

/** The pages of members, who have no account: opened by a mailed link, made for a phone. */
export function MemberApp() {
  return (
    <main className="mx-auto flex min-h-dvh w-full max-w-2xl flex-col gap-3.5 p-4">
      <Routes>
        <Route path="/member" element={<Page />} />
        <Route path="/member/lists/:id" element={<Archive />} />
        <Route path="/member/posts/:id" element={<PostByAddress />} />
        <Route path="/member/address/:token" element={<NewAddress />} />
        <Route path="/member/:token" element={<Enter />} />
        <Route path="*" element={<Empty title={t("member.pageNotFound")} />} />
      </Routes>
    </main>
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
              if (answer.error === undefined) void navigate("/member", { replace: true });
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

function AskForLink() {
  const [address, setAddress] = useState("");
  const [ask, { error, isSuccess, isLoading }] = useMemberLinkMutation();
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    void ask(address);
  };
  return (
    <Panel className="p-4">
      {isSuccess ? (
        <p role="status">
          <Rich id="member.ifIsOnAList" address={<b>{address}</b>} />
        </p>
      ) : (
        <form className="flex flex-col gap-3" onSubmit={submit}>
          <Field
            label={t("member.yourAddressAtWhichYou")}
            type="email"
            autoComplete="email"
            value={address}
            onChange={(event) => setAddress(event.target.value)}
            className="[&_input]:h-[44px]"
          />
          <FaultLine error={error} />
          <Button
            look="go"
            className="min-h-[44px]!"
            type="submit"
            disabled={address.trim() === "" || isLoading}
          >
            {t("member.mailMeALink")}
          </Button>
        </form>
      )}
    </Panel>
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
  writeDatesAs(item.locale);
  writeTextsAs(item.locale);
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
        <Button onClick={() => void go()}>{t("member.closeMyPage")}</Button>
      </div>
      <Pause own={item} />
      <section aria-label={t("member.myLists")} className="flex flex-col gap-2.5">
        <h2>{item.lists.length === 0 ? t("member.youAreOnNoList") : t("member.myLists")}</h2>
        {item.lists.map((list) => (
          <OneList key={list.id} list={list} />
        ))}
      </section>
      {item.open.length > 0 && (
        <section aria-label={t("member.otherLists")}>
          <h2 className="mb-2">{t("member.otherLists")}</h2>
          <Panel>
            <ul>
              {item.open.map((list) => (
                <Open key={list.id} list={list} />
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

function OneList({ list }: { list: MemberLists["lists"][number] }) {
  const [howOften, setting] = useHowOftenMutation();
  const [leave, leaving] = useMemberLeaveMutation();
  const [asking, setAsking] = useState(false);
  return (
    <Panel className="px-4 py-3">
      <h3 className="font-[640]">{list.title}</h3>
      {list.description !== "" && <p>{list.description}</p>}
      <p className="text-[13px] text-ink-2">{t("member.reason", { because: list.because })}</p>
      <p className="my-2">
        <Rich
          id="member.iGet"
          choice={
            <Choice
              label={t("member.howOften", { title: list.title })}
              value={list.howOften}
              onChange={(value) => void howOften({ id: list.id, howOften: value })}
              options={HOW_OFTEN.map((value) => ({ value, name: say(wordsOf("howOften", value)) }))}
            />
          }
        />
      </p>
      <FaultLine error={setting.error ?? leaving.error} />
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        {(list.readsArchive || list.members !== null) && (
          <Link
            to={`/member/lists/${list.id}`}
            className="text-petrol underline underline-offset-2"
          >
            <Rich
              id="member.whatWasWritten"
              readsArchive={String(list.readsArchive)}
              readsArchive2={
                <span className="sr-only">
                  {" "}
                  {t("member.to", { readsArchive: String(list.readsArchive), title: list.title })}
                </span>
              }
            />
          </Link>
        )}
        {!list.mayLeave ? (
          <span className="text-[13px] text-ink-2">
            <Rich
              id="member.toLeaveThisListWrite"
              leads={say(each(list.leads))}
              address={
                <a
                  className="text-petrol underline underline-offset-2 wrap-anywhere"
                  href={`mailto:${list.leadsAddress}`}
                >
                  {list.leadsAddress}
                </a>
              }
            />
          </span>
        ) : asking ? (
          <span className="flex flex-wrap items-center gap-2">
            {t("member.leaveThisListYouWont")}{" "}
            <Button look="go" disabled={leaving.isLoading} onClick={() => void leave(list.id)}>
              {t("member.leave", { title: list.title })}
            </Button>
            <Button onClick={() => setAsking(false)}>{t("member.stay")}</Button>
          </span>
        ) : (
          <Button onClick={() => setAsking(true)}>
            <Rich id="member.leave2" title={<span className="sr-only"> {list.title}</span>} />
          </Button>
        )}
      </div>
    </Panel>
  );
}

function Open({ list }: { list: MemberLists["open"][number] }) {
  const [join, { isLoading, error }] = useMemberJoinMutation();
  return (
    <li className="flex flex-wrap items-center gap-3 border-b border-hair-soft px-4 py-2.5 last:border-b-0">
      <span className="min-w-40 flex-1">
        <b className="font-[620]">{list.title}</b>
        <span className="block text-[13px] text-ink-2">{list.description}</span>
      </span>
      {list.readsArchive && (
        <Link to={`/member/lists/${list.id}`} className="text-petrol underline underline-offset-2">
          <Rich
            id="member.whatWasWrittenTo"
            title={list.title}
            span={(chunks) => <span className="sr-only">{chunks}</span>}
          />
        </Link>
      )}
      {list.how === "no" ? null : list.asked ? (
        <span className="text-[13px] text-ink-2">{t("member.askedALeadDecides")}</span>
      ) : (
        <Button disabled={isLoading} onClick={() => void join(list.id)}>
          <Rich
            id="member.join"
            isHow={String(list.how === "join")}
            title={<span className="sr-only">: {list.title}</span>}
          />
        </Button>
      )}
      <FaultLine error={error} />
    </li>
  );
}

function Pause({ own: item }: { own: MemberLists }) {
  const [until, setUntil] = useState("");
  const [pause, { error, isLoading }] = usePauseMutation();
  return (
    <Panel className="px-4 py-3">
      {item.pausedUntil !== "" ? (
        <p className="flex flex-wrap items-center gap-3">
          <Warn>{t("member.youGetNoMailOf", { when: dayOf(item.pausedUntil, item.locale) })}</Warn>
          <Button disabled={isLoading} onClick={() => void pause("")}>
            {t("member.getMailAgain")}
          </Button>
        </p>
      ) : (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void pause(until);
          }}
        >
          <DayField
            label={t("member.getNoMailOfAny")}

            min={today(item.timeZone)}
            value={until}
            onChange={setUntil}
          />
          <Button type="submit" disabled={until === "" || isLoading}>
            {t("member.pause")}
          </Button>
        </form>
      )}
      <FaultLine error={error} />
    </Panel>
  );
}

function Children({ own: item }: { own: MemberLists }) {
  const [about, setAbout] = useState<string>();
  if (item.children.length === 0) return null;
  return (
    <section aria-label={t("member.yourDetails")}>
      <h2 className="mb-2">{t("member.yourDetails")}</h2>
      <Panel>
        <ul>
          {item.children.map(({ name, classes }) => (
            <li
              key={name}
              className="flex flex-wrap items-center gap-3 border-b border-hair-soft px-4 py-2.5 last:border-b-0"
            >
              <span className="min-w-40 flex-1">
                <b className="font-[620]">{name}</b>
                <span className="block text-[13px] text-ink-2">
                  {classes.length === 0 ? t("member.inNoClass") : say(each(classes))}
                </span>
              </span>
              <Button
                look="quiet"
                onClick={() => setAbout(`${name}, ${say(each(classes)) || t("member.noClass")}`)}
              >
                <Rich id="member.reportAMistake" name={<span className="sr-only">: {name}</span>} />
              </Button>
            </li>
          ))}
        </ul>
      </Panel>
      {about !== undefined && <Wrong about={about} onClose={() => setAbout(undefined)} />}
    </section>
  );
}

function Wrong({ about, onClose }: { about: string; onClose: () => void }) {
  const [text, setText] = useState("");
  const [tell, { error, isLoading, isSuccess }] = useWrongMutation();
  if (isSuccess)
    return (
      <Panel className="mt-2 px-4 py-3">
        <p role="status">
          {t("member.thankYouTheOfficeHas")}{" "}
          <Button className="ml-2" onClick={onClose}>
            {t("member.good")}
          </Button>
        </p>
      </Panel>
    );
  return (
    <Panel className="mt-2 px-4 py-3">
      <form
        className="flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void tell({ about, text });
        }}
      >
        <label className="text-[13px] font-[560]">
          {t("member.whatIsWrongAbout", { about })}
          <textarea
            rows={3}
            autoFocus
            value={text}
            maxLength={2000}
            onChange={(event) => setText(event.target.value)}
            className="mt-1 block w-full rounded-md border border-hair bg-panel px-2.5 py-1.5 font-normal"
          />
        </label>
        <FaultLine error={error} />
        <div className="flex gap-2">
          <Button look="go" type="submit" disabled={text.trim().length < 3 || isLoading}>
            {t("member.tellTheOffice")}
          </Button>
          <Button onClick={onClose}>{t("member.cancel")}</Button>
        </div>
      </form>
    </Panel>
  );
}

const STATES = {
  works: t("member.mailArrivesThere"),
  bounced: t("member.mailCameBack"),
  "not written to yet": t("member.nothingWasSentThereYet"),
} as const;

function Addresses({ own: item }: { own: MemberLists }) {
  const [address, setAddress] = useState("");
  const [name, { error, isLoading, isSuccess, reset }] = useNewAddressMutation();
  return (
    <section aria-label={t("member.myAddresses")}>
      <h2 className="mb-2">{t("member.myAddresses")}</h2>
      <Panel className="px-4 py-3">
        <ul>
          {item.addresses.map((line) => (
            <li key={line.address} className="py-1">
              <span className="mono wrap-anywhere">{line.address}</span>
              <span
                className={`block text-[13px] ${line.state === "bounced" ? "text-marigold-ink" : "text-ink-2"}`}
              >
                {STATES[line.state]}
              </span>
            </li>
          ))}
        </ul>
        {isSuccess ? (
          <p role="status" className="mt-2">
            <Rich id="member.aLinkWasMailedTo" address={<b>{address}</b>} address2={item.address} />{" "}
            <Button
              className="ml-2"
              onClick={() => {
                reset();
                setAddress("");
              }}
            >
              {t("member.good")}
            </Button>
          </p>
        ) : (
          <form
            className="mt-2 flex flex-wrap items-end gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              void name(address);
            }}
          >
            <Field
              label={t("member.aNewOneInPlace", { address: item.address })}
              type="email"
              autoComplete="email"
              value={address}
              onChange={(event) => {
                setAddress(event.target.value);
                reset();
              }}
              className="min-w-56 flex-1"
            />
            <Button type="submit" disabled={address.trim() === "" || isLoading}>
              {t("member.mailALinkThere")}
            </Button>
          </form>
        )}
        <FaultLine error={error} />
      </Panel>
    </section>
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

function Posts({ id }: { id: string }) {
  const [before, setBefore] = useState<string>();
  const [q, setQ] = useState("");
  const sought = useDeferredValue(q.trim());
  const { data: posts, error } = useMemberArchiveQuery({
    id,
    q: sought,
    ...(before === undefined ? {} : { before }),
  });
  if (error !== undefined) return <FaultLine error={error} />;
  return (
    <>
      <SearchField
        label={t("member.findInWhatWasWritten")}
        placeholder={t("member.wordsOfAMail")}
        value={q}
        onChange={(value) => {
          setQ(value);
          setBefore(undefined);
        }}
        className="w-full"
      />
      {posts === undefined ? (
        <Loading what={t("member.whatWasWritten2")} />
      ) : posts.length === 0 ? (
        <Empty
          title={
            q !== ""
              ? t("member.nothingHolds", { q })
              : before === undefined
                ? t("member.nothingWasWrittenYet")
                : t("member.nothingOlder")
          }
        />
      ) : (
        threadsOf(posts).map(([first, ...rest]) =>
          first === undefined ? null : (
            <section key={first.id} aria-label={first.subject} className="flex flex-col gap-2">
              <OnePost post={first} />
              {rest.map((post) => (
                <div key={post.id} className="ml-5">
                  <OnePost post={post} />
                </div>
              ))}
            </section>
          ),
        )
      )}
      <div className="flex gap-2">
        {before !== undefined && (
          <Button onClick={() => setBefore(undefined)}>{t("member.newest")}</Button>
        )}
        {posts?.length === 20 && (
          <Button onClick={() => setBefore(posts[posts.length - 1]?.at)}>
            {t("member.older")}
          </Button>
        )}
      </div>
    </>
  );
}

/** Posts by thread: the thread with the newest post first, in each the oldest first. */
function threadsOf(posts: readonly MemberPost[]): MemberPost[][] {
  const threads = new Map<string, MemberPost[]>();
  for (const post of posts) threads.set(post.thread, [post, ...(threads.get(post.thread) ?? [])]);
  return [...threads.values()];
}

function OnePost({ post }: { post: MemberPost }) {
  const { data: item } = useMemberQuery();
  return (
    <Panel className="px-4 py-3">
      <h2 className="wrap-anywhere">
        <Link to={`/member/posts/${post.id}`} className="hover:underline">
          {post.subject === "" ? t("member.noSubject") : post.subject}
        </Link>
      </h2>
      <p className="text-[13px] text-ink-2">
        {post.from}
        {item !== undefined && `, ${moment(post.at, item.timeZone, new Date(), item.locale)}`}
      </p>
      <p className="mt-2 whitespace-pre-wrap wrap-anywhere">{post.text}</p>
      {post.attachments.length > 0 && (
        <ul className="mt-2 border-t border-hair-soft pt-2 text-[13px]">
          {post.attachments.map(({ index, name, size }) => (
            <li key={index}>
              <a
                className="text-petrol underline underline-offset-2"
                href={`/api/member/posts/${post.id}/attachments/${index}`}
                download
              >
                {name}
              </a>{" "}
              <span className="text-ink-3">{fileSize(size)}</span>
            </li>
          ))}
        </ul>
      )}
    </Panel>
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
