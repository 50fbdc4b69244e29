import { useNavigate } from "react-router";
import type { Board } from "@amigo/contract/board";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { t } from "../texts/t";

interface Step {
  sentence: string;
  button: string;
  to: string;
}

/** One line on the board: what needs doing next, and the button that does it. */
export function NextStep({ board }: { board: Board }) {
  const me = useMe();
  const navigate = useNavigate();
  const step = me.role === "coordinator" ? nextStep(board) : undefined;
  if (step === undefined) return null;
  return (
    <p className="mb-2.5 flex flex-wrap items-center gap-x-3 gap-y-2 rounded-md border border-marigold-line bg-marigold-soft px-3 py-1.5">
      <span className="min-w-0 flex-1 basis-60">{step.sentence}</span>
      <Button look="go" onClick={() => void navigate(step.to)}>
        {step.button}
      </Button>
    </p>
  );
}

/** Returns the most urgent thing that the board shows, or nothing where all lists match and all families are reached. */
export function nextStep(board: Board): Step | undefined {
  if (board.openCauses > 0)
    return {
      sentence:
        board.outOfStep === 0
          ? t("board.yourSheetsHaveChangedReview")
          : t("board.listsFromYourSheetsReview", { outOfStep: board.outOfStep }),
      button: t("board.reviewChanges", { openCauses: board.openCauses }),
      to: "/changes",
    };
  const rows = board.sites.flatMap((site) => site.rows);
  if (rows.some(({ students, reached }) => reached < students))
    return {
      sentence: t("board.allListsAreInStep"),
      button: t("board.seeWhoIsMissing"),
      to: "/reach",
    };
  return undefined;
}
