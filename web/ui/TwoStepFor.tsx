import type { TwoStepFor as Wanted } from "@amigo/core/access/twoStep";
import { useHouseQuery } from "../data/house";
import { useAskForTwoStepMutation } from "../data/twoStep";
import { Choice } from "./Choice";
import { FaultLine } from "./Page";

const WANTED: readonly { value: Wanted; name: string }[] = [
  { value: "nobody", name: "nobody" },
  { value: "coordinators", name: "coordinators and site coordinators" },
  { value: "everybody", name: "everybody with an account" },
];

/** Whose sign-in needs a second step. */
export function TwoStepFor() {
  const { data: house } = useHouseQuery();
  const [change, { error }] = useAskForTwoStepMutation();
  if (house === undefined) return null;
  return (
    <div className="mb-3 flex flex-col gap-2">
      <p>
        Two-step sign-in is required for{" "}
        <Choice
          small
          label="Who needs two-step sign-in"
          value={house.twoStep}
          options={WANTED}
          onChange={(value) => void change(value)}
        />{" "}
        <span className="text-[13px] text-ink-2">
          Whoever hasn’t set it up yet is asked to at once, and can do nothing else before.
        </span>
      </p>
      <FaultLine error={error} />
    </div>
  );
}
