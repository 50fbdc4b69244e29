import accounts from "@amigo/language/en/web/accounts.json";
import { plainly } from "@amigo/language/texts";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ accounts }, plainly);
