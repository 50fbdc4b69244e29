import { refused, type Refused } from "../refused";
import { t } from "../texts/t";

export function nameTaken(name: string): Refused {
  return refused(409, "intake/name-taken", t("intakes.thereIsASheetCalled", { name }), "name");
}
