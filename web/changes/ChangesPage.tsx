import { useRef, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { counted } from "@amigo/core/text/sentence";
import type { CauseLine, RoundPage } from "@amigo/contract/rounds";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Empty, FaultLine, Loading, PageHead, Panel } from "../ui/Page";
import { Minus, Plus, Tilde } from "../ui/Signs";
import { moment } from "../ui/time";
import { useKeys } from "../ui/Keys";
import { CauseDetail } from "./CauseDetail";
import { CauseList } from "./CauseList";
import { groupCauses } from "./groupCauses";
import { Guards } from "./Guards";
import { PastRounds } from "./PastRounds";
import { useDecideMutation, useOpenRoundQuery, useRoundQuery, useStepMutation } from "../data/rounds";

/** The open round by cause, or a past one: what happened, which lists it touches, the evidence, the decision. */
export function ChangesPage() {
  const { number } = useParams();
  const open = useOpenRoundQuery(undefined, { skip: number !== undefined });
  const past = useRoundQuery(Number(number), { skip: number === undefined });
  const [done, setDone] = useState<string>();
  const { data, error } = number === undefined ? open : past;
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined) return <Loading what="the round" />;
  if (data === null) return (
    <>
      <PageHead title="Changes" line="Everything is in step" />
      {done !== undefined && <Done sentence={done} />}
      <Panel><Empty title="No round is open"><p>When a sheet is read and something in it has changed, it stands here to be decided. <Link className="text-petrol underline" to="/sources">Read a sheet</Link></p></Empty></Panel>
      <PastRounds />
    </>
  );
  return <Round key={data.number} round={data} done={done} onDone={setDone} />;
}

function Done({ sentence }: { sentence: string }) {
  return <p role="status" className="mb-3 rounded-md border border-leaf bg-leaf-soft px-3 py-2"><b className="text-leaf-ink">✓ </b>{sentence} <Link className="text-petrol underline" to="/">See the board</Link></p>;
}

function Round({ round, done, onDone }: { round: RoundPage; done: string | undefined; onDone: (sentence: string) => void }) {
  const me = useMe();
  const [search, setSearch] = useSearchParams();
  const [decide, deciding] = useDecideMutation();
  const [step, stepping] = useStepMutation();
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const button = useRef<HTMLButtonElement>(null);
  const isOpen = round.state === "open";
  const groups = groupCauses(round.causes);
  const visible = groups.flatMap((group) => (group.classes === undefined ? group.causes : group.classes.flatMap(({ name, causes }) => (opened.has(`${group.key} ${name}`) ? causes : []))));
  const asked = search.get("cause");
  const chosen = round.causes.find(({ position }) => String(position) === asked) ?? visible[0];
  const at = visible.findIndex((cause) => cause === chosen);
  const choose = (cause: CauseLine | undefined): void => {
    if (cause === undefined) return;
    setSearch((before) => { before.set("cause", String(cause.position)); return before; }, { replace: true });
    document.getElementById(`cause-${cause.position}`)?.scrollIntoView({ block: "nearest" });
  };
  const put = (causes: readonly CauseLine[], decision: "accepted" | "held"): void => { if (isOpen) void decide({ round: round.number, causes: causes.map(({ position }) => position), decision }); };
  const decideAndGo = (decision: "accepted" | "held"): void => { if (chosen !== undefined) { put([chosen], decision); choose(visible[at + 1]); } };
  useKeys({ j: () => choose(visible[Math.min(at + 1, visible.length - 1)]), k: () => choose(visible[Math.max(at - 1, 0)]), a: () => decideAndGo("accepted"), h: () => decideAndGo("held"), s: () => button.current?.focus() });
  const unpassed = round.guards.filter(({ id, count }) => Number(typed[id]) !== count || typed[id] === "");
  const run = async (): Promise<void> => {
    const answer = await step({ round: round.number, version: round.version, passed: Object.fromEntries(round.guards.map(({ id }) => [id, Number(typed[id])])) });
    if (answer.data === undefined) return;
    const { lists, joins, leaves, next } = answer.data;
    onDone(`${counted(lists, "list")} brought in step: ${counted(joins, "address", "addresses")} joined, ${leaves} left.${next === null ? "" : " What was held waits here."}`);
  };
  const { totals } = round;
  const from = round.sources.map(({ name, readAt }) => `${name}, read ${moment(readAt, me.timeZone)}`).join("; ");
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <PageHead title="Changes" line={<>Round {round.number}{isOpen ? `, from ${from}` : `, carried out ${round.closedAt === null ? "" : moment(round.closedAt, me.timeZone)}${round.closedBy === null ? "" : ` by ${round.closedBy}`}`}</>}>
        {!isOpen && <Link to="/changes" className="text-petrol underline underline-offset-2">To the open round</Link>}
      </PageHead>
      {done !== undefined && isOpen && <Done sentence={done} />}
      {isOpen && <Guards guards={round.guards} typed={typed} onType={(id, value) => setTyped({ ...typed, [id]: value })} />}
      <div className="grid min-h-[320px] flex-1 grid-cols-[minmax(320px,430px)_minmax(0,1fr)] gap-3.5">
        <CauseList groups={groups} opened={opened} onOpen={setOpened} chosen={chosen?.position} decidable={isOpen} onChoose={choose} onDecide={put} />
        <Panel scrolls="The cause in hand" className="min-w-0">{chosen === undefined ? <Empty title="Choose a cause"><p>Open a class on the left to see who joined, with the row of the sheet and the lists it touches.</p></Empty> : <CauseDetail round={round.number} version={round.version} cause={chosen} decidable={isOpen} onDecide={decideAndGo} />}</Panel>
      </div>
      {(deciding.error !== undefined || stepping.error !== undefined) && <div className="mt-2"><FaultLine error={stepping.error ?? deciding.error} /></div>}
      <div className="-mx-5 -mb-4 mt-3 flex items-center gap-5 border-t border-hair bg-panel px-5 py-2.5">
        <span><b className="font-[650]">{counted(totals.accepted + totals.held, "cause")}</b>: {totals.accepted} accepted, {totals.held} held</span>
        <span className="flex gap-3"><span><Plus count={totals.joins} />{totals.joins > 0 && " join"}</span><span><Minus count={totals.leaves} />{totals.leaves > 0 && " leave"}</span><span><Tilde count={totals.replaced} />{totals.replaced > 0 && ` ${totals.replaced === 1 ? "address" : "addresses"} replaced`}</span></span>
        {isOpen && <span className="ml-auto flex items-center gap-3">{unpassed.length > 0 && totals.accepted > 0 && <span className="text-marigold-ink">{counted(unpassed.length, "guard")} to pass above</span>}<Button ref={button} look="go" disabled={stepping.isLoading || deciding.isLoading || totals.accepted === 0 || unpassed.length > 0} onClick={() => void run()}>{stepping.isLoading ? "Bringing in step …" : totals.accepted === 0 ? "Everything is held" : totals.lists === 0 ? `Accept ${counted(totals.accepted, "cause")}` : `Bring ${counted(totals.lists, "list")} in step`}</Button></span>}
      </div>
    </div>
  );
}
