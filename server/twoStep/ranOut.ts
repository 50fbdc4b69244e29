import { refused, type Refused } from "../refused";
import { t } from "../texts/t";

export const ranOut = (): Refused =>
  refused(401, "sign-in/ran-out", t("twoStep.thisSignInTookToo"));
