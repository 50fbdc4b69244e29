import { useEffect, useEffectEvent, useRef, useState } from "react";
import { useLocation, useNavigate, useSearchParams } from "react-router";
import type { Target } from "@amigo/contract/drafts";
import {
  useAddFileMutation,
  useDropFileMutation,
  useReckonDraftQuery,
  useSendDraftMutation,
} from "../data/drafts";
import { useListQuery } from "../data/lists";
import { useMe } from "../data/me";
import { usePostQuery } from "../data/posts";
import { usePrivateListQuery } from "../data/private";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { answerTo } from "./answerTo";
import { Editor } from "./Editor";
import { FindPeople } from "./FindPeople";
import { Files } from "./Files";
import { PreviewDialog } from "./PreviewDialog";
import { Reckoned } from "./Reckoned";
import { TargetField } from "./TargetField";
import { faultOf, targetsIn } from "./typedTargets";
import { useDraft } from "./useDraft";
import { t } from "../texts/t";
import { SenderChoice } from "./SenderChoice";
import { CopyFields } from "./CopyFields";
import { AskFirst } from "./AskFirst";
import { WriteHead } from "./WriteHead";
import { LaterForm } from "./LaterForm";

/** Where recipients are typed. */
const FIELDS = ["to", "cc", "bcc"] as const;

/** The reckoning follows once whom it goes to has rested for so many milliseconds. */
const RESTS = 250;

