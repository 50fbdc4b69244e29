import member from "@amigo/language/en/web/member.json";
import { plainly } from "@amigo/language/texts";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ member }, plainly);
