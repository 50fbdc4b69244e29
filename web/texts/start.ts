import start from "@amigo/language/en/web/start.json";
import { plainly } from "@amigo/language/texts";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ start }, plainly);