/** Writing a mail: whom it goes to, always with the true count; text, files and pictures; now, at a time, or to oneself first. */
export function WritePage() {
  const me = useMe();
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const draft = useDraft();
  const { content, change, id } = draft;
  const [given] = useState(() => ({
    to: search.get("to") ?? "",
    privately: search.get("private") ?? "",
    answer: search.get("answer") ?? "",
    toAll: search.get("all") !== null,
  }));
  const answered = usePostQuery(given.answer, { skip: given.answer === "" });
  const list = useListQuery(given.to, { skip: given.to === "" });
  const privately = usePrivateListQuery(given.privately, { skip: given.privately === "" });
  const [more, setMore] = useState(false);
  const [asking, setAsking] = useState<"now" | "later">();
  const [queued, setQueued] = useState<"now" | "later">();
  const [planning, setPlanning] = useState(false);
  const [at, setAt] = useState("");
  const [previewing, setPreviewing] = useState(false);
  const [send, sending] = useSendDraftMutation();
  const [addFile, adding] = useAddFileMutation();
  const [dropFile] = useDropFileMutation();
  const put = useRef(false);
  const [texts, setTexts] = useState({ to: "", cc: "", bcc: "" });
  const [finding, setFinding] = useState(false);
  const [unsettled, setUnsettled] = useState("");
  const ticked = (useLocation().state as { people?: Target[] } | null)?.people;
  useEffect(() => {
    if (ticked === undefined || put.current) return;
    put.current = true;
    change({ to: ticked });
  }, [ticked, change]);
  /** Makes recipients of what was typed last; answers whether nothing is left that is none. */
  const settleTyped = (): boolean => {
    const left = FIELDS.map((field) => [field, targetsIn(texts[field], content[field])] as const);
    const made = left.filter(([, { targets }]) => targets.length > 0);
    if (made.length > 0)
      change(
        Object.fromEntries(
          made.map(([field, { targets }]) => [field, [...content[field], ...targets]]),
        ),
      );
    setTexts({
      to: left[0]?.[1].rest ?? "",
      cc: left[1]?.[1].rest ?? "",
      bcc: left[2]?.[1].rest ?? "",
    });
    const wrong = left.find(([, { rest }]) => rest !== "");
    setUnsettled(wrong === undefined ? "" : faultOf(wrong[1].rest));
    return made.length === 0 && wrong === undefined;
  };
  useEffect(() => {
    const name = list.data?.title ?? privately.data?.name;
    if (name === undefined || put.current) return;
    put.current = true;
    change({
      to: [
        given.to !== ""
          ? { kind: "list", id: given.to, name }
          : { kind: "private", id: given.privately, name },
      ],
    });
  }, [list.data, privately.data, given, change]);
  useEffect(() => {
    const { data: post } = answered;
    if (post === undefined || put.current) return;
    put.current = true;
    change(answerTo(post, given.toAll, me.email));
  }, [answered, given, change, me.email]);
  const [wanted, isRested] = useRested(
    { content: { ...content, html: content.html.slice(0, 400_000) }, files: draft.files.length },
    RESTS,
  );
  const isEmpty = content.to.length + content.cc.length + content.bcc.length === 0;
  // The count is asked for by whom it goes to alone, so that it is always the one of now; what is to be asked before, by the text, too.
  const { currentData: counts } = useReckonDraftQuery(
    { content: { ...content, subject: "", html: "", copyToMe: false }, files: 0 },
    { skip: isEmpty },
  );
  const reckoning = useReckonDraftQuery(wanted, { skip: isEmpty });
  const asks = reckoning.currentData?.asks ?? [];
  const isReady =
    counts !== undefined &&
    (counts.addresses > 0 || counts.notes.length > 0) &&
    counts.refused.length === 0 &&
    content.subject.trim() !== "" &&
    (content.html !== "" || draft.files.length > 0);
  const submit = async (how: "now" | "later", asked: readonly string[] = []): Promise<void> => {
    if (sending.isLoading) return;
    const wasSettled = settleTyped();
    if (FIELDS.some((field) => targetsIn(texts[field], content[field]).rest !== "")) return;
    if (!wasSettled) {
      setQueued(how);
      return;
    }
    // What was typed last must have been counted first; then it goes on by itself.
    if (!isRested || reckoning.isFetching) {
      setQueued(how);
      return;
    }
    if (!isReady) return;
    if (asks.some((ask) => !asked.includes(ask.id))) {
      setAsking(how);
      return;
    }
    setAsking(undefined);
    if (!(await draft.keep())) return;
    const answer = await send({
      id,
      how,
      asked: [...asked],
      ...(how === "later" ? { at: new Date(at).toISOString() } : {}),
    });
    if (answer.data !== undefined)
      void navigate(answer.data.post === null ? "/mail?show=drafts" : `/mail/${answer.data.post}`);
  };
  const goOn = useEffectEvent((how: "now" | "later") => {
    setQueued(undefined);
    void submit(how);
  });
  useEffect(() => {
    if (queued !== undefined && isRested && !reckoning.isFetching) goOn(queued);
  }, [queued, isRested, reckoning.isFetching]);
  const addFiles = async (
    files: readonly File[],
    asPictures: boolean,
  ): Promise<readonly string[]> => {
    if (files.length === 0) return [];
    change({});
    if (!(await draft.keep())) return [];
    const sources: string[] = [];
    for (const file of files) {
      const { data } = await addFile({ id, file, inline: asPictures });
      if (data === undefined) continue;
      draft.setFiles((before) => [...before, data]);
      sources.push(`/api/drafts/${id}/files/${data.id}`);
    }
    return sources;
  };
  if (draft.state === "fetching") return <Loading what={t("mail.theDraft")} />;
  const leaving = {
    leftOut: content.leftOut,
    onLeaveOut: (leftOut: string[]) => change({ leftOut }),
  };
  const hasMore = more || content.cc.length + content.bcc.length > 0;
  return (
    <>
      <WriteHead content={content} draft={draft} change={change} />
      {draft.fault !== "" && (
        <p
          role="alert"
          className="mb-3 max-w-4xl rounded-md border border-marigold-line bg-marigold-soft px-3 py-2"
        >
          <Warn>{t("mail.itWasNotSentAt", { fault: draft.fault })}</Warn>
        </p>
      )}
      <Panel className="grid max-w-4xl gap-x-6 gap-y-3 p-3 md:p-4 2xl:max-w-none 2xl:grid-cols-[minmax(0,64rem)_minmax(22rem,1fr)]">
        <div
          onKeyDown={(event) => {
            if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) {
              event.preventDefault();
              void submit("now");
            }
          }}
          className="flex flex-col gap-3"
        >
          <div className="flex flex-wrap items-start gap-x-2">
            <div className="min-w-0 flex-1 basis-72">
              <TargetField
                label={t("mail.to2")}
                text={texts.to}
                onText={(to) => {
                  setUnsettled("");
                  setTexts((before) => ({ ...before, to }));
                }}
                targets={content.to}
                onChange={(to) => change({ to })}
                leaving={leaving}
                autoFocus={
                  given.to === "" &&
                  given.privately === "" &&
                  given.answer === "" &&
                  draft.state === "empty"
                }
              />
            </div>
            {!hasMore && (
              <Button look="quiet" tabIndex={-1} className="mt-6" onClick={() => setMore(true)}>
                {t("mail.ccBcc")}
              </Button>
            )}
            <Button look="quiet" tabIndex={-1} className="mt-6" onClick={() => setFinding(true)}>
              {t("mail.findPeople")}
            </Button>
          </div>
          {hasMore && (
            <CopyFields
              texts={texts}
              setUnsettled={setUnsettled}
              setTexts={setTexts}
              content={content}
              change={change}
              leaving={leaving}
            />
          )}
          <Reckoned counts={counts} isEmpty={isEmpty} />
          <Field
            label={t("mail.subject")}
            autoFocus={given.to !== "" || given.privately !== ""}
            value={content.subject}
            onChange={(event) => change({ subject: event.target.value })}
            maxLength={300}
          />
          <div>
            <span aria-hidden="true" className="mb-1 block text-[13px] font-[560]">
              {t("mail.text")}
            </span>
            <Editor html={content.html} onChange={(html) => change({ html })} onFiles={addFiles} />
          </div>
        </div>
        <div className="flex min-w-0 flex-col gap-3">
          <Files
            id={id}
            files={draft.files.filter(({ cid }) => cid === "")}
            isAdding={adding.isLoading}
            onAdd={(files) => void addFiles(files, false)}
            onDrop={(file) => {
              void dropFile({ id, file });
              draft.setFiles((before) => before.filter((one) => one.id !== file));
            }}
          />
          <SenderChoice content={content} isEmpty={isEmpty} change={change} />
          {unsettled !== "" && (
            <p role="alert" className="text-brick">
              {t("mail.nothingWasSent", { unsettled })}
            </p>
          )}
          <FaultLine
            error={
              sending.error ??
              adding.error ??
              draft.error ??
              list.error ??
              privately.error ??
              answered.error
            }
          />
          {sending.data?.outcome === "test" && (
            <p role="status" className="text-leaf-ink">
              {t("mail.aTestIsOnIts")}
            </p>
          )}
          <div className="flex flex-wrap items-center gap-2">
            <Button
              look="go"
              disabled={!isReady || sending.isLoading}
              onClick={() => void submit("now")}
            >
              {sending.isLoading
                ? t("mail.sending")
                : counts === undefined || counts.addresses === 0
                  ? t("mail.send")
                  : t("mail.sendToAddresses", { addresses: counts.addresses })}{" "}
              <kbd>{t("mail.ctrl")}</kbd>
            </Button>
            <Button
              disabled={!isReady || sending.isLoading}
              onClick={() => setPlanning(!planning)}
              aria-expanded={planning}
            >
              {t("mail.sendLater")}
            </Button>
            <Button
              disabled={isEmpty}
              onClick={() =>
                void draft.keep().then((kept) => {
                  if (kept) setPreviewing(true);
                })
              }
            >
              {t("mail.preview")}
            </Button>
            <Button
              disabled={content.html === "" || sending.isLoading}
              onClick={() =>
                void draft.keep().then((kept) => {
                  if (kept) void send({ id, how: "test", asked: [] });
                })
              }
            >
              {t("mail.sendATestToMe")}
            </Button>
          </div>
          {planning && <LaterForm submit={submit} at={at} setAt={setAt} isReady={isReady} />}
        </div>
      </Panel>
      {finding && (
        <FindPeople
          onClose={() => setFinding(false)}
          onTake={(people) => {
            setFinding(false);
            change({
              to: [
                ...content.to,
                ...people.filter(
                  ({ id: eachId }) => !content.to.some(({ id: other }) => other === eachId),
                ),
              ],
            });
          }}
        />
      )}
      {previewing && <PreviewDialog id={id} onClose={() => setPreviewing(false)} />}
      {asking !== undefined && (
        <AskFirst setAsking={setAsking} asks={asks} submit={submit} asking={asking} />
      )}
    </>
  );
}

/** A value once it has not changed for a while, and whether it is the one of now. */
function useRested<Value>(value: Value, rests: number): [Value, boolean] {
  const text = JSON.stringify(value);
  const [rested, setRested] = useState({ value, text });
  useEffect(() => {
    const timer = setTimeout(() => setRested({ value: JSON.parse(text) as Value, text }), rests);
    return () => clearTimeout(timer);
  }, [text, rests]);
  return [rested.value, rested.text === text];
}
