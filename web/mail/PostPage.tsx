import { useState } from "react";
import { Link, useParams } from "react-router";
import { may } from "@amigo/core/access/may";
import type { PostPage as Post } from "@amigo/contract/posts";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { moment } from "../ui/time";
import { Copies } from "../posts/PostTable";
import { MailFrame } from "./MailFrame";
import { usePostQuery } from "../data/posts";
import { DecideHeld } from "./DecideHeld";
import { Rich, t } from "../texts/mail";
import { fileSize } from "../ui/fileSize";
import type { Me } from "@amigo/contract/accounts";
import { ManagePost } from "./ManagePost";
import { PostMissed } from "./PostMissed";
import { PostRecipients } from "./PostRecipients";

const ANSWER =
  "inline-flex min-h-[30px] items-center rounded-md border border-hair bg-panel px-3 font-[560] hover:border-petrol";

/** One post: its text, its thread, and its delivery to every recipient as it happens, with the relay's words. */
export function PostPage() {
  const { id = "" } = useParams();
  const me = useMe();
  const { data: post, error } = usePostQuery(id);
  if (error !== undefined) return <FaultPage error={error} />;
  if (post === undefined) return <Loading what={t("mail.thePost")} />;
  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <PostHead post={post} me={me} />
      <p className="mb-3 flex flex-wrap items-baseline gap-x-4">
        <span>
          <Rich
            id="mail.toTheLeadsOfPeople"
            isReaches={String(post.reaches === "leads")}
            isLists={String(post.lists.length === 0)}
            lists={post.lists.map(({ id: list, title }, index) => (
              <span key={list}>
                {index > 0 && ", "}
                <Link to={`/lists/${list}`} className="font-[620] hover:underline">
                  {title}
                </Link>
              </span>
            ))}
          />
        </span>
        <span role="status">
          <Copies post={post} />
        </span>
      </p>
      <ManagePost post={post} />
      {post.outcome !== "goes out" && (
        <Panel className="mb-3 px-4 py-3">
          <b className={post.outcome === "held" ? "text-marigold-ink" : "text-brick"}>
            {post.outcome === "held"
              ? t("mail.itIsHeldUntilA")
              : t("mail.itWasAndReachedNobody", {
                  outcome: post.outcome,
                })}
          </b>
          <ol className="list-decimal pl-5 text-ink-2">
            {post.reasons.map((reason) => (
              <li key={reason}>{reason}</li>
            ))}
          </ol>
          {post.mayDecide && (
            <div className="mt-2">
              <DecideHeld id={post.id} />
            </div>
          )}
        </Panel>
      )}
      {post.decided !== null && (
        <p className="mb-3 text-[13px] text-ink-2">
          {t("mail.itWasHeldDecided", {
            by: post.decided.by,
            when: moment(post.decided.at, me.timeZone),
          })}
        </p>
      )}
      <div className="grid gap-3.5 lg:min-h-0 lg:flex-1 lg:grid-cols-[minmax(0,2fr)_minmax(0,3fr)]">
        <div className="flex min-w-0 flex-col lg:min-h-0 gap-3">
          <Body post={post} />
          {post.thread.length > 0 && <Thread post={post} />}
        </div>
        <Panel scrolls={t("mail.copies")}>
          {post.recipients.length === 0 ? (
            <p className="px-4 py-6 text-ink-2">{t("mail.noCopyWasSent")}</p>
          ) : (
            <PostRecipients post={post} />
          )}
          <PostMissed missed={post.missed} />
        </Panel>
      </div>
    </div>
  );
}

function Thread({ post }: { post: Post }) {
  const me = useMe();
  return (
    <Panel className="overflow-hidden">
      <h2 className="border-b border-hair px-4 py-2">{t("mail.theWholeThread")}</h2>
      <ol>
        {post.thread.map(({ id, subject, from, at }) => (
          <li
            key={id}
            className={`flex gap-3 border-t border-hair-soft px-4 py-1.5 first:border-t-0 ${id === post.id ? "bg-petrol-soft" : ""}`}
          >
            <span className="w-28 shrink-0 text-[13px] text-ink-3">{moment(at, me.timeZone)}</span>
            <Link
              to={`/mail/${id}`}
              aria-current={id === post.id ? "page" : undefined}
              className="min-w-0 flex-1 truncate hover:underline"
            >
              <b className="font-[620]">{from}</b> {subject}
            </Link>
          </li>
        ))}
      </ol>
    </Panel>
  );
}

/** The text of a post, or its HTML in a frame that runs nothing and fetches nothing; its attachments to be saved. */
function Body({ post }: { post: Post }) {
  const [asHtml, setAsHtml] = useState(false);
  return (
    <Panel scrolls={t("mail.text")} className="flex flex-col px-4 py-3">
      {post.html !== "" && (
        <p className="mb-2 text-[13px]">
          <Button look="quiet" onClick={() => setAsHtml(!asHtml)}>
            {asHtml ? t("mail.showAsPlainText") : t("mail.showFormatting")}
          </Button>
        </p>
      )}
      {asHtml ? (
        <MailFrame title={t("mail.formattedMail")} html={post.html} className="min-h-64" />
      ) : post.kept ? (
        <p className="whitespace-pre-wrap wrap-anywhere">{post.text}</p>
      ) : (
        <p className="text-ink-2">{t("mail.itsTextIsNoLonger")}</p>
      )}
      {post.attachments.length > 0 && (
        <ul className="mt-3 border-t border-hair-soft pt-2 text-[13px]">
          {post.attachments.map(({ index, name, size }) => (
            <li key={index}>
              <a
                className="text-petrol underline underline-offset-2"
                href={`/api/posts/${post.id}/attachments/${index}`}
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

function PostHead({ post, me }: { post: Post; me: Me }) {
  return (
    <PageHead
      title={post.subject === "" ? t("mail.noSubject") : post.subject}
      line={
        <>
          {post.from} · {moment(post.at, me.timeZone)}
        </>
      }
    >
      <Link to="/mail" className="mr-2 text-petrol underline underline-offset-2">
        {t("mail.allMail")}
      </Link>
      {post.outcome === "goes out" && post.kept && may(me.role, "write to lists") && (
        <>
          {post.lists.length > 0 && (
            <Link to={`/mail/write?answer=${post.id}&all`} className={ANSWER}>
              {t("mail.answerAll")}
            </Link>
          )}
          {post.fromAddress !== me.email && (
            <Link to={`/mail/write?answer=${post.id}`} className={ANSWER}>
              {t("mail.answer", { from: post.from })}
            </Link>
          )}
        </>
      )}
    </PageHead>
  );
}
