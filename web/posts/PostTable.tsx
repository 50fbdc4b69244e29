import { Link } from "react-router";
import type { PostLine } from "@amigo/contract/posts";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { useMe } from "../data/me";
import { t } from "../texts/ui";
import { WideTable } from "../ui/WideTable";
import { moment } from "../ui/time";
import { useNarrow } from "../ui/useNarrow";

/** Posts, newest first, each with the states of its copies. */
export function PostTable({
  posts,
  showLists = true,
}: {
  posts: readonly PostLine[];
  showLists?: boolean;
}) {
  const me = useMe();
  if (useNarrow())
    return (
      <ul>
        {posts.map((post) => (
          <li key={post.id} className="border-b border-hair-soft px-3 py-2 last:border-b-0">
            <Link
              to={`/mail/${post.id}`}
              className="block font-[620] wrap-anywhere hover:underline"
            >
              {post.subject === "" ? t("ui.noSubject") : post.subject}
            </Link>
            <span className="flex flex-wrap justify-between gap-x-3 text-[13px] text-ink-2">
              <span>
                {post.from}
                {showLists && post.lists.length > 0 && (
                  <> → {say(each(post.lists.map(({ title }) => title)))}</>
                )}
              </span>
              <span className="text-ink-3">{moment(post.at, me.timeZone)}</span>
            </span>
            <Copies post={post} />
          </li>
        ))}
      </ul>
    );
  return (
    <WideTable label={t("ui.posts")} className="w-full table-fixed">
      <thead>
        <tr className="border-b border-hair text-left text-[12px] text-ink-3">
          <th className="px-4 py-1.5 font-[500]">{t("ui.subject")}</th>
          {showLists && <th className="px-4 py-1.5 font-[500]">{t("ui.to")}</th>}
          <th className="w-44 px-4 py-1.5 font-[500]">{t("ui.from")}</th>
          <th className="w-52 px-4 py-1.5 font-[500]">{t("ui.copies")}</th>
          <th className="w-32 px-4 py-1.5 font-[500]">{t("ui.written")}</th>
        </tr>
      </thead>
      <tbody>
        {posts.map((post) => (
          <tr
            key={post.id}
            className="border-b border-hair-soft align-baseline last:border-b-0 hover:bg-sunk"
          >
            <td className="px-4 py-2">
              <Link to={`/mail/${post.id}`} className="block truncate font-[620] hover:underline">
                {post.subject === "" ? t("ui.noSubject") : post.subject}
              </Link>
            </td>
            {showLists && (
              <td className="truncate px-4 py-2 text-ink-2">
                {say(each(post.lists.map(({ title }) => title)))}
              </td>
            )}
            <td className="truncate px-4 py-2 text-ink-2">{post.from}</td>
            <td className="px-4 py-2">
              <Copies post={post} />
            </td>
            <td className="px-4 py-2 text-ink-3">{moment(post.at, me.timeZone)}</td>
          </tr>
        ))}
      </tbody>
    </WideTable>
  );
}

/** The result of a post, in a few words with signs. */
export function Copies({ post }: { post: Pick<PostLine, "outcome" | "deliveries"> }) {
  if (post.outcome === "held")
    return <b className="font-[620] text-marigold-ink">{t("ui.held")}</b>;
  if (post.outcome !== "goes out") return <b className="font-[620] text-brick">− {post.outcome}</b>;
  const { waiting, sent, deferred, bounced, cancelled, digests } = post.deliveries;
  return (
    <span className="flex flex-wrap gap-x-2.5">
      {sent > 0 && <span className="text-leaf-ink">{t("ui.delivered", { sent })}</span>}
      {waiting > 0 && <span className="text-ink-2">{t("ui.onTheWay", { waiting })}</span>}
      {deferred > 0 && <span className="text-marigold-ink">{t("ui.retrying", { deferred })}</span>}
      {bounced > 0 && <span className="text-brick">{t("ui.refused", { bounced })}</span>}
      {cancelled > 0 && <span className="text-ink-2">{t("ui.cancelled", { cancelled })}</span>}
      {digests > 0 && <span className="text-ink-2">{t("ui.byDigest", { digests })}</span>}
      {sent + waiting + deferred + bounced + cancelled + digests === 0 && (
        <span className="text-ink-3">{t("ui.nobodyOnTheList")}</span>
      )}
    </span>
  );
}
