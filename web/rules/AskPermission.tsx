import { useState, type FormEvent } from "react";
import { POINT_WORDS } from "@amigo/core/lists/listPoint";
import { ALL_RULES, wordsOf } from "@amigo/core/posting/rules/allRules";
import type { RuleId } from "@amigo/core/posting/rules/rule";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { useMe } from "../data/me";
import { useAskForMutation, type RequestWanted } from "../data/requests";
import { t } from "../texts/ui";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { FaultLine } from "../ui/Page";

/** What somebody may not choose by themselves, and asks a coordinator for. What waits for it goes on by itself after a yes. */
export function AskPermission({
  wanted,
  onAsked,
}: {
  wanted: Omit<RequestWanted, "why">;
  onAsked: (sentence: string) => void;
}) {
  const me = useMe();
  const [why, setWhy] = useState("");
  const [ask, asking] = useAskForMutation();
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const { data } = await ask({ ...wanted, why });
    if (data !== undefined)
      onAsked(
        t("ui.askedWhatWaitsForIt", { people: say(each(data.asked)) || t("ui.theCoordinators") }),
      );
  };
  const what =
    wanted.rule === "convention"
      ? t("ui.theName", { wanted: wanted.wanted })
      : t("ui.ruleAndValue", {
          rule: say(POINT_WORDS[wanted.rule]),
          value: say(valueOf(wanted.rule, wanted.wanted)),
        });
  return (
    <form
      onSubmit={(event) => void submit(event)}
      className="mt-3 flex flex-col gap-2 rounded-md border border-petrol bg-petrol-soft px-3.5 py-3"
      aria-label={t("ui.askForPermission")}
    >
      <p>
        <b className="font-[640]">
          {me.role === "coordinator" ? t("ui.allowItForThisList") : t("ui.askACoordinatorToAllow")}
        </b>
        <span className="block text-[13px] text-ink-2">{what}</span>
      </p>
      <Field
        label={t("ui.whatItIsFor")}
        value={why}
        onChange={(event) => setWhy(event.target.value)}
        maxLength={500}
        placeholder={t("ui.familiesAnswerFromTheirOwn")}
      />
      <FaultLine error={asking.error} />
      <div>
        <Button type="submit" look="go" disabled={why.trim() === "" || asking.isLoading}>
          {me.role === "coordinator" ? t("ui.putItToTheCoordinators") : t("ui.askForIt")}
        </Button>
      </div>
    </form>
  );
}

function valueOf(rule: RuleId, value: string): string {
  return ALL_RULES[rule].form === "choice"
    ? `"${say(wordsOf(rule, value))}"`
    : say(wordsOf(rule, value));
}
