import { Suspense, useState } from "react";
import type { MemberThing } from "@amigo/contract/memberShelf";
import { useMemberQuery } from "../data/member";
import {
  useMemberShelfQuery,
  usePutMemberFileMutation,
  useTakeMemberThingOffMutation,
} from "../data/memberShelf";
import { useSendFiles } from "../data/uploads";
import { t } from "../texts/member";
import { PickFile } from "../shelf/PickFile";
import { SendingFile } from "../shelf/SendingFile";
import { Button } from "../ui/Button";
import { fetched } from "../ui/fetched";
import { fileSize } from "../ui/fileSize";
import { FaultLine, Panel } from "../ui/Page";
import { dayOf } from "../ui/time";
import { useNarrow } from "../ui/useNarrow";

const Preview = fetched(() => import("../shelf/Preview"), "Preview");
const ThingTalk = fetched(() => import("./ThingTalk"), "ThingTalk");

/** What a member's lists share with them. Whether they have opened it, those see who look after the list. */
export function Shelf({ first = "" }: { first?: string }) {
  const { data, error } = useMemberShelfQuery();
  const { data: member } = useMemberQuery();
  const [shown, setShown] = useState<MemberThing>();
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined) return null;
  const { things, mayAddTo } = data;
  if (things.length === 0 && mayAddTo.length === 0 && first === "") return null;
  const chosen = things.filter(({ id }) => id === first);
  const others = things.filter(({ id }) => id !== first);
  return (
    <section aria-label={t("member.sharedWithYou")}>
      <h2 className="mb-2">{t("member.sharedWithYou")}</h2>
      {first !== "" && chosen.length === 0 && (
        <p role="status" className="mb-2">
          {t("member.notOpenToYou")}
        </p>
      )}
      {things.length > 0 && (
        <Panel>
          <ul>
            {[...chosen, ...others].map((thing) => (
              <Thing
                key={thing.id}
                thing={thing}
                timeZone={member?.timeZone ?? "UTC"}
                onShow={() => setShown(thing)}
              />
            ))}
          </ul>
        </Panel>
      )}
      <Archives things={things} />
      {mayAddTo.map((list) => (
        <AddFile key={list.id} list={list} />
      ))}
      {things.length > 0 && (
        <p className="mt-1.5 text-[13px] text-ink-2">{t("member.leadsSeeWhatYouOpen")}</p>
      )}
      <Suspense fallback={null}>
        {shown !== undefined && shown.shownAs !== "" && (
          <Preview
            title={shown.title}
            path={pathOf(shown)}
            shownAs={shown.shownAs}
            onClose={() => setShown(undefined)}
          />
        )}
      </Suspense>
    </section>
  );
}

function pathOf({ id }: MemberThing): string {
  return `/api/member/shelf/${id}/files/open`;
}

function Thing({
  thing,
  timeZone,
  onShow,
}: {
  thing: MemberThing;
  timeZone: string;
  onShow: () => void;
}) {
  const [isTalking, setTalking] = useState(false);
  const [takeOff, { error }] = useTakeMemberThingOffMutation();
  const isNarrow = useNarrow();
  // Browsers of phones show PDF in a window of its own, and not within a page.
  const isInPage = thing.shownAs !== "" && !(thing.shownAs === "page" && isNarrow);
  const isInWindow = !isInPage && (thing.kind === "link" || thing.shownAs === "page");
  const hasTalk = thing.mayComment || thing.mayChange || thing.comments > 0;
  return (
    <li className="border-t border-hair-soft px-3.5 py-2.5 first:border-t-0">
      <span className="flex flex-wrap items-center justify-between gap-x-3 gap-y-1">
        <span className="min-w-0 flex-1 basis-48">
          <b className="font-[620] wrap-anywhere">{thing.title}</b>
          <span className="block text-[13px] text-ink-2 wrap-anywhere">{aboutThing(thing)}</span>
        </span>
        <span className="flex flex-wrap gap-2">
          {!isInPage ? (
            <a
              href={pathOf(thing)}
              target={isInWindow ? "_blank" : undefined}
              rel="noreferrer"
              className="inline-flex min-h-[44px] items-center rounded-md border border-hair bg-panel px-3 font-[560] hover:border-petrol"
            >
              {isInWindow ? t("member.open") : t("member.download")}
              <span className="sr-only"> {thing.title}</span>
            </a>
          ) : (
            <Button className="min-h-[44px]!" onClick={onShow}>
              {t("member.open")}
              <span className="sr-only"> {thing.title}</span>
            </Button>
          )}
          {hasTalk && (
            <Button
              className="min-h-[44px]!"
              aria-expanded={isTalking}
              onClick={() => setTalking(!isTalking)}
            >
              {thing.mayChange
                ? t("member.talkAndChange", { count: thing.comments })
                : t("member.talk", { count: thing.comments })}
              <span className="sr-only"> {thing.title}</span>
            </Button>
          )}
          {thing.isTheirs && (
            <Button className="min-h-[44px]!" onClick={() => void takeOff(thing.id)}>
              {t("member.takeOff")}
              <span className="sr-only"> {thing.title}</span>
            </Button>
          )}
        </span>
      </span>
      <FaultLine error={error} />
      <Suspense fallback={null}>
        {isTalking && <ThingTalk thing={thing} timeZone={timeZone} />}
      </Suspense>
    </li>
  );
}

function aboutThing(thing: MemberThing): string {
  return [
    thing.list,
    thing.folder,
    thing.kind === "link" ? t("member.linkElsewhere") : `${thing.name}, ${fileSize(thing.size)}`,
    thing.untilDay === "" ? "" : t("member.until", { day: dayOf(thing.untilDay) }),
  ]
    .filter((part) => part !== "")
    .join(" · ");
}

/** Where all files of a list are downloaded as one archive. */
function Archives({ things }: { things: readonly MemberThing[] }) {
  const counts = new Map<string, { title: string; files: number }>();
  for (const { kind, listId, list } of things)
    if (kind === "file")
      counts.set(listId, { title: list, files: (counts.get(listId)?.files ?? 0) + 1 });
  return [...counts].map(([id, { title, files }]) =>
    files < 2 ? null : (
      <p key={id} className="mt-1.5 text-[13px]">
        <a
          href={`/api/member/lists/${id}/shelf/files/zip`}
          className="text-petrol underline underline-offset-2"
        >
          {t("member.downloadAll", { files, list: title })}
        </a>
      </p>
    ),
  );
}

/** Adds a file to a shelf that is open to its list's members. */
function AddFile({ list }: { list: { id: string; title: string } }) {
  const [put] = usePutMemberFileMutation();
  const { sendAll, underWay, error, isSending } = useSendFiles("member", (file, upload) =>
    put({ list: list.id, file, upload }),
  );
  return (
    <div className="mt-2">
      <PickFile
        label={t("member.addFileTo", { list: list.title })}
        disabled={isSending}
        className="min-h-[44px]!"
        onPick={(file) => void sendAll([file])}
      />
      {underWay !== undefined && <SendingFile file={underWay} />}
      <FaultLine error={error} />
    </div>
  );
}
