import { Refusal } from "../http/fault";
import { t } from "../texts/t";

export const ranOut = (): Refusal =>
  new Refusal(401, "sign-in/ran-out", t("twoStep.thisSignInTookToo"));
