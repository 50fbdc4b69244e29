import type { Dispatch, SetStateAction } from "react";
import { Link } from "react-router";
import type { Me } from "@amigo/contract/accounts";
import type { RoundPage } from "@amigo/contract/rounds";
import { t } from "../texts/changes";
import { Button } from "../ui/Button";
import { PageHead } from "../ui/Page";
import { moment } from "../ui/time";

export function RoundHead({
  isOpen,
  round,
  from,
  me,
  setTaking,
}: {
  isOpen: boolean;
  round: RoundPage;
  from: string;
  me: Me;
  setTaking: Dispatch<SetStateAction<boolean>>;
}) {
  return (
    <PageHead
      title={t("changes.changes2")}
      line={
        <>
          {isOpen
            ? t("changes.roundFrom", { number: round.number, from })
            : t("changes.roundCarriedOut", {
                number: round.number,
                when: round.closedAt === null ? "" : moment(round.closedAt, me.timeZone),
                by: round.closedBy,
              })}
        </>
      }
    >
      {!isOpen && round.takenBackBy === null && (
        <Button onClick={() => setTaking(true)}>{t("changes.undo")}</Button>
      )}
      {!isOpen && round.takenBackBy !== null && (
        <Link
          to={`/changes/${round.takenBackBy}`}
          className="text-petrol underline underline-offset-2"
        >
          {t("changes.undoneByRound", { takenBackBy: round.takenBackBy })}
        </Link>
      )}
      {!isOpen && (
        <Link to="/changes" className="text-petrol underline underline-offset-2">
          {t("changes.goToTheOpenRound")}
        </Link>
      )}
      {isOpen && (
        <Link to="/changes/past" className="text-petrol underline underline-offset-2">
          {t("changes.pastRounds")}
        </Link>
      )}
    </PageHead>
  );
}
