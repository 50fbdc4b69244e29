import { useDeferredValue, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { Button } from "../ui/Button";
import { useMe } from "../data/me";
import { Empty, FaultLine, Loading, PageHead, Panel } from "../ui/Page";
import { PostTable } from "../ui/PostTable";
import { Tabs } from "../ui/Tabs";
import { useHeldQuery, usePostsQuery } from "../data/posts";
import { SearchField } from "../ui/SearchField";
import { Drafts } from "./Drafts";
import { PrivateLists } from "./PrivateLists";

/** What was written to the lists, what was returned, and what became of every copy; private lists beside it. */
export function MailPage() {
  const me = useMe();
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const { data: held } = useHeldQuery();
  const show = search.get("show") ?? "";
  return (
    <>
      <PageHead title="Mail" line="Posts to your lists, and how they were delivered">
        {me.mailtown !== null && (
          <a
            className="text-petrol underline underline-offset-2"
            href={me.mailtown}
            target="_blank"
            rel="noreferrer"
          >
            Open Mailtown
          </a>
        )}
        <Button look="go" onClick={() => void navigate("/mail/write")}>
          Write a mail
        </Button>
      </PageHead>
      <Tabs
        label="Mail"
        value={show}
        onChange={(value) => {
          if (value === "held") void navigate("/mail/held");
          else setSearch(value === "" ? {} : { show: value });
        }}
        tabs={[
          ["", "Posts"],
          ["held", (held?.length ?? 0) === 0 ? "Held" : `Held (${held?.length ?? 0})`],
          ["drafts", "Drafts"],
          ["private", "My private lists"],
        ]}
      />
      {show === "private" ? <PrivateLists /> : show === "drafts" ? <Drafts /> : <Posts />}
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
          label="Find a mail"
          placeholder="words in a mail, or who wrote it"
          value={q}
          onChange={setQ}
          className="w-80 max-w-full"
        />
      </div>
      <FaultLine error={error} />
      {posts === undefined ? (
        error === undefined && <Loading what="the mail" />
      ) : (
        <Panel className="overflow-hidden">
          {posts.length === 0 && q !== "" ? (
            <Empty title={`No mail contains "${q}"`}>
              <p>Search finds the beginnings of words. Try fewer of them.</p>
            </Empty>
          ) : posts.length === 0 ? (
            <Empty title="Nothing was written yet">
              <p>Write to a list here, or from your own mail program to a list's address.</p>
            </Empty>
          ) : (
            <PostTable posts={posts} />
          )}
        </Panel>
      )}
    </>
  );
}
