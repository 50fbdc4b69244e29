import { Link } from "react-router";
import type { MemberPost } from "@amigo/contract/member";
import { useMemberQuery } from "../data/member";
import { t } from "../texts/member";
import { Panel } from "../ui/Page";
import { fileSize } from "../ui/fileSize";
import { moment } from "../ui/time";

export function OnePost({ post }: { post: MemberPost }) {
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
