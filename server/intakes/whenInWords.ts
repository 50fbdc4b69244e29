import { say } from "@amigo/language/say";
import type { IntakeContent } from "@amigo/core/intake/intake";
import { scheduleInWords } from "@amigo/core/schedule/schedule";
import { t } from "../texts/t";

/** When approved rows are carried out, in words. */
export function whenInWords({ times }: IntakeContent): string {
  return times === null
    ? t("intakes.asSoonAsTheyAre")
    : say(scheduleInWords({ when: "times", ...times }));
}
