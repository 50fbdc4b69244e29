import { useDeferredValue, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { Button } from "../ui/Button";
import { useMe } from "../data/me";
import { Empty, FaultLine, Loading, PageHead, Panel } from "../ui/Page";
import { PostTable } from "../posts/PostTable";
import { Tabs } from "../ui/Tabs";
import { useHeldQuery, usePostsQuery } from "../data/posts";
import { SearchField } from "../ui/SearchField";
import { Drafts } from "./Drafts";
import { may } from "@amigo/core/access/may";
import { Trace } from "./Trace";
import { PrivateLists } from "./PrivateLists";
import { t } from "../texts/mail";

/** Mail to the lists, returned mail and the state of every copy; private lists beside it. */
export function MailPage() {
  const me = useMe();
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const { data: held } = useHeldQuery();
  const show = search.get("show") ?? "";
  return (
    <>
      <PageHead title={t("mail.mail")} line={t("mail.postsToYourListsAnd")}>
        {me.mailtown !== null && (
          <a
            className="text-petrol underline underline-offset-2"
            href={me.mailtown}
            target="_blank"
            rel="noreferrer"
          >
            {t("mail.openMailtown")}
          </a>
        )}
        <Button look="go" onClick={() => void navigate("/mail/write")}>
          {t("mail.writeAMail")}
        </Button>
      </PageHead>
      <Tabs
        label={t("mail.mail")}
        value={show}
        onChange={(value) => {
          if (value === "held") void navigate("/mail/held");
          else setSearch(value === "" ? {} : { show: value });
        }}
        tabs={[
          ["", t("mail.posts")],
          ["held", t("mail.held", { held: held?.length ?? 0 })],
          ["drafts", t("mail.drafts")],
          ["private", t("mail.myPrivateLists")],
          ...(may(me.role, "change the house") ? ([["trace", t("mail.trace")]] as const) : []),
        ]}
      />
      {show === "private" ? (
        <PrivateLists />
      ) : show === "drafts" ? (
        <Drafts />
      ) : show === "trace" ? (
        <Trace />
      ) : (
        <Posts />
      )}
    </>
  );
}

function Posts() {
  const [q, setQ] = useState("");
  const sought = useDeferredValue(q.trim());
  const { data: posts, error } = usePostsQuery(sought === "" ? {} : { q: sought });
  return (
    <>
      <div className="mb-3">
        <SearchField
          label={t("mail.findAMail")}
          placeholder={t("mail.wordsInAMailOr")}
          value={q}
          onChange={setQ}
          className="w-80 max-w-full"
        />
      </div>
      <FaultLine error={error} />
      {posts === undefined ? (
        error === undefined && <Loading what={t("mail.theMail")} />
      ) : (
        <Panel className="overflow-hidden">
          {posts.length === 0 && q !== "" ? (
            <Empty title={t("mail.noMailContains", { q })}>
              <p>{t("mail.searchFindsTheBeginningsOf")}</p>
            </Empty>
          ) : posts.length === 0 ? (
            <Empty title={t("mail.nothingWasWrittenYet")}>
              <p>{t("mail.writeToAListHere")}</p>
            </Empty>
          ) : (
            <PostTable posts={posts} />
          )}
        </Panel>
      )}
    </>
  );
}
