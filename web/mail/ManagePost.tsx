import { useState, useEffect } from "react";
import { useNavigate } from "react-router";
import type { PostPage as Post } from "@amigo/contract/posts";
import {
  useTakeBackMutation,
  usePausePostMutation,
  useCancelMutation,
  useTakeOutMutation,
} from "../data/posts";
import { t } from "../texts/mail";
import { Button } from "../ui/Button";
import { FaultLine } from "../ui/Page";
import { Warn } from "../ui/Signs";

/** What can be done with a post that is on its way, or stands in the archive. */
export function ManagePost({ post }: { post: Post }) {
  const navigate = useNavigate();
  const [takeBack, taking] = useTakeBackMutation();
  const [pause, pausing] = usePausePostMutation();
  const [cancel, cancelling] = useCancelMutation();
  const [takeOut, takingOut] = useTakeOutMutation();
  const left = useSecondsUntil(post.leavesAt);
  if (!post.mayManage || post.outcome !== "goes out") return null;
  const open = post.deliveries.waiting + post.deliveries.deferred;
  const back = async (): Promise<void> => {
    const { data } = await takeBack(post.id);
    if (data !== undefined)
      void navigate(data.draft === null ? "/mail" : `/mail/write?draft=${data.draft}`);
  };
  return (
    <div className="mb-3 flex flex-wrap items-center gap-2 empty:hidden">
      {left > 0 && post.mayManageAll && (
        <p className="flex items-center gap-3 rounded-md border border-petrol bg-petrol-soft px-3 py-1.5">
          <span role="timer">{t("mail.itLeavesInS", { left })}</span>
          <Button look="go" disabled={taking.isLoading} onClick={() => void back()}>
            {t("mail.undoSending")}
          </Button>
        </p>
      )}
      {post.pausedBy !== "" && <Warn>{t("mail.pausedIt", { pausedBy: post.pausedBy })}</Warn>}
      {open > 0 && left === 0 && (
        <>
          {post.mayManageAll && (
            <Button
              disabled={pausing.isLoading}
              onClick={() => void pause({ id: post.id, paused: post.pausedBy === "" })}
            >
              {post.pausedBy === "" ? t("mail.pause") : t("mail.resume")}
            </Button>
          )}
          <Button disabled={cancelling.isLoading} onClick={() => void cancel(post.id)}>
            {t("mail.cancelCopies", { open })}
          </Button>
        </>
      )}
      {open === 0 &&
        post.mayManageAll &&
        post.lists.length > 0 &&
        (post.takenOutBy === "" ? (
          <Button
            look="quiet"
            disabled={takingOut.isLoading}
            onClick={() => void takeOut({ id: post.id, out: true })}
          >
            {t("mail.removeFromTheArchive")}
          </Button>
        ) : (
          <>
            <span className="text-ink-2">
              {t("mail.removedItFromTheArchive", { takenOutBy: post.takenOutBy })}
            </span>
            <Button
              look="quiet"
              disabled={takingOut.isLoading}
              onClick={() => void takeOut({ id: post.id, out: false })}
            >
              {t("mail.restore")}
            </Button>
          </>
        ))}
      <FaultLine error={taking.error ?? pausing.error ?? cancelling.error ?? takingOut.error} />
    </div>
  );
}

/** Whole seconds until a moment, counted down as one looks. */
function useSecondsUntil(moment: string | null): number {
  const [now, setNow] = useState(() => Date.now());
  const end = moment === null ? 0 : Date.parse(moment);
  useEffect(() => {
    if (end <= Date.now()) return;
    const timer = setInterval(() => {
      setNow(Date.now());
      if (Date.now() > end) clearInterval(timer);
    }, 250);
    return () => clearInterval(timer);
  }, [end]);
  return Math.max(0, Math.ceil((end - now) / 1000));
}
