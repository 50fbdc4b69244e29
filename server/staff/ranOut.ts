import { refused, type Refused } from "../refused";
import { t } from "../texts/t";

export const ranOut = (): Refused =>
  refused(422, "link/ran-out", t("shared.thisLinkWasUsedAlready"), "token");
