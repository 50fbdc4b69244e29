import { useNavigate } from "react-router";
import type { Board } from "@amigo/contract/board";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { whatNext } from "./whatNext";

/** One line on the board: what needs doing next, and the button that does it. */
export function NextStep({ board }: { board: Board }) {
  const me = useMe();
  const navigate = useNavigate();
  const step = me.role === "coordinator" ? whatNext(board) : undefined;
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
