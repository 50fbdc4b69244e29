import { Refusal } from "../http/fault";
import { t } from "../texts/t";

export const ranOut = (): Refusal =>
  new Refusal(422, "link/ran-out", t("shared.thisLinkWasUsedAlready"), "token");
