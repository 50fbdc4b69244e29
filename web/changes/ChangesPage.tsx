import { useState } from "react";
import { Link, useLocation, useParams } from "react-router";
import { Empty, FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { PastRounds } from "./PastRounds";
import { useOpenRoundQuery, useRoundQuery } from "../data/rounds";
import { Rich, t } from "../texts/changes";
import { Done } from "./Done";
import { Round } from "./Round";

/** The open round by cause, or a past one: what happened, which lists it touches, the evidence, the decision. */
export function ChangesPage() {
  const { number } = useParams();
  return number === "past" ? <PastPage /> : <RoundPlace number={number} />;
}

/** The past rounds alone, when a round is open. */
function PastPage() {
  const [done, setDone] = useState<string>();
  return (
    <>
      <PageHead title={t("changes.pastRounds")} line={t("changes.setsOfChangesThatWere")}>
        <Link to="/changes" className="text-petrol underline underline-offset-2">
          {t("changes.goToTheOpenRound")}
        </Link>
      </PageHead>
      {done !== undefined && <Done sentence={done} />}
      <PastRounds onDone={setDone} />
    </>
  );
}

function RoundPlace({ number }: { number: string | undefined }) {
  const open = useOpenRoundQuery(undefined, { skip: number !== undefined });
  const past = useRoundQuery(Number(number), { skip: number === undefined });
  const imported = (useLocation().state as { imported?: string } | null)?.imported;
  const [done, setDone] = useState(imported === undefined ? undefined : `${imported}.`);
  const { data, error } = number === undefined ? open : past;
  if (error !== undefined) return <FaultPage error={error} />;
  if (data === undefined) return <Loading what={t("changes.theRound")} />;
  if (data === null)
    return (
      <>
        <PageHead title={t("changes.changes2")} line={t("changes.everythingIsInStep")} />
        {done !== undefined && <Done sentence={done} />}
        <Panel>
          <Empty title={t("changes.noRoundIsOpen")}>
            <p>
              <Rich
                id="changes.whenAnImportFindsSomething"
                link={(chunks) => (
                  <Link className="text-petrol underline" to="/sources">
                    {chunks}
                  </Link>
                )}
              />
            </p>
          </Empty>
        </Panel>
        <PastRounds onDone={setDone} />
      </>
    );
  return <Round key={data.number} round={data} done={done} onDone={setDone} />;
}
