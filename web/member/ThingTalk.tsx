import type { MemberThing } from "@amigo/contract/memberShelf";
import {
  useMemberCommentMutation,
  useMemberFollowMutation,
  useMemberThingQuery,
  usePutMemberVersionMutation,
  useTakeOwnCommentOutMutation,
} from "../data/memberShelf";
import { useSendFiles } from "../data/uploads";
import { t } from "../texts/shelf";
import { Comments } from "../shelf/Comments";
import { PickFile } from "../shelf/PickFile";
import { SendingFile } from "../shelf/SendingFile";
import { FaultLine, Loading } from "../ui/Page";
import { moment } from "../ui/time";

/** What is said about a thing, and who changed it, with what a member may add to both. */
export function ThingTalk({ thing, timeZone }: { thing: MemberThing; timeZone: string }) {
  const { data, error } = useMemberThingQuery(thing.id);
  const [comment] = useMemberCommentMutation();
  const [takeOut] = useTakeOwnCommentOutMutation();
  const [follow] = useMemberFollowMutation();
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined) return <Loading what={t("shelf.comments")} />;
  return (
    <div className="mt-2 flex flex-col gap-2">
      {thing.mayChange && <NewVersion thing={thing} />}
      {data.versions.length > 1 && (
        <ul aria-label={t("shelf.versions")} className="text-[13px] text-ink-2">
          {data.versions.map(({ number, by, at }) => (
            <li key={number}>{t("shelf.versionBy", { number, by, at: moment(at, timeZone) })}</li>
          ))}
        </ul>
      )}
      <Comments
        comments={data.comments}
        follows={data.follows}
        maySay={thing.mayComment}
        timeZone={timeZone}
        actions={{
          say: (text, follows) => comment({ id: thing.id, text, follow: follows }),
          takeOut: (one) => takeOut({ id: thing.id, comment: one }),
          follow: (follows) => follow({ id: thing.id, follows }),
        }}
      />
    </div>
  );
}

function NewVersion({ thing }: { thing: MemberThing }) {
  const [put, { data }] = usePutMemberVersionMutation();
  const { sendAll, underWay, error, isSending } = useSendFiles("member", (file, upload) =>
    put({ id: thing.id, version: thing.version, file, upload }),
  );
  return (
    <div>
      <PickFile
        label={t("shelf.newVersion")}
        disabled={isSending}
        className="min-h-[44px]!"
        onPick={(file) => void sendAll([file])}
      />
      {underWay !== undefined && <SendingFile file={underWay} />}
      <FaultLine error={error} />
      {data?.besideAnother === true && <p role="alert">{t("shelf.anotherVersionToo")}</p>}
    </div>
  );
}
