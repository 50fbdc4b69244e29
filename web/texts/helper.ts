import helper from "@amigo/language/en/web/helper.json";
import { plainly } from "@amigo/language/texts";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ helper }, plainly);
