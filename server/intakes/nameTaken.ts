import { Refusal } from "../http/fault";
import { t } from "../texts/t";

export function nameTaken(name: string): Refusal {
  return new Refusal(409, "intake/name-taken", t("intakes.thereIsASheetCalled", { name }), "name");
}
