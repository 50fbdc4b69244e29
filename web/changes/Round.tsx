import { ChosenCause } from "./ChosenCause";
import { StepBar } from "./StepBar";
import { useRoundView } from "./useRoundView";
import { useCallback, useRef, useState } from "react";
import type { RoundPage } from "@amigo/contract/rounds";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { FaultLine } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { moment } from "../ui/time";
import { useKeys } from "../ui/Keys";
import { useNarrow } from "../ui/useNarrow";
import { CauseList } from "./CauseList";
import type { Decide } from "./Decision";
import { CorrectDialog } from "./CorrectDialog";
import { Filters } from "./Filters";
import { Guards, unpassed as stillToPass } from "../edits/Guards";
import { TakeBackDialog } from "./TakeBackDialog";
import { useDecideMutation, useStepMutation, type CausesOfRound } from "../data/rounds";
import { t } from "../texts/changes";
import { RoundHead } from "./RoundHead";
import { Done } from "./Done";

/** One round: its changes with what each does, the evidence of the chosen one, and the step bar. */
export function Round({
  round,
  done,
  onDone,
}: {
  round: RoundPage;
  done: string | undefined;
  onDone: (sentence: string) => void;
}) {
  const me = useMe();
  const view = useRoundView(round);
  const [decide, deciding] = useDecideMutation();
  const stepping = useStepRound(round, (sentence) => {
    view.setFilter("cause", "");
    onDone(sentence);
  });
  const [typed, setTyped] = useState<Record<string, string>>({});
  const button = useRef<HTMLButtonElement>(null);
  const [correcting, setCorrecting] = useState(false);
  const [taking, setTaking] = useState(false);
  const isOpen = round.state === "open";
  const { number } = round;
  const narrow = useNarrow();
  const { chosen, outline, page, rowNow } = view;
  // A narrow screen has room for one of the two: the list, or what was chosen from it.
  const showsDetail = !narrow || view.isAsked;
  const showsList = !narrow || !showsDetail;
  const put = useCallback<Decide>(
    (causes, decision) => {
      if (!isOpen) return;
      const meant = "key" in causes ? [causes.key] : choiceOf(causes);
      void decide({ round: number, causes: meant, decision });
    },
    [isOpen, number, decide],
  );
  const decideAndGo = (decision: "accepted" | "held"): void => {
    if (chosen === undefined) return;
    put(chosen, decision);
    view.chooseAfter();
  };
  useKeys({
    j: view.chooseNext,
    k: view.chooseBefore,
    a: () => decideAndGo("accepted"),
    h: () => decideAndGo("held"),
    s: () => button.current?.focus(),
    c: () => {
      if (isOpen && rowNow !== undefined) setCorrecting(true);
    },
    o: view.toggleClass,
  });
  const from = round.sources
    .map(({ name, readAt }) => t("changes.imported", { name, when: moment(readAt, me.timeZone) }))
    .join("; ");
  const fault = stepping.error ?? deciding.error;
  const close = (sentence: string): void => {
    setCorrecting(false);
    setTaking(false);
    onDone(sentence);
  };
  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <RoundHead isOpen={isOpen} round={round} from={from} me={me} setTaking={setTaking} />
      {done !== undefined && <Done sentence={done} />}
      {round.causes > 1 && (
        <div className="mb-2.5">
          <Filters
            round={round}
            filter={view.filter}
            onFilter={view.setFilter}
            shown={outline?.shown}
          />
        </div>
      )}
      {isOpen && (
        <HeldLine
          held={outline?.held ?? 0}
          isWaiting={deciding.isLoading}
          onAccept={() => put({ ...view.all, decision: "held" }, "accepted")}
        />
      )}
      {round.leftAlone.length > 0 && <LeftAlone round={round} />}
      {isOpen && (
        <Guards
          guards={round.guards}
          typed={typed}
          onType={(id, value) => setTyped({ ...typed, [id]: value })}
        />
      )}
      <div className="grid gap-3.5 md:grid-cols-[minmax(280px,430px)_minmax(0,1fr)] lg:min-h-[320px] lg:flex-1">
        {showsList && <CauseList view={view} decidable={isOpen} onDecide={put} />}
        {showsDetail && (
          <ChosenCause
            round={round}
            view={view}
            isNarrow={narrow}
            decidable={isOpen}
            onDecide={decideAndGo}
            onCorrect={() => setCorrecting(true)}
          />
        )}
      </div>
      {fault !== undefined && (
        <div className="mt-2">
          <FaultLine error={fault} />
        </div>
      )}
      <StepBar
        totals={round.totals}
        isOpen={isOpen}
        isStepping={stepping.isLoading}
        isWaiting={deciding.isLoading}
        unpassed={stillToPass(round.guards, typed).length}
        button={button}
        onStep={() => stepping.run(typed)}
        onStop={stepping.stop}
      />
      {correcting && rowNow !== undefined && page !== undefined && (
        <CorrectDialog
          sentence={page.sentence}
          row={rowNow}
          onClose={() => setCorrecting(false)}
          onDone={close}
        />
      )}
      {taking && (
        <TakeBackDialog number={round.number} onClose={() => setTaking(false)} onDone={close} />
      )}
    </div>
  );
}

/** Brings the lists in step and says what that came to; can be stopped while it runs. */
function useStepRound(round: RoundPage, onDone: (sentence: string) => void) {
  const [step, { isLoading, error }] = useStepMutation();
  const asking = useRef<{ abort: () => void }>(undefined);
  const run = async (typed: Readonly<Record<string, string>>): Promise<void> => {
    const request = step({
      round: round.number,
      version: round.version,
      passed: Object.fromEntries(round.guards.map(({ id }) => [id, Number(typed[id])])),
    });
    asking.current = request;
    const { data } = await request;
    if (data === undefined) return;
    const { lists, joins, leaves, next } = data;
    onDone(
      t("changes.listsBroughtInStepAddresses", {
        lists,
        joins,
        leaves,
        isNext: String(next === null),
      }),
    );
  };
  return {
    isLoading,
    error,
    run: (typed: Readonly<Record<string, string>>): void => void run(typed),
    stop: (): void => asking.current?.abort(),
  };
}

/** Returns a choice without its round, as the request for a decision wants it. */
function choiceOf({ round: _, ...choice }: CausesOfRound) {
  return choice;
}

/** How many of the changes on the screen are on hold, with a button that accepts them all. */
function HeldLine({
  held,
  isWaiting,
  onAccept,
}: {
  held: number;
  isWaiting: boolean;
  onAccept: () => void;
}) {
  if (held === 0) return null;
  return (
    <p className="mb-2.5 flex flex-wrap items-center gap-2.5 text-[13px]">
      <span>{t("changes.changesOnHoldUntilSomebody", { held })}</span>
      <Button className="min-h-[26px]! px-2!" disabled={isWaiting} onClick={onAccept}>
        {t("changes.acceptHeld", { held })}
      </Button>
    </p>
  );
}

function LeftAlone({ round }: { round: RoundPage }) {
  return (
    <details className="mb-2.5 rounded-md border border-marigold-line bg-marigold-soft px-3 py-1.5 text-[13px]">
      <summary className="cursor-pointer">
        <Warn>{t("changes.thingsLeftAsTheyAre", { leftAlone: round.leftAlone.length })}</Warn>
      </summary>
      <ul>
        {round.leftAlone.map((sentence) => (
          <li key={sentence} className="py-0.5">
            {sentence}
          </li>
        ))}
      </ul>
    </details>
  );
}
