import type { ShelfDetails, ShelfThing } from "@amigo/contract/shelf";
import { useRestoreVersionMutation, useShelfThingQuery } from "../data/shelf";
import {
  useCommentMutation,
  useFollowMutation,
  useRemindMutation,
  useTakeCommentOutMutation,
} from "../data/shelfComments";
import { useMe } from "../data/me";
import { Comments } from "./Comments";
import { t } from "../texts/shelf";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { fileSize } from "../ui/fileSize";
import { FaultLine, Loading } from "../ui/Page";
import { moment } from "../ui/time";

/** Who may open a thing and who has, its versions, and what is said about it. */
export function ThingDetails({ thing }: { thing: ShelfThing }) {
  const { timeZone } = useMe();
  const { data, error } = useShelfThingQuery(thing.id);
  const [comment] = useCommentMutation();
  const [takeOut] = useTakeCommentOutMutation();
  const [follow] = useFollowMutation();
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined) return <Loading what={t("shelf.whoHasOpenedIt")} />;
  const hasTalk = thing.membersMay !== "view" || data.comments.length > 0;
  return (
    <div className="mt-4 flex flex-col gap-3">
      <Openers id={thing.id} data={data} />
      {data.versions.length > 1 && <Versions thing={thing} versions={data.versions} />}
      {hasTalk && (
        <Comments
          comments={data.comments}
          follows={data.follows}
          maySay
          timeZone={timeZone}
          actions={{
            say: (text, follows) => comment({ id: thing.id, text, follow: follows }),
            takeOut: (one) => takeOut({ id: thing.id, comment: one }),
            follow: (follows) => follow({ id: thing.id, follows }),
          }}
        />
      )}
    </div>
  );
}

function Openers({ id, data }: { id: string; data: ShelfDetails }) {
  const { timeZone } = useMe();
  const [remind, reminding] = useRemindMutation();
  const missing = data.openers.filter(({ openedAt }) => openedAt === null);
  return (
    <details>
      <summary className="cursor-pointer font-[560]">
        {t("shelf.canOpenItNow", {
          all: data.openers.length,
          opened: data.openers.length - missing.length,
        })}
      </summary>
      <ul className="mt-1 max-h-60 overflow-auto">
        {[...data.openers, ...data.former].map((opener) => (
          <li key={opener.address} className="flex flex-wrap gap-x-3 py-0.5 text-[13px]">
            <span className="min-w-40">{"name" in opener ? opener.name : ""}</span>
            <Address className="flex-1 text-ink-2">{opener.address}</Address>
            <span>
              {!("name" in opener)
                ? opener.why
                : opener.openedAt === null
                  ? t("shelf.notYet")
                  : t("shelf.openedAt", { moment: moment(opener.openedAt, timeZone) })}
            </span>
            {"name" in opener && <span className="basis-full text-ink-3">{opener.why}</span>}
          </li>
        ))}
      </ul>
      {missing.length > 0 && (
        <Button
          className="mt-1"
          disabled={reminding.isLoading || reminding.data !== undefined}
          onClick={() => void remind(id)}
        >
          {t("shelf.remindThem", { count: missing.length })}
        </Button>
      )}
      {reminding.data !== undefined && (
        <span role="status" className="ml-2 text-[13px]">
          {t("shelf.wereReminded", { count: reminding.data.addresses })}
        </span>
      )}
      <FaultLine error={reminding.error} />
    </details>
  );
}

function Versions({ thing, versions }: { thing: ShelfThing; versions: ShelfDetails["versions"] }) {
  const { timeZone } = useMe();
  const [restore, restoring] = useRestoreVersionMutation();
  return (
    <section aria-label={t("shelf.versions")}>
      <h3 className="text-[13px] text-ink-2">{t("shelf.versions")}</h3>
      <ul>
        {versions.map(({ number, name, size, by, at }) => (
          <li
            key={number}
            className="flex flex-wrap items-center gap-x-3 border-t border-hair-soft py-1 text-[13px]"
          >
            <a
              href={`/api/shelf/${thing.id}/files/${number}`}
              target="_blank"
              rel="noreferrer"
              className="text-petrol hover:underline"
            >
              {t("shelf.version", { version: number })}
            </a>
            <span className="flex-1 wrap-anywhere">
              {name}, {fileSize(size)} · {by}, {moment(at, timeZone)}
            </span>
            {number === thing.version ? (
              <span>{t("shelf.holdsNow")}</span>
            ) : (
              <Button
                disabled={restoring.isLoading}
                onClick={() => void restore({ id: thing.id, version: number })}
              >
                {t("shelf.restore")}
              </Button>
            )}
          </li>
        ))}
      </ul>
      <FaultLine error={restoring.error} />
    </section>
  );
}
