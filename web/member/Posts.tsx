import { useState, useDeferredValue } from "react";
import type { MemberPost } from "@amigo/contract/member";
import { useMemberArchiveQuery } from "../data/member";
import { t } from "../texts/member";
import { Button } from "../ui/Button";
import { FaultLine, Loading, Empty } from "../ui/Page";
import { SearchField } from "../ui/SearchField";
import { OnePost } from "./OnePost";

export function Posts({ id }: { id: string }) {
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
                <div key={post.id} className="ms-5">
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
